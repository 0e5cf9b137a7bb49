import { circuitOfUnit, type Diagnosis, inSentence, type Reading, unitKindOf, unitTitle } from "@fox-lamp/language";
import { statedWorld } from "../../circuit";
import type { Learnt } from "../../faults";
import { formatPercent } from "../../units";
import type { DecidingReading } from "../decision/deciding";
import type { NameOf } from "../inference/diagnosed-job";
import type { Observation } from "../likelihood/observation";
import type { Predicted } from "../posterior/intervals";
import { membersOf } from "../posterior/involved";
import { type FaultReadings, likeliestFaults, likeliestWithout, saidByFault, takesAsItStands } from "../posterior/likeliest";
import type { CircuitPosterior } from "../posterior/posterior";
import { nameSlip } from "./slips";
import { describePredicted, describeValue, shownUnit } from "./words";

type Suspect = Diagnosis["suspects"][number];
type Doubtful = Diagnosis["doubtful"][number];
type Confirm = NonNullable<Diagnosis["confirm"]>[number];

/** A reading speaks for or against a fault from these likelihood ratios on. */
const FOR_RATIO = Math.log(2);
const AGAINST_RATIO = Math.log(1 / 3);
const LEAST_PROBABILITY = 5e-4;
const MOST_SUSPECTS = 12;

/** What was read, and what it is called. */
export interface Told {
  /** Readings and codes by the ids of their observations. */
  readonly readings: ReadonlyMap<string, Reading>;
  readonly nameOf: NameOf;
}

/** The likeliest faults of a circuit, each with the readings that speak for and against it and one sentence why. */
export function suspectsOf(posterior: CircuitPosterior, told: Told): Suspect[] {
  const { observations } = posterior;
  const named = (judged: FaultReadings, holds: (ratio: number) => boolean): string[] =>
    observations.filter((_, index) => holds(judged.ratios[index] ?? 0)).map(({ id }) => told.nameOf(id));
  const listed = likeliestFaults(posterior, MOST_SUSPECTS, LEAST_PROBABILITY);
  const learnt = listed.map(({ fault }) => posterior.inference.grid.faults[fault]?.learnt);
  const moves = movedByHistory(
    listed.map(({ probability }) => probability),
    learnt.map((one) => one?.factor ?? 1),
  );
  return listed.map((judged, index): Suspect => {
    const why = observations.length === 0 ? priorSentence(judged.probability) : readingSentence(posterior, judged, told);
    const before = learnt[index];
    const history = before === undefined || moves[index] === 0 ? null : historySentence(before, moves[index] ?? 0);
    return {
      fault: judged.id,
      probability: judged.probability,
      for: named(judged, (ratio) => ratio > FOR_RATIO),
      against: named(judged, (ratio) => ratio < AGAINST_RATIO),
      why: history === null ? why : `${why} ${history}`.trim(),
      ...(history === null ? {} : { history }),
    };
  });
}

/** How many places each in a list was moved by a factor on its weight; up is positive. A prior multiplies what comes after it, so that it can be taken out again. */
function movedByHistory(probabilities: readonly number[], factors: readonly number[]): number[] {
  const without = probabilities.map((probability, index) => probability / (factors[index] ?? 1));
  const placeIn = (values: readonly number[], index: number): number => values.filter((value) => value > (values[index] ?? 0)).length;
  return probabilities.map((_, index) => placeIn(without, index) - placeIn(probabilities, index));
}

/** What was found before, where that moved a suspect. */
function historySentence({ model, shop }: Learnt, moved: number): string {
  const times = (count: number): string => (count === 1 ? "once" : `${count} times`);
  if (moved > 0) return `Found ${model > 0 ? `${times(model)} on this model` : `${times(shop)} on other models`} before: that puts it higher here.`;
  return "Other units were found more often before: that puts it lower here.";
}

function priorSentence(probability: number): string {
  return probability > 0.08
    ? "Common in circuits of this kind; nothing has been measured yet."
    : "Possible in circuits of this kind; nothing has been measured yet.";
}

