import type { Diagnosis, Reading } from "@fox-lamp/language";
import { statedWorld } from "../circuit";
import { scaleOf } from "../instruments";
import { formatPercent } from "../units";
import { predictedInterval, storedShare } from "./intervals";
import { membersOf } from "./involved";
import type { CircuitPosterior } from "./posterior";
import { nameSlip } from "./slips";
import { REFUTED_LOG, unitSingle } from "./verdict";
import { describePredicted, describeValue, shownUnit, unitTitle } from "./words";

type Suspect = Diagnosis["suspects"][number];
type Doubtful = Diagnosis["doubtful"][number];

/** A reading speaks for or against a fault from these likelihood ratios on. */
const FOR_RATIO = Math.log(2);
const AGAINST_RATIO = Math.log(1 / 3);
const LEAST_PROBABILITY = 5e-4;
/** Points lighter than this share of the heaviest say nothing any more. */
const LEAST_WEIGHT = 1e-12;

/**
 * Readings that make a unit unlikely against the best one, the strongest first: each by itself, or all together where none
 * does alone.
 *
 * @param singles from {@link singlesOf}
 */
export function refutedBy(posterior: CircuitPosterior, unit: number, best: number, singles: readonly Float64Array[]): string[] {
  const against = posterior.observations
    .map(({ id }, index) => {
      const single = singles[index] as Float64Array;
      return { id, weight: (single[unit] as number) - (single[best] as number) };
    })
    .sort((a, b) => a.weight - b.weight);
  const alone = against.filter(({ weight }) => weight < 0.5 * REFUTED_LOG);
  return [...new Set((alone.length > 0 ? alone : against).map(({ id }) => id))];
}

/** log P(one reading alone | unit) for every reading and unit of a set of circuits. */
export function singlesOf({ observations, evidence, engine }: CircuitPosterior): Float64Array[] {
  return observations.map((_, index) => unitSingle(engine.points, evidence.single, observations.length, index));
}

/** Log weights of points before one reading was taken. */
export function withoutReading(posterior: CircuitPosterior, index: number): Float64Array {
  const { engine, evidence, observations } = posterior;
  const out = new Float64Array(engine.points.count);
  for (let point = 0; point < out.length; point += 1) {
    const single = evidence.single[point * observations.length + index] as number;
    out[point] = (engine.points.logPrior[point] as number) + (evidence.logLikelihood[point] as number) - single;
  }
  return out;
}

/** For every fault, the log of how much better it predicted a reading than all other hypotheses together did. */
function logRatios(posterior: CircuitPosterior, index: number, before: Float64Array): Float64Array {
  const { exp, log, max } = Math;
  const { engine, evidence, observations } = posterior;
  const { points } = engine;
  let top = Number.NEGATIVE_INFINITY;
  for (const weight of before) top = max(top, weight);
  const prior = new Float64Array(points.faults.length);
  const joint = new Float64Array(points.faults.length);
  let priorSum = 0;
  let jointSum = 0;
  for (let point = 0; point < before.length; point += 1) {
    const weight = exp((before[point] as number) - top);
    if (weight < LEAST_WEIGHT) continue;
    const likely = weight * exp(evidence.single[point * observations.length + index] as number);
    const fault = points.fault[point] as number;
    prior[fault] = (prior[fault] as number) + weight;
    joint[fault] = (joint[fault] as number) + likely;
    priorSum += weight;
    jointSum += likely;
  }
  return prior.map((weight, fault) => {
    const rest = max(1e-300, (jointSum - (joint[fault] as number)) / max(1e-300, priorSum - weight));
    return weight === 0 ? 0 : log(max(1e-300, (joint[fault] as number) / weight)) - log(rest);
  });
}

/** The likeliest faults of a circuit, each with the readings that speak for and against it and one sentence why. */
export function suspectsOf(posterior: CircuitPosterior, readings: ReadonlyMap<string, Reading>): Suspect[] {
  const { engine, observations } = posterior;
  const { points } = engine;
  const order = [...posterior.faults.keys()]
    .filter((fault) => fault !== 0 && (posterior.faults[fault] as number) > LEAST_PROBABILITY)
    .sort((a, b) => (posterior.faults[b] as number) - (posterior.faults[a] as number))
    .slice(0, 12);
  const before = observations.map((_, index) => withoutReading(posterior, index));
  const all = observations.map((_, index) => logRatios(posterior, index, before[index] as Float64Array));
  return order.map((fault): Suspect => {
    const ratios = all.map((byFault) => byFault[fault] as number);
    const probability = Math.min(1, posterior.faults[fault] as number);
    const strongest = ratios.reduce((best, ratio, index) => (Math.abs(ratio) > Math.abs(ratios[best] ?? 0) ? index : best), 0);
    return {
      fault: points.faults[fault]?.id ?? "",
      probability,
      for: observations.filter((_, index) => (ratios[index] as number) > FOR_RATIO).map(({ id }) => id),
      against: observations.filter((_, index) => (ratios[index] as number) < AGAINST_RATIO).map(({ id }) => id),
      why:
        observations.length === 0
          ? priorSentence(probability)
          : readingSentence(posterior, fault, strongest, ratios[strongest] as number, before[strongest] as Float64Array, readings),
    };
  });
}

