import type { JobState } from "@fox-lamp/core";
import { parseShorthand } from "@fox-lamp/language";
import { type FormEvent, useState } from "react";
import { looksLikeAltitude } from "../../../circuit/facts";
import { messages } from "../../../messages";
import { shownValue, typedValue, unitLabel } from "../../../ui/display";

const t = messages.bench;

/** Quantities a technician knows from elsewhere for a whole job: the air's temperature, a gauge. */
export type KnownQuantity = "temperature" | "pressure";

/** Whether a sensed quantity is one of those. */
export function isKnown(quantity: string): quantity is KnownQuantity {
  return quantity === "temperature" || quantity === "pressure";
}

const BASE_UNITS: Readonly<Record<KnownQuantity, string>> = { temperature: "degC", pressure: "kPa" };

interface Props {
  readonly quantity: KnownQuantity;
  /** The pressure asked for is absolute: a gauge against the air outside shows another figure. */
  readonly absolute: boolean;
  readonly conditions: JobState["conditions"];
  readonly onSet: (conditions: JobState["conditions"]) => void;
}

/** What is known of the sensed quantity from elsewhere: it makes every prediction sharper. */
export function Known({ quantity, absolute, conditions, onSet }: Props) {
  const label = quantity === "pressure" && absolute ? t.absolutePressure : t.known[quantity];
  const hint = quantity === "pressure" ? (absolute ? t.absoluteHint : t.gaugeHint) : t.knownHint;
  const known = conditions[quantity];
  const base = BASE_UNITS[quantity];
  const unit = unitLabel(base);
  const [text, setText] = useState(known === undefined ? "" : String(Number(shownValue(known, base).toPrecision(4))));
  const parsed = parseShorthand(text);
  const fits = parsed.ok && parsed.value !== "OL" && (parsed.unit === null || parsed.unit === base);
  const typed = !fits || typeof parsed.value !== "number" ? null : parsed.unit === null ? typedValue(parsed.value, base) : parsed.value;
  const against = absolute && typed !== null && typed < 0;
  const problem =
    text.trim() === ""
      ? null
      : looksLikeAltitude(text)
        ? messages.facts.isAltitude(text)
        : against
          ? t.notAbsolute(text)
          : fits
            ? null
            : messages.facts.wrongUnit(text, unit);
  const changed = text.trim() === "" ? known !== undefined : problem === null && typed !== null && (known === undefined || Math.abs(typed - known) > 0.05);
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    if (!changed) return;
    const { [quantity]: _dropped, ...rest } = conditions;
    onSet(typed === null ? rest : { ...rest, [quantity]: typed });
  };
  return (
    <form onSubmit={submit} className="flex flex-wrap items-center gap-2 text-sm text-soft" title={hint}>
      <label className="flex items-center gap-2">
        {label}
        <input
          value={text}
          onChange={(event) => setText(event.target.value)}
          inputMode="decimal"
          aria-invalid={problem !== null}
          className="readout h-11 w-20 rounded-md border border-edge bg-well px-2 text-right text-ink"
          aria-label={`${label}, ${unit}. ${hint}`}
        />
        {unit}
      </label>
      {changed && (
        <button type="submit" className="h-11 rounded-md bg-lamp px-3 font-bold text-on-lamp">
          {t.set}
        </button>
      )}
      {problem !== null && (
        <p role="alert" className="m-0 basis-full text-ember">
          {problem}
        </p>
      )}
    </form>
  );
}
