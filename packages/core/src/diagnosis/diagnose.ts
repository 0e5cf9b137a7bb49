import type { Diagnosis, Measurement, NextTest, Stake } from "@fox-lamp/language";
import { measurementOf, type Procedure } from "../tests";
import { formatPercent } from "../units";
import { EngineCache } from "./cache";
import type { Report } from "./case";
import { involvedUnits, pairShare, partnerOf } from "./involved";
import type { DiagnosedJob, NumberedReading } from "./job-part";
import { nextTestOf } from "./next";
import { openCase } from "./open-case";
import type { CircuitPosterior } from "./posterior";
import { doubtfulOf, suspectsOf, titleIn } from "./reasons";
import { possibleTestsOf, standingOf } from "./standing";
import { stakeOf, statusOf, testsNow, WRONG_MINUTES } from "./status";
import { rulesFor, stepsOf } from "./steps";

/** A doubtful reading is more likely slipped than not. */
const DOUBTFUL = 0.5;
const MOST_NEXT = 12;
const MOST_SUSPECTS = 12;

/**
 * Diagnoses a job: weighs its readings by physics, ranks suspects and tests, and declares a verdict when it is proven.
 *
 * @param cache engines kept from earlier calls; the result never depends on it
 * @param progress told before each stretch of work
 * @throws BadInput for circuits or readings that cannot be
 */
export function diagnoseJob(job: DiagnosedJob, cache: EngineCache = new EngineCache(), progress: Report = () => undefined): Diagnosis {
  const opened = openCase(job, cache, progress);
  progress(opened.parts.length, 2 * opened.parts.length, "tests");
  const { joint, numbered, readings, slips } = opened;
  const standing = standingOf(opened);
  const stake = stakeOf(opened, standing);
  const status = statusOf(opened, standing, stake);
  const done = status === "proven" || status === "nothing-found";
  const { group, refuted, open, beside, posterior } = standing;
  const doubtful = slips
    .filter(({ probability }) => probability > DOUBTFUL)
    .map(({ posterior: part, index, probability }) => doubtfulOf(part, index, probability, readings));
  const involved = involvedUnits(joint);
  const double = pairShare(joint) > 0.5;
  const leader = double ? (involved[0] ?? null) : null;
  const partner = leader === null ? null : partnerOf(joint, leader.unit);
  const tests = testsNow(opened, standing, stake);
  const separate = double ? null : separateWords(group, posterior);
  const anyone = posterior ?? (joint.circuits[0] as CircuitPosterior);
  const steps = stepsOf({
    status,
    names: (leader === null ? group : [leader.unit]).filter((unit) => !unit.endsWith("/outside")).map((unit) => titleIn(anyone, unit)),
    partner: partner === null ? null : titleIn(anyone, partner.unit),
    open: open.filter(({ unit }) => unit !== "").map(({ unit, posterior: part }) => titleIn(part, unit)),
    doubtful,
    separate,
    rules: rulesFor(
      leader === null ? group : [leader.unit],
      job.policy,
      new Map(job.circuits.map(({ id, family }) => [id, family])),
      numbered.some(({ reading }) => reading["pierced"] === true),
    ),
  });
  return {
    format: "fox-lamp/diagnosis@1",
    verdict: {
      status,
      unit: posterior === null || status === "nothing-found" ? null : (leader?.unit ?? group[0] ?? null),
      probability: leader?.probability ?? Math.min(1, standing.groupProbability),
      group: double || group.length < 2 ? [] : [...group],
      open: double ? alsoOpen(involved) : [...open.map(({ unit }) => unit), ...beside].filter((unit) => unit !== ""),
      because: [...new Set(refuted.flatMap(({ by }) => by))].sort(byOrder(numbered)),
      separate,
      refuted: refuted.filter(({ unit }) => !unit.includes("&")).map(({ unit, by }) => ({ unit, by })),
      ...(partner === null ? {} : { also: partner }),
      ...(steps.length === 0 ? {} : { steps }),
    },
    units: involved,
    suspects: mergedSuspects(joint.circuits.flatMap((part) => suspectsOf(part, readings))).slice(0, MOST_SUSPECTS),
    doubtful,
    stake: done ? null : stakeWords(job, involved[0] ?? null, posterior, tests[0]?.test.minutes ?? null),
    next: done ? [] : tests.slice(0, MOST_NEXT).map(({ posterior: part, test }): NextTest => nextTestOf(part, test)),
  };
}

