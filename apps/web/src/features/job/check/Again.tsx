import type { JobReading } from "@fox-lamp/core";
import { type Expect, type Measurement, unitOfReading, type Value } from "@fox-lamp/language";
import { X } from "lucide-react";
import type { NamedCircuit } from "../../../circuit/names-of";
import { readingTitle, setupText, valueText, windowText, within } from "../../../circuit/wording";
import { messages } from "../../../messages";
import type { Work } from "../shared/JobFrame";
import { ValueEntry } from "./ValueEntry";

const t = messages.check;

/** A reading's test without its value. */
export function measurementIn({ reading }: Pick<JobReading, "reading">): Measurement {
  const { circuit, meter, red, black, setup, unit, record, coupling } = reading;
  return {
    meter,
    red,
    ...(circuit === undefined ? {} : { circuit }),
    ...(black === undefined ? {} : { black }),
    ...(setup === undefined ? {} : { setup }),
    ...(unit === undefined ? {} : { unit }),
    ...(record === undefined ? {} : { record }),
    ...(coupling === undefined ? {} : { coupling }),
  };
}

/** What a test showed before and after, beside what is sound. */
function BeforeAfter({ before, after, sound, fits }: { before: string; after: string; sound: string; fits: boolean | null }) {
  const columns = [
    { name: t.before, value: before, tone: "text-ember" },
    { name: t.after, value: after, tone: fits === false ? "text-ember" : "text-calm" },
    { name: t.sound, value: sound, tone: "text-lamp" },
  ];
  return (
    <dl className="m-0 mt-2 grid grid-cols-3 gap-2 text-center">
      {columns.map(({ name, value, tone }) => (
        <div key={name} className="rounded-lg border border-line px-2 py-1.5">
          <dt className="text-sm text-soft">{name}</dt>
          <dd className={`readout m-0 font-bold ${tone}`}>{value}</dd>
        </div>
      ))}
    </dl>
  );
}

interface Props {
  readonly taken: JobReading;
  readonly expect: Expect | null | undefined;
  readonly circuits: readonly NamedCircuit[];
  readonly work: Work;
}

/** One failed test, before and after. */
export function Again({ taken, expect, circuits, work }: Props) {
  const { job, state, enter } = work;
  const { reading } = taken;
  const unit = unitOfReading(reading);
  const title = readingTitle(reading, circuits);
  const done = state.verifications.filter(({ of }) => of === taken.entry).at(-1);
  const keep = (value: Value): void => {
    const fits = within(value, expect);
    enter({
      kind: "verification",
      body: {
        text: t.repeated(title, valueText(reading.value, unit), valueText(value, unit)),
        check: "repeat",
        of: taken.entry,
        measurement: measurementIn(taken),
        before: reading.value,
        value,
        ...(fits === null ? {} : { fits }),
      },
    });
  };
  const after = done?.value;
  return (
    <li className="border-t border-line py-3 first:border-t-0">
      <div className="flex items-start gap-2">
        <p className="m-0 flex-1 font-bold">
          <span className="readout text-soft">{reading.id}</span> {title}
          <span className="block text-sm font-normal text-soft">{setupText(reading.setup ?? {}, circuits)}</span>
        </p>
        {done === undefined && (
          <button
            type="button"
            aria-label={`${t.notToRepeat}: ${reading.id}`}
            title={t.notToRepeat}
            onClick={() => enter({ kind: "failed", body: { reading: taken.entry, failed: false } })}
            className="grid size-11 shrink-0 place-items-center text-soft hover:text-ink"
          >
            <X size={18} aria-hidden="true" />
          </button>
        )}
      </div>
      <BeforeAfter
        before={valueText(reading.value, unit)}
        after={after === undefined ? "–" : valueText(after, unit)}
        sound={windowText(expect)}
        fits={done?.fits ?? null}
      />
      {done?.fits !== undefined && (
        <p className={`m-0 mt-1 text-sm ${done.fits ? "text-calm" : "text-ember"}`}>{done.fits ? `✓ ${t.fits}` : `✕ ${t.fitsNot}`}</p>
      )}
      <ValueEntry job={job.id} measurement={measurementIn(taken)} label={`${t.after}: ${title}`} connected={job.simulated} onValue={keep} />
    </li>
  );
}
