import type { JobState } from "@fox-lamp/core/job";
import { parseShorthand } from "@fox-lamp/language";
import { type FormEvent, useState } from "react";
import { messages } from "../../messages";

const t = messages.bench;

/** Quantities a technician knows from elsewhere for a whole job: the air's temperature, a gauge. */
export type KnownQuantity = "temperature" | "pressure";

/** Whether a sensed quantity is one of those. */
export function isKnown(quantity: string): quantity is KnownQuantity {
  return quantity === "temperature" || quantity === "pressure";
}

interface Props {
  readonly quantity: KnownQuantity;
  readonly unit: string;
  readonly conditions: JobState["conditions"];
  readonly onSet: (conditions: JobState["conditions"]) => void;
}

/** What is known of the sensed quantity from elsewhere: it makes every prediction sharper. */
export function Known({ quantity, unit, conditions, onSet }: Props) {
  const known = conditions[quantity];
  const [text, setText] = useState(known === undefined ? "" : String(known));
  const parsed = parseShorthand(text);
  const changed = text.trim() === "" ? known !== undefined : parsed.ok && parsed.value !== "OL" && parsed.value !== known;
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    if (!changed) return;
    const { [quantity]: _dropped, ...rest } = conditions;
    onSet(parsed.ok && typeof parsed.value === "number" ? { ...rest, [quantity]: parsed.value } : rest);
  };
  return (
    <form onSubmit={submit} className="flex items-center gap-2 text-sm text-soft" title={t.knownHint}>
      <label className="flex items-center gap-2">
        {t.known[quantity]}
        <input
          value={text}
          onChange={(event) => setText(event.target.value)}
          inputMode="decimal"
          className="readout h-9 w-20 rounded-md border border-line bg-well px-2 text-right text-ink"
          aria-label={`${t.known[quantity]}, ${unit}. ${t.knownHint}`}
        />
        {unit}
      </label>
      {changed && (
        <button type="submit" className="h-9 rounded-md bg-lamp px-3 font-bold text-on-lamp">
          {t.set}
        </button>
      )}
    </form>
  );
}
