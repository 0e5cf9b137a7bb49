import { answerAlong, type Calculated, type Calculator, type CalculatorField, calculate } from "@fox-lamp/core";
import { useId, useMemo, useState } from "react";
import { messages } from "../../../messages";
import { Block, Button, Select, TextField } from "../../../ui/form";
import { Drawing } from "./Drawing";
import { beginning, inUnit, shownIn, symbolOf, type Typed, unitFor, unitsOf, valuesOf } from "./numbers";

const t = messages.shelf;

interface FieldProps {
  readonly field: CalculatorField;
  readonly typed: Typed;
  readonly asked: boolean;
  readonly error: string | undefined;
  readonly onTyped: (typed: Typed) => void;
}

/** One number with its unit; the one that is computed says so. */
function NumberField({ field, typed, asked, error, onTyped }: FieldProps) {
  const { id, title } = field;
  const units = unitsOf(field);
  return (
    <div className={`grid items-end gap-2 ${units.length > 1 ? "grid-cols-[1fr_6.5rem]" : "grid-cols-1"}`}>
      <TextField
        label={units.length === 1 ? [title, symbolOf(field.unit)].filter(Boolean).join(", ") : title}
        inputMode="decimal"
        placeholder={asked ? t.empty : undefined}
        value={typed.texts[id] ?? ""}
        error={error}
        onChange={(event) => onTyped({ ...typed, texts: { ...typed.texts, [id]: event.target.value } })}
      />
      {units.length > 1 && (
        <Select
          label={t.unitOf(title)}
          quiet
          options={units.map((unit) => [unit, symbolOf(unit)] as const)}
          value={typed.units[id] ?? field.unit}
          onChange={(unit) => onTyped(inUnit(typed, field, unit))}
        />
      )}
    </div>
  );
}

/** The answer, large, with its limits and what else follows. */
function Answer({ calculator, typed, answer }: { calculator: Calculator; typed: Typed; answer: Calculated }) {
  const field = calculator.fields.find(({ id }) => id === answer.field);
  if (field === undefined) return null;
  const shown = (value: number): string => shownIn(value, field.unit, typed.units[field.id] ?? field.unit);
  return (
    <>
      <p className="m-0 text-soft">{field.title}</p>
      <p className="readout m-0 text-4xl font-bold text-lamp">{shown(answer.value)}</p>
      {answer.high > answer.low && <p className="readout m-0 mt-1 text-sm">{t.between(shown(answer.low), shown(answer.high))}</p>}
      {answer.also.length > 0 && (
        <>
          <h3 className="m-0 mt-4 text-sm font-bold text-soft">{t.also}</h3>
          <dl className="m-0 mt-1">
            {answer.also.map(({ title, value, unit }) => (
              <div key={title} className="flex flex-wrap justify-between gap-x-4 border-b border-line py-1 last:border-0">
                <dt>{title}</dt>
                <dd className="readout m-0">{shownIn(value, unit, unitFor(value, unit))}</dd>
              </div>
            ))}
          </dl>
        </>
      )}
    </>
  );
}

interface Props {
  readonly calculator: Calculator;
  /** Numbers it was opened with, in base units. */
  readonly given: Readonly<Record<string, number>>;
  /** Keeps the result with the job it was opened from. */
  readonly onNote?: ((text: string) => void) | undefined;
  /** Sends the result to the bench of the job it was opened from. */
  readonly onUse?: ((as: "read" | "expect", text: string) => void) | undefined;
}

/** What was computed from what, in a line. */
function resultText({ title, fields }: Calculator, typed: Typed, values: Readonly<Record<string, number>>, answer: Calculated): string {
  const told = (field: CalculatorField, value: number): string =>
    `${field.title.toLowerCase()} ${shownIn(value, field.unit, typed.units[field.id] ?? field.unit)}`;
  const given = fields.flatMap((field) => (values[field.id] === undefined ? [] : [told(field, values[field.id] as number)]));
  const asked = fields.find(({ id }) => id === answer.field) as CalculatorField;
  return t.noteText(title, given.join(", "), told(asked, answer.value));
}

/** Units a reading of the bench can have. */
const BENCH_UNITS: ReadonlySet<string> = new Set(["V", "ohm", "A", "Hz", "%", "degC", "kPa"]);

function sentText(value: number, unit: string): string {
  return `${Number(value.toPrecision(5))} ${unit}`;
}

