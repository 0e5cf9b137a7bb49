import { type CircuitView, formatPercent, isSoundLikely, type JobReading } from "@fox-lamp/core";
import { type Diagnosis, unitOfReading, type Value } from "@fox-lamp/language";
import { Link } from "react-router";
import { readingTitle, titleOf, valueText } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { ReadAgain } from "./ReadAgain";
import { Steps } from "./Steps";

const t = messages.bench;

interface Props {
  readonly job: string;
  readonly diagnosis: Diagnosis;
  readonly circuits: readonly CircuitView[];
  readonly readings: readonly JobReading[];
  readonly minutes: number;
  readonly recorded: boolean;
  /** The fault comes and goes: finding nothing means that it did not come. */
  readonly passing: boolean;
  readonly onRecord: () => void;
  /** Enters a reading that was taken once more. */
  readonly onAgain: (taken: JobReading, value: Value, unit?: string) => void;
}

/** The verdict as a proof: the unit, the readings that refute each rival, what is left open. */
export function VerdictPanel({ job, diagnosis, circuits, readings, minutes, recorded, passing, onRecord, onAgain }: Props) {
  const { verdict, verdicts = [], unexplained = [], confirm = [] } = diagnosis;
  const others = verdicts.filter(({ unit }) => unit !== verdict.unit);
  const nothing = verdict.status === "nothing-found";
  // What no reading settled is not called sound, whatever ended the search: what leads is named with its share.
  const unsettled = nothing && !passing && !isSoundLikely(verdict);
  const shareOf = (unit: string): string => {
    const share = diagnosis.units.find((one) => one.unit === unit)?.probability;
    return share === undefined || !unsettled ? "" : ` ${formatPercent(share)}`;
  };
  const sound = passing ? t.didNotShow : !unsettled ? t.nothingWrong : verdict.seen === undefined ? t.nothingSettled : t.onlyLooksBad;
  const named = verdict.group.length > 0 ? verdict.group : verdict.unit === null ? [] : [verdict.unit];
  const proof = readings
    .map(({ reading }) => ({ reading, cleared: verdict.refuted.filter(({ by }) => by[0] === reading.id).map(({ unit }) => titleOf(unit, circuits)) }))
    .filter(({ cleared }) => cleared.length > 0);
  return (
    <section aria-label={t.verdict} className="flex flex-col gap-4">
      <p className="text-sm font-bold text-lamp">{!nothing ? t.proven : passing ? t.notReproduced : t.nothingFound}</p>
      <h2 className="text-2xl font-bold leading-tight">{nothing ? sound : named.map((unit) => titleOf(unit, circuits)).join(" or ")}</h2>
      <p className="readout text-lg">
        {!(nothing && passing) && !unsettled && formatPercent(verdict.probability)} <span className="text-soft">after {Number(minutes.toFixed(0))} min</span>
      </p>
      {verdict.also && (
        <p className="rounded-xl bg-caution px-4 py-3 text-sm">{t.alsoBroken(titleOf(verdict.also.unit, circuits), formatPercent(verdict.also.probability))}</p>
      )}
      {others.length > 0 && (
        <p className="text-sm">
          {t.alsoProven}:{" "}
          {others.map(({ unit, group }) => (group.length > 0 ? group : [unit ?? ""]).map((name) => titleOf(name, circuits)).join(" or ")).join("; ")}
        </p>
      )}
      {unexplained.length > 0 && <p className="text-sm text-soft">{t.unexplained(unexplained.join(", "))}</p>}
      {verdict.separate && (
        <p className="text-sm text-soft">
          {t.group}. {verdict.separate}
        </p>
      )}
      <dl className="space-y-2 text-sm">
        {proof.map(({ reading, cleared }) => (
          <div key={reading.id} className="border-t border-line pt-2">
            <dt className="flex justify-between gap-3 font-bold">
              <span>
                <span className="readout text-soft">{reading.id}</span> {readingTitle(reading, circuits)}
              </span>
              <span className="readout whitespace-nowrap">{valueText(reading.value, unitOfReading(reading))}</span>
            </dt>
            <dd className="text-soft">{t.clears(cleared.join(", "))}</dd>
          </div>
        ))}
      </dl>
      {verdict.open.length > 0 && !(nothing && passing) && (
        <p className="text-sm text-soft">
          {t.stillOpen}: {verdict.open.map((unit) => `${titleOf(unit, circuits)}${shareOf(unit)}`).join(", ")}
        </p>
      )}
      {!recorded && <ReadAgain confirm={confirm} readings={readings} circuits={circuits} onAgain={onAgain} />}
      {(verdict.steps ?? []).length > 0 && (
        <div>
          <h3 className="text-sm font-bold text-soft">{t.stepsNow}</h3>
          <Steps steps={verdict.steps ?? []} />
        </div>
      )}
      <Link to={`/jobs/${job}/proof`} className="text-sm text-ink underline decoration-lamp underline-offset-4">
        {t.proofPage}
      </Link>
      {recorded ? (
        <>
          <p className="rounded-xl border border-line px-4 py-3 font-bold">{t.recorded}</p>
          <Link
            to={`/jobs/${job}/${nothing ? "check" : "repair"}`}
            className="grid min-h-14 place-items-center rounded-xl bg-lamp px-4 text-lg font-bold text-on-lamp no-underline"
          >
            {nothing ? messages.job.go.check : messages.job.go.repair}
          </Link>
        </>
      ) : (
        <button type="button" onClick={onRecord} className="h-14 w-full rounded-xl bg-lamp text-lg font-bold text-on-lamp">
          {t.record}
        </button>
      )}
    </section>
  );
}
