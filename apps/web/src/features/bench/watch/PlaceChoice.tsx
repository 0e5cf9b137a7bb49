import { messages } from "../../../messages";
import { placeText } from "./lines";

interface Props {
  readonly places: readonly string[];
  readonly place: string | null;
  readonly onPlace: (place: string | null) => void;
}

/** What is being moved; nothing at first. */
export function PlaceChoice({ places, place, onPlace }: Props) {
  return (
    <fieldset className="m-0 flex flex-wrap items-center gap-2 border-0 p-0">
      <legend className="mb-1 text-sm text-soft">{messages.watch.places}</legend>
      {[null, ...places].map((name) => (
        <button
          key={name ?? "none"}
          type="button"
          aria-pressed={place === name}
          onClick={() => onPlace(name)}
          className={`h-12 rounded-xl border px-4 ${place === name ? "border-lamp font-bold text-ink" : "border-edge text-soft"}`}
        >
          {placeText(name)}
        </button>
      ))}
    </fieldset>
  );
}
