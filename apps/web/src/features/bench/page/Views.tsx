import { formatPercent } from "@fox-lamp/core";
import { messages } from "../../../messages";

const t = messages.bench;

/** What a narrow screen shows of the bench. */
export type View = "test" | "suspects" | "readings";

interface Props {
  readonly view: View;
  readonly onView: (view: View) => void;
  /** The leading suspicion, 0 to 1. */
  readonly leading: number;
  readonly readings: number;
}

/** Where there is no room for all of the bench side by side: the test, the suspects or the readings. */
export function Views({ view, onView, leading, readings }: Props) {
  const views: readonly (readonly [View, string, string])[] = [
    ["test", t.views.test, ""],
    ["suspects", t.views.suspects, formatPercent(leading)],
    ["readings", t.views.readings, String(readings)],
  ];
  return (
    <div role="tablist" aria-label={t.views.label} className="grid grid-cols-3 border-b border-line lg:hidden">
      {views.map(([name, word, detail]) => (
        <button
          key={name}
          type="button"
          role="tab"
          aria-selected={view === name}
          onClick={() => onView(name)}
          className={`min-h-11 border-b-3 px-1 ${view === name ? "border-lamp font-bold text-ink" : "border-transparent text-soft"}`}
        >
          {word} {detail !== "" && <span className="readout text-sm font-normal">{detail}</span>}
        </button>
      ))}
    </div>
  );
}
