import type { CircuitView, JobReading } from "@fox-lamp/core";
import type { Diagnosis, Value } from "@fox-lamp/language";
import { useState } from "react";
import { readingTitle, setupText } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { ValueForm } from "../entry/ValueForm";

const t = messages.bench;

interface Props {
  readonly confirm: NonNullable<Diagnosis["confirm"]>;
  readonly readings: readonly JobReading[];
  readonly circuits: readonly CircuitView[];
  readonly onAgain: (taken: JobReading, value: Value, unit?: string) => void;
}

/** The reading a verdict hangs on, with a field to read it once more before anything is replaced. */
export function ReadAgain({ confirm, readings, circuits, onAgain }: Props) {
  const [open, setOpen] = useState(false);
  const [first] = confirm;
  const taken = readings.find(({ reading }) => reading.id === first?.reading);
  if (first === undefined || taken === undefined) return null;
  const { reading } = taken;
  const setup = setupText(reading.setup ?? {}, circuits);
  return (
    <section aria-label={t.readAgain} className="flex flex-col gap-2 rounded-xl bg-caution px-4 py-3">
      <p className="m-0 text-sm">{first.why}</p>
      {open ? (
        <>
          <p className="m-0 text-sm font-bold">
            {readingTitle(reading, circuits)}
            {setup !== "" && <span className="font-normal text-soft"> · {setup}</span>}
          </p>
          <ValueForm
            reading={reading}
            label={t.readAgainOf(reading.id)}
            submit={t.take}
            onValue={(value, unit) => onAgain(taken, value, unit)}
            onClose={() => setOpen(false)}
          />
        </>
      ) : (
        <button type="button" onClick={() => setOpen(true)} className="min-h-11 self-start rounded-lg border border-lamp px-4 font-bold text-ink">
          {t.readAgain}
        </button>
      )}
    </section>
  );
}
