import { curveSlotOf } from "@fox-lamp/core";
import { pinWord } from "@fox-lamp/language";
import { useState } from "react";
import { messages } from "../../messages";
import { unitsAsWritten } from "../../ui/display";
import { Button, Select, TextArea, TextField } from "../../ui/form";
import { type ParameterField, spreadExample } from "./parameters";
import { type CurveField, SheetCurve } from "./SheetCurve";
import type { DraftState } from "./use-draft";
import { WhichReference } from "./WhichReference";

const t = messages.sheet;

/** Values a book gives with limits: what feeds the circuit and what pulls it up. */
const SPREADABLE: ReadonlySet<string> = new Set(["vref", "feedV", "pullupV", "biasV"]);

/** A parameter as people call it: its description, units as they are written. */
function labelOf({ label }: ParameterField): string {
  const words = unitsAsWritten(label).replace(/\s*\[lo, hi\]/u, t.lowestHighest);
  return `${words.charAt(0).toUpperCase()}${words.slice(1)}`;
}

/** One parameter of the circuit's family as a field: a curve, a choice, a reference, a number. */
export function Parameter({ field, state, curves }: { field: ParameterField; state: DraftState; curves: CurveField }) {
  const { draft, set, problems, family } = state;
  const value = draft.parameters[field.name] ?? "";
  const change = (text: string): void => set({ parameters: { ...draft.parameters, [field.name]: text } });
  const label = labelOf(field);
  const error = problems[field.name];
  const usual = field.usual === "" ? undefined : `${t.usual} ${field.usual.replaceAll("\n", "; ")}`;
  const slot = curveSlotOf(draft.family);
  if (slot !== null && slot.parameter === field.name)
    return <SheetCurve slot={slot} label={label} error={error} usual={field.usual} text={value} onText={change} {...curves} />;
  switch (field.kind) {
    case "choice":
      return (
        <Select
          label={label}
          value={value}
          error={error}
          options={[["", `${t.usual} ${field.usual}`], ...field.choices.map((choice) => [choice, choice] as const)]}
          onChange={change}
        />
      );
    case "list":
      return (
        <TextArea
          label={label}
          hint={`${t.listHint}${usual === undefined ? "" : `; ${usual}`}`}
          error={error}
          rows={4}
          value={value}
          onChange={(event) => change(event.target.value)}
          className="readout"
        />
      );
    case "pair":
    case "number":
      return field.name === family?.referenceParameter ? (
        <ReferenceField
          label={label}
          error={error}
          value={value}
          usual={usual}
          example={spreadExample(field.usual)}
          pin={pinWord(family.referenceParameter === "feedV" ? "feed" : "ref")}
          onChange={change}
        />
      ) : (
        <TextField
          label={label}
          error={error}
          value={value}
          placeholder={usual ?? (field.kind === "pair" ? t.pair : "")}
          hint={SPREADABLE.has(field.name) ? t.spreadHint(spreadExample(field.usual)) : undefined}
          inputMode="text"
          onChange={(event) => change(event.target.value)}
          className="readout"
        />
      );
  }
}

interface ReferenceFieldProps {
  readonly label: string;
  readonly value: string;
  readonly error: string | undefined;
  readonly usual: string | undefined;
  /** The usual value with how far it may be off, as it would be typed. */
  readonly example: string;
  readonly pin: string;
  readonly onChange: (text: string) => void;
}

/** What feeds the sensor: typed, or settled by measuring where no chart says it. */
function ReferenceField({ label, value, error, usual, example, pin, onChange }: ReferenceFieldProps) {
  const [asking, setAsking] = useState(false);
  return (
    <div className="grid content-start gap-1">
      <TextField
        label={label}
        error={error}
        value={value}
        placeholder={usual}
        hint={t.spreadHint(example)}
        onChange={(event) => onChange(event.target.value)}
        className="readout"
      />
      <Button weight="quiet" className="-ml-4 justify-self-start" onClick={() => setAsking(true)}>
        {t.which.ask}
      </Button>
      {asking && <WhichReference pin={pin} open onOpen={setAsking} onFound={(volts) => onChange(String(volts))} />}
    </div>
  );
}
