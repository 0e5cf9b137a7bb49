import { type Circuit, unitKindOf, unitOfFault } from "@fox-lamp/language";
import { completeSheets, FAMILIES, familyById } from "../circuit";
import { Session } from "../diagnosis";
import { percentile, type Random, seededRandom } from "../numeric";
import { type CarLife, drawCar, type HiddenCar, STEADY } from "./car";
import { foreignCircuits } from "./foreign";
import { type History, type KnownModel, knownModel, PATTERN_SHARE } from "./history";
import { NOTHING, type Solved, type Strategy, solveCar } from "./solve";

export const WORLDS = ["own", "foreign"] as const;
type World = (typeof WORLDS)[number];

export interface TrialOptions {
  readonly jobs: number;
  readonly seed: number;
  /** Families to draw from; all when empty. */
  readonly families: readonly string[];
  /** Share of readings that are slipped. */
  readonly blunders: number;
  /** Share of jobs with two faults at once. */
  readonly doubles?: number;
  /** Share of jobs whose fault is missed by three readings in ten, which the technician knows. */
  readonly intermittents?: number;
  /** Chance that the first unplugging cures a bad contact. */
  readonly cures?: number;
  /** Share of jobs whose temperatures and pressures nobody knows at the start. */
  readonly unstated?: number;
  /** Whose model the hidden cars are drawn from: the engine's own with complete sheets, or another one with sheets that say little. */
  readonly world?: World;
  readonly strategy?: Strategy;
  /** Cars are of models that usually fail in one unit, and the shop has closed jobs on them: what it knows of that. Left out: any car. */
  readonly history?: History | undefined;
  /** A clock in milliseconds, for the time an advice takes. */
  readonly clock: () => number;
}

/** How often a reading misses an intermittent fault. */
const MISSES = 0.3;

export type TrialJob = Omit<Solved, "times"> & { readonly family: string };

/** Results of a trial, as the command line prints them. */
export interface TrialResult {
  readonly jobs: number;
  readonly right: number;
  readonly wrong: number;
  readonly undecided: number;
  /** Of the wrong ones: verdicts that name a fault that is there as the second one. */
  readonly namedSecond: number;
  readonly meanTests: number;
  readonly meanMinutes: number;
  readonly meanGroup: number;
  readonly calibration: readonly { readonly said: number; readonly was: number; readonly n: number }[];
  readonly msPerAdvice: { readonly p50: number; readonly p99: number };
}

/** The circuits of a trial job of a family: usually the one; a shared reference brings its branches along. */
function bareCircuits(family: string, random: Random): Circuit[] {
  if (familyById(family)?.traits.kind !== "reference") return [{ id: "circuit", family }];
  const join = random.uniform() < 0.5 ? "module" : "S1";
  const branch = (id: string, kind: string): Circuit => ({ id, family: kind, shares: { ref: "bus", join } });
  return [{ id: "bus", family }, branch("map", "pressure-3w"), branch("tps", "potentiometer-3w"), branch("egr", "potentiometer-3w")];
}

/** The same with sheets that say everything. */
export function trialCircuits(family: string, random: Random): Circuit[] {
  return completeSheets(bareCircuits(family, random));
}

/** A car of another maker, of which the technician's sheet says little. */
function foreignCar(family: string, random: Random, life: CarLife): HiddenCar {
  const { actual, sheet } = foreignCircuits(bareCircuits(family, random), random);
  return { ...drawCar(actual, random, { ...life, foreign: true }), circuits: sheet, actual };
}

/** Runs hidden-fault jobs and calls `onJob` with each; the sums are returned. */
export function runTrial(options: TrialOptions, onJob: (job: TrialJob) => void = () => undefined): TrialResult {
  const families = options.families.length === 0 ? FAMILIES.map(({ id }) => id) : options.families;
  const drawn = seededRandom(options.seed);
  const cache = new Session();
  const times: number[] = [];
  const solved: TrialJob[] = [];
  // Models are drawn apart from the cars, so that the same cars are met whatever the shop knows of them.
  const models = new Map<string, KnownModel>();
  const modelOf = (family: string): KnownModel | null => {
    if (options.history === undefined) return null;
    const known =
      models.get(family) ??
      knownModel(completeSheets(bareCircuits(family, seededRandom(options.seed))), family, options.history, seededRandom(options.seed + models.size));
    models.set(family, known);
    return known;
  };
  for (let index = 0; index < options.jobs; index += 1) {
    // Where histories are compared, every job has its own chance: what one takes longer does not change the next.
    const random = options.history === undefined ? drawn : seededRandom(options.seed + 7919 * (index + 1));
    const chance = (share = 0): boolean => share > 0 && random.uniform() < share;
    const family = families[index % families.length];
    const intermittent = chance(options.intermittents);
    const model = modelOf(family);
    const pattern = model !== null && random.uniform() < PATTERN_SHARE ? model.pattern : undefined;
    const life = { ...STEADY, pattern, misses: intermittent ? MISSES : 0, double: !intermittent && chance(options.doubles), cures: options.cures ?? 0 };
    const car = options.world === "foreign" ? foreignCar(family, random, life) : drawCar(trialCircuits(family, random), random, life);
    const { clock, blunders, strategy = "advice" } = options;
    const { times: own, ...rest } = solveCar(
      car,
      { clock, blunders, strategy, intermittent, stated: !chance(options.unstated), learnt: model?.learnt },
      random,
      cache,
    );
    times.push(...own);
    const job: TrialJob = { family, ...rest };
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
    namedSecond: solved.filter(({ outcome, truth, verdict }) => outcome === "wrong" && unitsOf(truth).includes(verdict.also?.unit ?? "")).length,
    meanTests: mean((job) => job.readings.length),
    meanMinutes: mean((job) => job.minutes),
    meanGroup: proven.length === 0 ? 0 : Number((proven.reduce((sum, { verdict }) => sum + Math.max(1, verdict.group.length), 0) / proven.length).toFixed(3)),
    calibration: calibrate(solved),
    msPerAdvice: { p50: Number(percentile(times, 0.5).toFixed(2)), p99: Number(percentile(times, 0.99).toFixed(2)) },
  };
}

/** The units of the hidden faults. */
function unitsOf(truth: string): string[] {
  return truth.split("&").map((id) => unitOfFault(id));
}

/** Groups jobs by the probability said of the leading unit or group at the end, and how often it was right. */
function calibrate(jobs: readonly TrialJob[]): TrialResult["calibration"] {
  const edges = [0, 0.5, 0.8, 0.9, 0.95, 0.99, 1.000001];
  return edges.slice(1).flatMap((high, index) => {
    const low = edges[index];
    const members = jobs.filter(({ verdict }) => verdict.probability >= low && verdict.probability < high);
    if (members.length === 0) return [];
    const right = members.filter(({ verdict, truth }) =>
      truth === NOTHING || (verdict.unit === null && unitsOf(truth).every((unit) => unitKindOf(unit) === "outside"))
        ? verdict.unit === null
        : unitsOf(truth).some((unit) => verdict.unit === unit || verdict.group.includes(unit)),
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
