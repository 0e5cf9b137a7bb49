import { pinWord } from "@fox-lamp/language";
import { messages } from "../../messages";
import { Block, Button } from "../../ui/form";
import { CELL } from "./cell";
import type { DraftState } from "./use-draft";

const t = messages.sheet;

/** Cavity and colour of every pin. */
export function Pins({ state, onIdentify }: { state: DraftState; onIdentify: () => void }) {
  const { draft, family, set, views } = state;
  const own = views?.at(-1);
  const pins = own ? own.pins.filter(({ role }) => role !== "car-ground").map(({ pin }) => pin) : (family?.pins ?? []);
  if (pins.length === 0) return null;
  return (
    <Block
      title={t.pins}
      aside={
        <Button weight="quiet" onClick={onIdentify}>
          {t.identify}
        </Button>
      }
    >
      <div className="grid grid-cols-[1fr_6rem_1fr] items-center gap-2">
        <span className="text-sm text-soft">{t.pin}</span>
        <span className="text-sm text-soft">{t.cavity}</span>
        <span className="text-sm text-soft">{t.colour}</span>
        {pins.map((pin) => (
          <PinRow key={pin} pin={pin} draft={draft} set={set} />
        ))}
      </div>
    </Block>
  );
}

function PinRow({ pin, draft, set }: { pin: string; draft: DraftState["draft"]; set: DraftState["set"] }) {
  return (
    <>
      <span>
        {pinWord(pin, true)} <span className="readout text-sm text-soft">{pin}</span>
      </span>
      <input
        aria-label={`${t.cavity}: ${pinWord(pin)}`}
        value={draft.cavities[pin] ?? ""}
        onChange={(event) => set({ cavities: { ...draft.cavities, [pin]: event.target.value } })}
        className={`readout ${CELL}`}
      />
      <input
        aria-label={`${t.colour}: ${pinWord(pin)}`}
        value={draft.colours[pin] ?? ""}
        onChange={(event) => set({ colours: { ...draft.colours, [pin]: event.target.value } })}
        className={CELL}
      />
    </>
  );
}
