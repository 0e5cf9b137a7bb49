import type { Circuit, Diagnosis, Measurement, NextTest, Reading, Value } from "@fox-lamp/language";
import { FAMILIES } from "../circuit";
import { diagnoseJob, EngineCache } from "../diagnosis";
import { percentile, type Random, seededRandom } from "../numeric";
import { measurementOf } from "../tests";
import { drawCar, type HiddenCar } from "./car";

export interface TrialOptions {
  readonly jobs: number;
  readonly seed: number;
  /** Families to draw from; all when empty. */
  readonly families: readonly string[];
  /** Share of readings that are slipped. */
  readonly blunders: number;
  /** A clock in milliseconds, for the time an advice takes. */
  readonly clock: () => number;
}

export interface TrialJob {
  readonly family: string;
  readonly truth: string;
  readonly severity: number;
  readonly outcome: "right" | "wrong" | "undecided";
  readonly verdict: Diagnosis["verdict"];
  readonly readings: readonly Reading[];
  readonly minutes: number;
}

/** Results of a trial, as the command line prints them. */
export interface TrialResult {
  readonly jobs: number;
  readonly right: number;
  readonly wrong: number;
  readonly undecided: number;
  readonly meanTests: number;
  readonly meanMinutes: number;
  readonly meanGroup: number;
  readonly calibration: readonly { readonly said: number; readonly was: number; readonly n: number }[];
  readonly msPerAdvice: { readonly p50: number; readonly p99: number };
}

const MOST_TESTS = 30;
const NOTHING = "nothing";

function slip(measurement: Measurement, value: Value, car: HiddenCar, random: Random): Value {
  if (typeof value !== "number") return value;
  switch (random.below(4)) {
    case 0:
      return measurement.meter === "volts-dc" ? -value : value * 1000;
    case 1:
      return value * (random.uniform() < 0.5 ? 1000 : 0.001);
    case 2:
      return measurement.meter === "volts-dc" ? 0 : value * 0.1;
    default: {
      if (measurement.meter === "ohms") return "OL";
      return car.read({ ...measurement, setup: { ...measurement.setup, key: "off" } });
    }
  }
}

function take(car: HiddenCar, test: NextTest, id: string, blunders: number, random: Random): Reading {
  const measurement: Measurement = { id, ...measurementOf(test) };
  const shown = car.read(measurement);
  const value = random.uniform() < blunders ? slip(measurement, shown, car, random) : shown;
  return { ...measurement, value };
}

/** Follows the advice on one hidden car until a verdict, or until nothing useful is left. */
function solveOne(car: HiddenCar, options: TrialOptions, random: Random, cache: EngineCache, times: number[]): Omit<TrialJob, "family"> {
  const circuits = [...car.circuits];
  const conditions = car.stated;
  const readings: Reading[] = [];
  const repeated = new Set<string>();
  let minutes = 0;
  let diagnosis = diagnoseTimed({ circuits, readings, conditions }, options, cache, times);
  while (readings.length < MOST_TESTS) {
    const doubt = diagnosis.doubtful.find(({ reading }) => !repeated.has(reading));
    if (doubt) {
      const again = readings.find(({ id }) => id === doubt.reading) as Reading;
      repeated.add(doubt.reading);
      const id = `r${readings.length}`;
      repeated.add(id);
      const { value: _value, ...measurement } = again;
      readings.push({ ...measurement, id, value: car.read(measurement) });
      minutes += 0.7;
    } else {
      const [test] = diagnosis.next;
      if (!test) break;
      readings.push(take(car, test, `r${readings.length}`, options.blunders, random));
      minutes += test.minutes;
    }
    diagnosis = diagnoseTimed({ circuits, readings, conditions }, options, cache, times);
  }
  const truth = car.hidden?.fault.unit ?? NOTHING;
  return {
    truth: car.hidden?.fault.id ?? NOTHING,
    severity: car.hidden?.severity ?? 0,
    outcome: judge(diagnosis, truth),
    verdict: diagnosis.verdict,
    readings,
    minutes,
  };
}

