import type { EntryOf } from "@fox-lamp/language";
import { messages } from "../../../messages";
import { numberIn, Select, TextField } from "../../../ui/form";

const t = messages.repair;

/** A repair of wires as it is being described. */
export interface WiringDraft {
  readonly stretch: string;
  readonly wires: string;
  readonly how: "" | "spliced" | "replaced" | "loom";
  readonly sleeve: string;
  readonly routing: string;
}
export const NO_WIRING: WiringDraft = { stretch: "", wires: "", how: "", sleeve: "", routing: "" };

/** A repair of wires for the record; undefined where nothing was said of them. */
export function wiringOf({ stretch, wires, how, sleeve, routing }: WiringDraft): EntryOf<"repair">["body"]["wiring"] {
  const count = numberIn(wires);
  const said = {
    ...(stretch.trim() === "" ? {} : { stretch: stretch.trim() }),
    ...(typeof count === "number" && Number.isInteger(count) && count >= 0 ? { wires: count } : {}),
    ...(how === "" ? {} : { how }),
    ...(sleeve.trim() === "" ? {} : { sleeve: sleeve.trim() }),
    ...(routing.trim() === "" ? {} : { routing: routing.trim() }),
  };
  return Object.keys(said).length === 0 ? undefined : said;
}

/** What was done to wires: between which places, how many, spliced or replaced, protected how, led where. */
export function WiringFields({ draft, onDraft, loomFrom }: { draft: WiringDraft; onDraft: (part: Partial<WiringDraft>) => void; loomFrom: number }) {
  const count = numberIn(draft.wires);
  return (
    <fieldset className="m-0 mb-3 mt-2 grid gap-3 border-0 p-0 sm:grid-cols-2">
      <legend className="mb-2 font-bold">{t.wiring}</legend>
      <TextField label={t.stretch} value={draft.stretch} onChange={(event) => onDraft({ stretch: event.target.value })} />
      <TextField
        label={t.wiresDone}
        inputMode="numeric"
        value={draft.wires}
        error={count === undefined ? messages.notANumber(draft.wires) : undefined}
        hint={typeof count === "number" && count >= loomFrom && draft.how !== "loom" ? t.loomRule(count, loomFrom) : undefined}
        onChange={(event) => onDraft({ wires: event.target.value })}
      />
      <Select
        label={t.wiringHow}
        value={draft.how}
        options={[
          ["", messages.facts.unknown],
          ["spliced", t.wiringWays.spliced],
          ["replaced", t.wiringWays.replaced],
          ["loom", t.wiringWays.loom],
        ]}
        onChange={(how) => onDraft({ how })}
      />
      <TextField label={t.sleeve} value={draft.sleeve} onChange={(event) => onDraft({ sleeve: event.target.value })} />
      <div className="sm:col-span-2">
        <TextField label={t.routing} value={draft.routing} onChange={(event) => onDraft({ routing: event.target.value })} />
      </div>
    </fieldset>
  );
}