function priorSentence(probability: number): string {
  return probability > 0.08
    ? "Common in circuits of this kind; nothing has been measured yet."
    : "Possible in circuits of this kind; nothing has been measured yet.";
}

function readingSentence(
  posterior: CircuitPosterior,
  fault: number,
  index: number,
  ratio: number,
  before: Float64Array,
  readings: ReadonlyMap<string, Reading>,
): string {
  const { engine, observations } = posterior;
  const observation = observations[index];
  const reading = observation === undefined ? undefined : readings.get(observation.id);
  if (observation === undefined || reading === undefined) return "";
  const top = before.reduce((most, weight) => Math.max(most, weight), Number.NEGATIVE_INFINITY);
  const weightOf = (point: number): number => (engine.points.fault[point] === fault ? Math.exp((before[point] as number) - top) + 1e-300 : 0);
  const stored = storedShare(observation.table, engine.points.count, weightOf);
  if (stored !== null) return codeSentence(observation.id, reading.value === "stored", stored);
  const predicted = predictedInterval(posterior, observation.table, weightOf);
  if (predicted === null) return "";
  const value = describeValue(reading, shownUnit(observation.table));
  const says = describePredicted(predicted, observation.table);
  if (ratio < AGAINST_RATIO) return `It predicts ${says} for ${observation.id}, but you read ${value}.`;
  if (ratio > FOR_RATIO) return `It predicts ${says} for ${observation.id}; you read ${value}.`;
  return `It predicts ${says} for ${observation.id}; ${value} fits, and fits others as well.`;
}

/** What a code says of a fault: how often it would have set it. */
export function codeSentence(code: string, isStored: boolean, stored: number): string {
  return isStored
    ? `It would have set ${code} in ${formatPercent(stored)} of cases.`
    : `With it there would be ${code} in ${formatPercent(1 - stored)} of cases.`;
}

/** How many of the hypotheses that remain are asked what slip would make the reading fit them. */
const ASKED = 6;

/** A doubtful reading with the likeliest slip, judged by the best hypotheses that remain without it. */
export function doubtfulOf(posterior: CircuitPosterior, index: number, probability: number, readings: ReadonlyMap<string, Reading>): Doubtful {
  const { engine, observations } = posterior;
  const observation = observations[index] as (typeof observations)[number];
  const reading = readings.get(observation.id) as Reading;
  const { points } = engine;
  const slips = bestPoints(posterior, withoutReading(posterior, index)).map((point) => {
    const fault = points.faults[points.fault[point] as number] ?? null;
    const variant = points.variant[point];
    const { circuit } = observation.table.probe;
    const own = points.worlds[points.world[point] as number];
    const stated = statedWorld(circuit.built.world, reading.setup ?? {});
    const world = stated ?? (own?.circuit === circuit.id ? own.value : circuit.built.world.nominal);
    const placed = fault === null || variant === undefined ? [] : [{ fault, variant, severity: points.severity[point] as number }];
    return nameSlip(engine.model, circuit, reading, expectedNumber(posterior, index, point), placed, world);
  });
  const slip = slips.find((candidate) => candidate.slip !== "unexplained") ?? (slips[0] as (typeof slips)[number]);
  const value = describeValue(reading, shownUnit(observation.table));
  return {
    reading: observation.id,
    probability: Math.min(1, probability),
    slip: slip.slip,
    suggested: slip.suggested,
    why: `${value} does not fit the other readings. ${slip.why}`,
  };
}

/** The heaviest point of each of the likeliest faults, the likeliest first. */
function bestPoints(posterior: CircuitPosterior, logWeights: Float64Array): number[] {
  const { points } = posterior.engine;
  const best = new Map<number, number>();
  for (let point = 0; point < points.count; point += 1) {
    const fault = points.fault[point] as number;
    const kept = best.get(fault);
    if (kept === undefined || (logWeights[point] as number) > (logWeights[kept] as number)) best.set(fault, point);
  }
  return [...best.values()].sort((a, b) => (logWeights[b] as number) - (logWeights[a] as number)).slice(0, ASKED);
}

/** What the best remaining point predicts for a reading, in the reading's own unit; null where it predicts a word. */
function expectedNumber(posterior: CircuitPosterior, index: number, point: number): number | null {
  const { table } = posterior.observations[index] as CircuitPosterior["observations"][number];
  if (!table.numeric) return null;
  const slot = table.slot[point] as number;
  let words = 0;
  for (let word = 0; word < table.wordNames.length; word += 1) words += table.words[slot * table.wordNames.length + word] as number;
  if (words > 0.5) return null;
  return scaleOf(table.probe).fromScale(table.mean[slot] as number);
}

/** A unit's title with its circuit's own word for the part. */
export function titleIn(posterior: CircuitPosterior, unit: string): string {
  const { engine } = posterior;
  const [first = "", second] = membersOf(unit);
  const [circuit = ""] = first.split("/");
  const title = unitTitle(first, engine.circuitOf(circuit).family.part);
  return second === undefined ? title : `${title} and ${titleIn(posterior, second).toLowerCase()}`;
}