/** The circuits of a trial job of a family: usually the one; a shared reference brings its branches along. */
export function trialCircuits(family: string, random: Random): Circuit[] {
  if (family !== "reference-bus") return [{ id: "circuit", family }];
  const join = random.uniform() < 0.5 ? "module" : "S1";
  const branch = (id: string, kind: string): Circuit => ({ id, family: kind, shares: { ref: "bus", join } });
  return [{ id: "bus", family }, branch("map", "pressure-3w"), branch("tps", "potentiometer-3w"), branch("egr", "potentiometer-3w")];
}

function diagnoseTimed(job: Parameters<typeof diagnoseJob>[0], options: TrialOptions, cache: EngineCache, times: number[]): Diagnosis {
  const start = options.clock();
  const diagnosis = diagnoseJob(job, cache);
  times.push(options.clock() - start);
  return diagnosis;
}

function judge({ verdict }: Diagnosis, truth: string): TrialJob["outcome"] {
  if (verdict.status === "nothing-found") return truth === NOTHING ? "right" : verdict.open.includes(truth) ? "undecided" : "wrong";
  if (verdict.status !== "proven") return "undecided";
  return verdict.unit === truth || verdict.group.includes(truth) ? "right" : "wrong";
}

/** Runs hidden-fault jobs and calls `onJob` with each; the sums are returned. */
export function runTrial(options: TrialOptions, onJob: (job: TrialJob) => void = () => undefined): TrialResult {
  const families = options.families.length === 0 ? FAMILIES.map(({ id }) => id) : options.families;
  const random = seededRandom(options.seed);
  const cache = new EngineCache(4);
  const times: number[] = [];
  const solved: TrialJob[] = [];
  for (let index = 0; index < options.jobs; index += 1) {
    const family = families[index % families.length] as string;
    const car = drawCar(trialCircuits(family, random), random);
    const job: TrialJob = { family, ...solveOne(car, options, random, cache, times) };
    solved.push(job);
    onJob(job);
  }
  const count = (outcome: TrialJob["outcome"]): number => solved.filter((job) => job.outcome === outcome).length;
  const mean = (of: (job: TrialJob) => number): number =>
    solved.length === 0 ? 0 : Number((solved.reduce((sum, job) => sum + of(job), 0) / solved.length).toFixed(3));
  const proven = solved.filter(({ verdict }) => verdict.status === "proven");
  return {
    jobs: solved.length,
    right: count("right"),
    wrong: count("wrong"),
    undecided: count("undecided"),
    meanTests: mean((job) => job.readings.length),
    meanMinutes: mean((job) => job.minutes),
    meanGroup: proven.length === 0 ? 0 : Number((proven.reduce((sum, { verdict }) => sum + Math.max(1, verdict.group.length), 0) / proven.length).toFixed(3)),
    calibration: calibrate(solved),
    msPerAdvice: { p50: Number(percentile(times, 0.5).toFixed(2)), p99: Number(percentile(times, 0.99).toFixed(2)) },
  };
}

/** Groups jobs by the probability said of the leading unit or group at the end, and how often it was right. */
function calibrate(jobs: readonly TrialJob[]): TrialResult["calibration"] {
  const edges = [0, 0.5, 0.8, 0.9, 0.95, 0.99, 1.000001];
  return edges.slice(1).flatMap((high, index) => {
    const low = edges[index] as number;
    const members = jobs.filter(({ verdict }) => verdict.probability >= low && verdict.probability < high);
    if (members.length === 0) return [];
    const unitOf = (truth: string): string => truth.split("/").slice(0, 2).join("/");
    const right = members.filter(({ verdict, truth }) =>
      truth === NOTHING ? verdict.unit === null : verdict.unit === unitOf(truth) || verdict.group.includes(unitOf(truth)),
    ).length;
    return [
      {
        said: Number((members.reduce((sum, { verdict }) => sum + verdict.probability, 0) / members.length).toFixed(4)),
        was: Number((right / members.length).toFixed(4)),
        n: members.length,
      },
    ];
  });
}