/** A test that can be done now, with its minutes, whatever it would tell. */
export interface PossibleMeasurement {
  readonly measurement: Measurement;
  readonly technique: Procedure["technique"];
  readonly minutes: number;
}

/** Every test that can be done now: what baselines choose from. */
export function possibleMeasurements(job: DiagnosedJob, cache: EngineCache): PossibleMeasurement[] {
  return possibleTestsOf(openCase(job, cache)).flatMap((tests) =>
    tests.map(({ offered: { procedure }, minutes }) => ({ measurement: measurementOf(procedure), technique: procedure.technique, minutes })),
  );
}

/** Suspects of the same name once (a pair is tried at several severities), the likeliest first. */
function mergedSuspects(suspects: Diagnosis["suspects"]): Diagnosis["suspects"] {
  const byFault = new Map<string, Diagnosis["suspects"][number]>();
  for (const suspect of suspects) {
    const known = byFault.get(suspect.fault);
    if (known === undefined) byFault.set(suspect.fault, { ...suspect });
    else known.probability = Math.min(1, known.probability + suspect.probability);
  }
  return [...byFault.values()].sort((a, b) => b.probability - a.probability);
}

/** What replacing the likeliest part now would risk; null where nothing could be replaced. */
function stakeWords(job: DiagnosedJob, first: Diagnosis["units"][number] | null, posterior: CircuitPosterior | null, nextMinutes: number | null): Stake | null {
  if (first === null || posterior === null || first.unit.includes("/outside")) return null;
  const wrong = 1 - first.probability;
  const lossMinutes = Number((wrong * WRONG_MINUTES).toFixed(1));
  const rate = job.policy?.["moneyPerHour"];
  const lossMoney = typeof rate === "number" && rate > 0 ? Number(((lossMinutes / 60) * rate).toFixed(2)) : null;
  const title = titleIn(posterior, first.unit);
  const loss = lossMoney === null ? `${lossMinutes} min` : `${lossMinutes} min (${lossMoney.toFixed(2)})`;
  const next = nextMinutes === null ? "" : ` The next test takes ${Number(nextMinutes.toFixed(1))} min.`;
  const sentence = `Replacing "${title.toLowerCase()}" now would be wrong in ${formatPercent(wrong)} of such cases: ${loss} lost on average.${next}`;
  return { unit: first.unit, title, wrong, lossMinutes, nextMinutes, lossMoney, sentence };
}

/** Units that may be the second fault, or the only one. */
function alsoOpen(involved: Diagnosis["units"]): string[] {
  return involved.slice(1).flatMap(({ unit, probability }) => (probability > 0.02 ? [unit] : []));
}

function byOrder(readings: readonly NumberedReading[]): (a: string, b: string) => number {
  const place = new Map(readings.map(({ id }, index) => [id, index]));
  return (a, b) => (place.get(a) ?? 0) - (place.get(b) ?? 0);
}

function separateWords(group: readonly string[], posterior: CircuitPosterior | null): string | null {
  if (group.length < 2 || posterior === null) return null;
  const names = group.map((unit) => titleIn(posterior, unit).toLowerCase());
  const some = (text: string): boolean => group.some((unit) => unit.includes(text));
  const ways: string[] = [];
  if (some("@module") || some("/module:")) ways.push("opening the module's connector and inspecting the bare pin");
  if (some("/contact:") && !some("@module")) ways.push("inspecting the bare terminals");
  if (some("/sensor") || some("/outside")) ways.push("fitting a known-good part, or an independent measurement of what it senses");
  if (ways.length === 0) ways.push("inspecting each by eye along its length");
  return `${names.join(", ")} read alike with these tests; ${ways.join(", or ")} would separate them.`;
}