/** A window to be expected: the tolerance's own, or a twentieth to either side where none is given. */
function windowText({ value, low, high }: Calculated, unit: string): string {
  return high > low ? `${Number(low.toPrecision(5))} to ${sentText(high, unit)}` : `${sentText(value, unit)} ± 5 %`;
}

/** A calculator: its numbers, the one that is left empty computed as they are typed, drawn over one of them. */
export function CalculatorForm({ calculator, given, onNote, onUse }: Props) {
  const [typed, setTyped] = useState<Typed>(() => beginning(calculator, given));
  const heading = useId();
  const { given: values, wrong } = valuesOf(calculator, typed);
  const tolerance = Number(typed.tolerance.replace(",", "."));
  const tolerant = calculator.fields.some((field) => field.tolerant === true && values[field.id] !== undefined);
  const found = wrong.length > 0 ? null : calculate(calculator, values, Number.isFinite(tolerance) && tolerance >= 0 && tolerance < 100 ? tolerance / 100 : 0);
  const answer = found?.ok ? found.answer : null;
  const problem = found !== null && !found.ok ? found.problem : null;
  const key = JSON.stringify(values);
  const points = useMemo(() => answerAlong(calculator, JSON.parse(key) as Record<string, number>, calculator.along), [calculator, key]);
  const along = calculator.fields.find(({ id }) => id === calculator.along);
  const asked = calculator.fields.find(({ id }) => id === answer?.field);
  const errorOf = (id: string): string | undefined =>
    wrong.includes(id) ? t.notNumber : problem?.code === "limits" && problem.field === id ? problem.message : undefined;
  const here = answer === null || values[calculator.along] === undefined ? null : { x: values[calculator.along] as number, y: answer.value };
  return (
    <section aria-labelledby={heading} className="min-w-0">
      <h2 id={heading} className="m-0 text-xl font-bold">
        {calculator.title}
      </h2>
      <p className="m-0 mb-3 text-soft">{calculator.about}</p>
      <div className="grid gap-3 lg:grid-cols-2">
        <Block title={t.numbers} aside={<Button onClick={() => setTyped(beginning(calculator, {}))}>{t.again}</Button>}>
          <div className="grid gap-3">
            {calculator.fields.map((field) => (
              <NumberField key={field.id} field={field} typed={typed} asked={answer?.field === field.id} error={errorOf(field.id)} onTyped={setTyped} />
            ))}
            {tolerant && (
              <TextField
                label={t.tolerance}
                inputMode="decimal"
                value={typed.tolerance}
                onChange={(event) => setTyped({ ...typed, tolerance: event.target.value })}
              />
            )}
          </div>
        </Block>
        <Block title={t.answer}>
          <div aria-live="polite">
            {answer !== null && <Answer calculator={calculator} typed={typed} answer={answer} />}
            {problem !== null && problem.code !== "limits" && <p className="m-0">{`${problem.message[0]?.toUpperCase()}${problem.message.slice(1)}.`}</p>}
          </div>
          {answer !== null && asked !== undefined && (onNote !== undefined || onUse !== undefined) && (
            <div className="mt-4 flex flex-wrap gap-2">
              {onNote !== undefined && (
                <Button weight="next" onClick={() => onNote(resultText(calculator, typed, values, answer))}>
                  {t.note}
                </Button>
              )}
              {onUse !== undefined && BENCH_UNITS.has(asked.unit) && (
                <>
                  <Button onClick={() => onUse("read", sentText(answer.value, asked.unit))}>{t.asReading}</Button>
                  <Button onClick={() => onUse("expect", windowText(answer, asked.unit))}>{t.asExpected}</Button>
                </>
              )}
            </div>
          )}
        </Block>
        {answer !== null && along !== undefined && asked !== undefined && (
          <Block title={t.drawing(asked.title.toLowerCase(), along.title.toLowerCase())}>
            <Drawing
              points={points}
              here={here}
              along={[along.title, symbolOf(along.unit)].filter(Boolean).join(", ")}
              answer={[asked.title, symbolOf(asked.unit)].filter(Boolean).join(", ")}
            />
          </Block>
        )}
        <Block title={t.formula}>
          <p className="readout m-0">{calculator.formula}</p>
          <p className="m-0 mt-2 text-sm text-soft">{`${t.source}: ${calculator.source}.`}</p>
        </Block>
      </div>
    </section>
  );
}
