import { circuitOfUnit, type Diagnosis, type Reading, unitTitle } from "@fox-lamp/language";
import { statedWorld } from "../../circuit";
import { scaleOf } from "../../instruments";
import { formatPercent } from "../../units";
import type { NameOf } from "../inference/diagnosed-job";
import { predictedInterval, storedShare } from "../posterior/intervals";
import { membersOf } from "../posterior/involved";
import { logRatios, withoutReading } from "../posterior/one-reading";
import type { CircuitPosterior } from "../posterior/posterior";
import { nameSlip } from "./slips";
import { describePredicted, describeValue, shownUnit } from "./words";

type Suspect = Diagnosis["suspects"][number];
type Doubtful = Diagnosis["doubtful"][number];

/** A reading speaks for or against a fault from these likelihood ratios on. */
const FOR_RATIO = Math.log(2);
const AGAINST_RATIO = Math.log(1 / 3);
const LEAST_PROBABILITY = 5e-4;

/** What was read, and what it is called. */
export interface Told {
  /** Readings and codes by the ids of their observations. */
  readonly readings: ReadonlyMap<string, Reading>;
  readonly nameOf: NameOf;
}

/** The likeliest faults of a circuit, each with the readings that speak for and against it and one sentence why. */
export function suspectsOf(posterior: CircuitPosterior, told: Told): Suspect[] {
  const { inference, observations } = posterior;
  const { grid } = inference;
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
      fault: grid.faults[fault]?.id ?? "",
      probability,
      for: observations.filter((_, index) => (ratios[index] as number) > FOR_RATIO).map(({ id }) => told.nameOf(id)),
      against: observations.filter((_, index) => (ratios[index] as number) < AGAINST_RATIO).map(({ id }) => told.nameOf(id)),
      why:
        observations.length === 0
          ? priorSentence(probability)
          : readingSentence(posterior, fault, strongest, ratios[strongest] as number, before[strongest] as Float64Array, told),
    };
  });
}

function priorSentence(probability: number): string {
  return probability > 0.08
    ? "Common in circuits of this kind; nothing has been measured yet."
    : "Possible in circuits of this kind; nothing has been measured yet.";
}

function readingSentence(posterior: CircuitPosterior, fault: number, index: number, ratio: number, before: Float64Array, { readings, nameOf }: Told): string {
  const { inference, observations } = posterior;
  const observation = observations[index];
  const reading = observation === undefined ? undefined : readings.get(observation.id);
  if (observation === undefined || reading === undefined) return "";
  const top = before.reduce((most, weight) => Math.max(most, weight), Number.NEGATIVE_INFINITY);
  const weightOf = (cell: number): number => (inference.grid.fault[cell] === fault ? Math.exp((before[cell] as number) - top) + 1e-300 : 0);
  const stored = storedShare(observation.table, inference.grid.count, weightOf);
  if (stored !== null) return codeSentence(nameOf(observation.id), reading.value === "stored", stored);
  const predicted = predictedInterval(posterior, observation.table, weightOf);
  if (predicted === null) return "";
  const value = describeValue(reading, shownUnit(observation.table));
  const says = describePredicted(predicted, observation.table);
  if (ratio < AGAINST_RATIO) return `It predicts ${says} for ${nameOf(observation.id)}, but you read ${value}.`;
  if (ratio > FOR_RATIO) return `It predicts ${says} for ${nameOf(observation.id)}; you read ${value}.`;
  return `It predicts ${says} for ${nameOf(observation.id)}; ${value} fits, and fits others as well.`;
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
export function doubtfulOf(posterior: CircuitPosterior, index: number, probability: number, { readings, nameOf }: Told): Doubtful {
  const { inference, observations } = posterior;
  const observation = observations[index] as (typeof observations)[number];
  const reading = readings.get(observation.id) as Reading;
  const { grid } = inference;
  const slips = bestCells(posterior, withoutReading(posterior, index)).map((cell) => {
    const fault = grid.faults[grid.fault[cell] as number] ?? null;
    const variant = grid.variant[cell];
    const { circuit } = observation.table.probe;
    const own = grid.worlds[grid.world[cell] as number];
    const stated = statedWorld(circuit.built.world, reading.setup ?? {});
    const world = stated ?? (own?.circuit === circuit.id ? own.value : circuit.built.world.nominal);
    const placed = fault === null || variant === undefined ? [] : [{ fault, variant, severity: grid.severity[cell] as number }];
    return nameSlip(inference.model, circuit, reading, expectedNumber(posterior, index, cell), placed, world);
  });
  const slip = slips.find((candidate) => candidate.slip !== "unexplained") ?? (slips[0] as (typeof slips)[number]);
  const value = describeValue(reading, shownUnit(observation.table));
  return {
    reading: nameOf(observation.id),
    probability: Math.min(1, probability),
    slip: slip.slip,
    suggested: slip.suggested,
    why: `${value} does not fit the other readings. ${slip.why}`,
  };
}

/** The heaviest cell of each of the likeliest faults, the likeliest first. */
function bestCells(posterior: CircuitPosterior, logWeights: Float64Array): number[] {
  const { grid } = posterior.inference;
  const best = new Map<number, number>();
  for (let cell = 0; cell < grid.count; cell += 1) {
    const fault = grid.fault[cell] as number;
    const kept = best.get(fault);
    if (kept === undefined || (logWeights[cell] as number) > (logWeights[kept] as number)) best.set(fault, cell);
  }
  return [...best.values()].sort((a, b) => (logWeights[b] as number) - (logWeights[a] as number)).slice(0, ASKED);
}

/** What the best remaining cell predicts for a reading, in the reading's own unit; null where it predicts a word. */
function expectedNumber(posterior: CircuitPosterior, index: number, cell: number): number | null {
  const { table } = posterior.observations[index] as CircuitPosterior["observations"][number];
  if (!table.numeric) return null;
  const slot = table.slot[cell] as number;
  let words = 0;
  for (let word = 0; word < table.wordNames.length; word += 1) words += table.words[slot * table.wordNames.length + word] as number;
  if (words > 0.5) return null;
  return scaleOf(table.probe).fromScale(table.mean[slot] as number);
}

/** A unit's title with its circuit's own word for the part. */
export function titleIn(posterior: CircuitPosterior, unit: string): string {
  const { inference } = posterior;
  const [first = "", second] = membersOf(unit);
  const circuit = circuitOfUnit(first);
  const title = unitTitle(first, inference.circuitOf(circuit).family.part);
  return second === undefined ? title : `${title} and ${titleIn(posterior, second).toLowerCase()}`;
}
