import { canRepeat, failedReadings, measurementOf } from "@fox-lamp/core";
import { circuitOfUnit, type NextTest, unitOfReading, type Value } from "@fox-lamp/language";
import { useMemo } from "react";
import { namedCircuits } from "../../../circuit/names-of";
import { useAnalysis, useWindows } from "../../../circuit/use-analysis";
import { readingTitle, setupText, testTitle, valueText, windowText, within } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { Select } from "../../../ui/form";
import type { Work } from "../shared/JobFrame";
import { useDiagnosed } from "../shared/use-diagnosed";
import { Again, measurementIn } from "./Again";
import { ValueEntry } from "./ValueEntry";

const t = messages.check;

/** Units fitted before proof of which no repeated test speaks. */
function unprovenCircuits({ state }: Work): readonly string[] {
  const repeated = new Set(failedReadings(state).map(({ reading }) => reading.circuit));
  return [...new Set(state.decisions.flatMap(({ decision, unit }) => (decision === "override" && unit ? [circuitOfUnit(unit)] : [])))].filter(
    (circuit) => !repeated.has(circuit),
  );
}

/** What a part fitted before proof still owes: the test that shows whether it was the cause. */
function Owed({ test, work }: { test: NextTest; work: Work }) {
  const { job, state, enter } = work;
  const circuits = namedCircuits(job.circuits);
  const measurement = measurementOf(test);
  const unit = unitOfReading(test);
  const title = testTitle(test, circuits);
  const same = JSON.stringify(measurement);
  const done = state.verifications.filter((made) => made.of === undefined && JSON.stringify(made.measurement) === same).at(-1);
  const keep = (value: Value): void => {
    const fits = within(value, test.expect);
    enter({
      kind: "verification",
      body: { text: t.shows(title, valueText(value, unit)), check: "repeat", measurement, value, ...(fits === null ? {} : { fits }) },
    });
  };
  return (
    <section aria-label={t.owed} className="mt-3 rounded-lg border border-line px-3 py-2">
      <p className="m-0 text-sm text-soft">{t.owed}</p>
      <p className="m-0 font-bold">{title}</p>
      <p className="m-0 text-sm text-soft">
        {setupText(test.setup, circuits)}. {t.sound}: {windowText(test.expect)}
      </p>
      {done?.value !== undefined && (
        <p className="m-0 mt-1">
          {valueText(done.value, unit)} {done.fits === undefined ? "" : done.fits ? `✓ ${t.fits}` : `✕ ${t.fitsNot}`}
        </p>
      )}
      <ValueEntry job={job.id} measurement={measurement} label={title} connected={job.simulated} onValue={keep} />
    </section>
  );
}

/** The tests that failed, again: those that prove the verdicts, and any that somebody adds. */
export function Repeats({ work }: { work: Work }) {
  const { job, state, enter } = work;
  const circuits = useMemo(() => namedCircuits(job.circuits), [job.circuits]);
  const failed = failedReadings(state);
  const diagnosed = useDiagnosed(work);
  const windows = useWindows(failed.length === 0 ? null : diagnosed, failed.map(measurementIn));
  const owing = unprovenCircuits(work);
  const { analysis } = useAnalysis(owing.length === 0 ? null : diagnosed);
  const owed = owing.flatMap((circuit) => analysis?.diagnosis.next.find((test) => test.circuit === circuit) ?? []);
  const others = state.readings.filter((taken) => canRepeat(taken) && !failed.includes(taken));
  return (
    <>
      {failed.length === 0 && <p className="m-0 text-soft">{t.noRepeat}</p>}
      <ol className="m-0 list-none p-0">
        {failed.map((taken, index) => (
          <Again key={taken.entry} taken={taken} expect={windows?.[index]} circuits={circuits} work={work} />
        ))}
      </ol>
      {owed.map((test) => (
        <Owed key={test.test} test={test} work={work} />
      ))}
      {others.length > 0 && (
        <div className="mt-3 max-w-md">
          <Select
            label={t.addTest}
            value=""
            options={[
              ["", t.chooseTest],
              ...others.map(
                ({ entry, reading }) =>
                  [entry, `${reading.id}, ${readingTitle(reading, circuits)}: ${valueText(reading.value, unitOfReading(reading))}`] as const,
              ),
            ]}
            onChange={(entry) => (entry === "" ? undefined : enter({ kind: "failed", body: { reading: entry, failed: true } }))}
          />
        </div>
      )}
    </>
  );
}