function readingSentence(posterior: CircuitPosterior, { fault, strongest, ratios }: FaultReadings, { readings, nameOf }: Told): string {
  const observation = posterior.observations[strongest];
  const reading = observation === undefined ? undefined : readings.get(observation.id);
  if (observation === undefined || reading === undefined) return "";
  const ratio = ratios[strongest] ?? 0;
  const { stored, interval } = saidByFault(posterior, fault, strongest);
  if (stored !== null) return codeSentence(nameOf(observation.id), reading.value === "stored", stored);
  if (interval === null) return "";
  const value = describeValue(reading, shownUnit(observation.table));
  const says = describePredicted(interval, observation.table);
  const fits = isWithin(interval, observation);
  // The word it expects is read all the same: it is only likelier elsewhere.
  if (ratio < AGAINST_RATIO && observation.number === null && says === value) return `${value} at ${nameOf(observation.id)} is likelier with others.`;
  if (ratio < AGAINST_RATIO)
    return fits
      ? `Would read ${says} at ${nameOf(observation.id)}; you read ${value}, which others fit more closely.`
      : `Would read ${says} at ${nameOf(observation.id)}, but you read ${value}.`;
  if (ratio > FOR_RATIO && fits) return `Would read ${says} at ${nameOf(observation.id)}; you read ${value}.`;
  // What is seen or heard now and then is no less a sign for it: the likeliest word is not the telling one.
  if (ratio > FOR_RATIO && observation.number === null)
    return `${value} at ${nameOf(observation.id)} is ${timesLikelier(ratio)} likelier with it than without.`;
  if (fits) return `Would read ${says} at ${nameOf(observation.id)}; you read ${value}, as others would too.`;
  return `Would read ${says} at ${nameOf(observation.id)}; ${value} lies outside, as it does for most others.`;
}

/** How much likelier, from its logarithm: 2 times, 15 times, over 100 times. */
function timesLikelier(ratio: number): string {
  const times = Math.exp(ratio);
  if (times > 100) return "over 100 times";
  return `${times < 10 ? Number(times.toFixed(1)) : Math.round(times)} times`;
}

/** Whether what was read lies in what is predicted. */
export function isWithin({ low, high, word }: Predicted, { number, word: read, table }: Observation): boolean {
  if (number === null) return word !== null && table.wordNames[read] === word;
  return (low === null || number >= low) && (high === null || number <= high) && word === null;
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
  const observation = observations[index];
  const reading = readings.get(observation.id) as Reading;
  const slips = likeliestWithout(posterior, index, ASKED).map(({ placed, world, expected }) => {
    const { circuit } = observation.table.probe;
    const stated = statedWorld(circuit.built.world, reading.setup ?? {});
    return nameSlip(inference.model, circuit, reading, expected, placed, stated ?? world ?? circuit.built.world.nominal);
  });
  const slip = slips.find((candidate) => candidate.slip !== "unexplained") ?? slips[0];
  const value = describeValue(reading, shownUnit(observation.table));
  // The first number of a job has no others to disagree with: it is the circuit that cannot show it.
  const others = observations.some(({ id, number }) => number !== null && id !== observation.id);
  const unit = takesAsItStands(posterior, index);
  const misfit = `${value} ${others ? "does not fit the other readings" : "is hardly anything this circuit shows"}.`;
  const unknown = slip.slip === "unexplained" ? " No fault known here explains it together with the other readings." : "";
  return {
    reading: nameOf(observation.id),
    probability: Math.min(1, probability),
    slip: slip.slip,
    suggested: slip.suggested,
    why: `${unit === null ? `${misfit}${unknown}` : `${value} would fit if ${causeOf(posterior, unit)}; likelier is that the reading slipped.`} ${slip.why}`.trim(),
  };
}

/** A cause in the words of "it would fit if ...". */
function causeOf(posterior: CircuitPosterior, unit: string): string {
  if (unit === "") return "nothing is wrong here";
  return membersOf(unit).every((one) => unitKindOf(one) === "outside") ? "the value is true" : `it is the ${inSentence(titleIn(posterior, unit))}`;
}

/** A reading a verdict hangs on: what was read, and that it is read again. */
export function confirmOf(posterior: CircuitPosterior, { index, without, odd }: DecidingReading, { readings, nameOf }: Told): Confirm {
  const observation = posterior.observations[index];
  const reading = readings.get(observation.id) as Reading;
  const name = nameOf(observation.id);
  const value = describeValue(reading, shownUnit(observation.table));
  const reason = odd
    ? `${value} at ${name} lies far from what this verdict expects, and the others fit it loosely.`
    : `Without ${value} at ${name} this would not be proven.`;
  return { reading: name, without, why: `${reason} Read it once more before anything is replaced.` };
}

/** A unit's title with its circuit's own word for the part. */
export function titleIn(posterior: Pick<CircuitPosterior, "inference">, unit: string): string {
  const { inference } = posterior;
  const [first = "", second] = membersOf(unit);
  const circuit = circuitOfUnit(first);
  const title = unitTitle(first, inference.circuitOf(circuit).family.part);
  return second === undefined ? title : `${title} and ${inSentence(titleIn(posterior, second))}`;
}

/** What is repaired or replaced of a unit: of two faults both, and nothing of what lies outside the circuit. */
export function repairedOf(unit: string): string[] {
  return membersOf(unit).filter((member) => unitKindOf(member) !== "outside");
}

/** The same in words; null where nothing is. */
export function repairedIn(posterior: Pick<CircuitPosterior, "inference">, unit: string): string | null {
  const [first, second] = repairedOf(unit);
  if (first === undefined) return null;
  return second === undefined ? titleIn(posterior, first) : `Both ${inSentence(titleIn(posterior, first))} and ${inSentence(titleIn(posterior, second))}`;
}
