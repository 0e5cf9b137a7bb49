import { circuitOfUnit } from "@fox-lamp/language";
import type { UnsaidColumn } from "../../instruments";
import { lazy, type Steps } from "../../numeric";
import { membersOf } from "../posterior/involved";
import type { CircuitPosterior, JointPosterior } from "../posterior/posterior";
import { Clearing } from "../posterior/refutation";
import { DECLARE, REFUTED_LOG, unitBest } from "../posterior/unit-evidence";
import { comesAndGoes, type WeighedJob } from "../posterior/weighed-job";
import { type Outlook, outlook, type PossibleTest } from "../value-of-information/possible-tests";
import type { Question } from "../value-of-information/questions";
import { type RankedTest, rankTests, separable } from "../value-of-information/rank";
import { workDoneOf } from "../value-of-information/work-done";
import { soberProbability } from "./sober";
import { isUntoldTwin } from "./twins";

/** From this probability of a slip on, repeating the test is worth its time. */
const REPEAT = 0.15;
/** Rivals lighter than this, which no test here tells from the leading unit, are named but do not join its group. */
const LEAST_MEMBER = 0.01;
/** Two units that no possible test tells apart by more than this stay a group, bits. */
const INSEPARABLE_BITS = 0.12;
/** A fault that shows only at times is not refuted by two quiet tries: a sound circuit keeps it open, and says so. */
const QUIET_REFUTED_LOG = Math.log(1 / 100);
/**
 * From here on the leader's own readings say that its circuits are not sound, whatever other circuits hold: faults that share nothing with
 * it are no rivals, they are judged each for itself.
 */
const ESTABLISHED_LOG = Math.log(400);
/** With more rivals alive than this nobody asks yet which of them the tests cannot tell apart. */
const MOST_COMPARED = 14;
/** So many tests are ranked for each set of circuits. */
export const MOST_NEXT = 12;

/** A rival that the readings have not refuted; `unit` is empty for "nothing wrong". */
export interface Rival {
  readonly unit: string;
  readonly weight: number;
  readonly posterior: CircuitPosterior;
  readonly index: number;
}

/** A unit the readings make unlikely. */
export interface Refuted {
  readonly unit: string;
  /** The readings that clear it by themselves; null where none do. */
  readonly by: () => readonly string[] | null;
}

/** A ranked test of one set of circuits. */
export interface RankedPart {
  readonly posterior: CircuitPosterior;
  readonly test: RankedTest;
  /** Why it is done though others may tell more: a verdict owes it, or hangs on what it shows of the kind of circuit. */
  readonly cause?: "owed" | "kind";
}

/** Where a case stands: who leads, who cannot be told from it, who is refuted by what, what is open, and what could be done. */
export interface Standing {
  /** The set of circuits the leading unit belongs to; null when "nothing wrong" leads. */
  readonly posterior: CircuitPosterior | null;
  readonly group: readonly string[];
  readonly groupProbability: number;
  /** The same without what was found before: what a verdict rests on. */
  readonly sober: number;
  readonly open: readonly Rival[];
  readonly beside: readonly string[];
  /** Units the readings make unlikely, with what clears them. */
  readonly refuted: readonly Refuted[];
  /** All useful tests, the best first. */
  readonly tests: readonly RankedPart[];
  /** Every possible test of every set of circuits, in the order of the job's clusters. */
  readonly possible: readonly (readonly PossibleTest[])[];
  /** Computes what all of these would show, in steps. */
  readonly ahead: () => Steps<void>;
  /** What the sheets leave out and would tell something if it were looked up, the most telling first; computed when it is asked for. */
  readonly questions: () => readonly Question[];
  /** What the sheets leave out that would have to be far from usual for the leader to be it; none where nothing is condemned. */
  readonly strained: () => readonly UnsaidColumn[];
}

/** A fault this unlikely is not worth naming where nothing was found. */
export const LEAST_NAMED = 0.003;

/**
 * Whether a unit that looks refuted on the average of its severities still explains all readings at one of them, as a slight fault does on
 * a sound circuit: nobody may say that it was excluded.
 *
 * @param peaks from {@link unitBest}
 */
function couldBe({ units }: CircuitPosterior, peaks: Float64Array, unit: number): boolean {
  return units[unit] >= LEAST_NAMED && peaks[unit] - peaks[0] >= REFUTED_LOG;
}

/** Whether a unit stands against a sound circuit: what the readings say of it refutes it no more than that. */
function standsBesideSound(posterior: CircuitPosterior, peaks: Float64Array, unit: number): boolean {
  const refutedFrom = isIntermittent(posterior, unit) ? QUIET_REFUTED_LOG : REFUTED_LOG;
  return posterior.relative[unit] >= refutedFrom || couldBe(posterior, peaks, unit);
}

/** What the readings do not exclude where nothing was found, though somebody leads: whoever stands against sound circuits and is worth naming. */
export function openBesideSound(joint: JointPosterior): string[] {
  return joint.circuits.flatMap((posterior) => {
    const peaks = unitBest(posterior.inference.grid, posterior.evidence.logLikelihood);
    return heaviest(posterior, LEAST_NAMED).flatMap(({ unit, index }) => (standsBesideSound(posterior, peaks, index) ? [unit] : []));
  });
}

/** Single units of a set of circuits that carry so much, the heaviest first. */
function heaviest({ inference, units }: CircuitPosterior, least: number): { unit: string; index: number; weight: number }[] {
  const { units: names } = inference.grid;
  return [...units.entries()]
    .map(([index, weight]) => ({ unit: names[index], index, weight }))
    .filter(({ unit, weight }) => unit !== "" && weight >= least && membersOf(unit).length === 1)
    .sort((a, b) => b.weight - a.weight);
}

/** A unit of one set of circuits with its probability; unit 0 of none is "nothing wrong". */
interface Best {
  readonly posterior: CircuitPosterior | null;
  readonly unit: number;
  readonly probability: number;
}

/** The unit with most weight over all circuits; null stands for "nothing wrong". */
function bestUnit(joint: JointPosterior): Best {
  let best: Best = { posterior: null, unit: 0, probability: joint.healthy };
  for (const posterior of joint.circuits) {
    for (let unit = 1; unit < posterior.units.length; unit += 1) {
      const probability = posterior.units[unit];
      if (probability > best.probability) best = { posterior, unit, probability };
    }
  }
  return best;
}

/** Whether a unit is battery or a ground: it stands in every set of circuits, and is judged with the first and with the leader's. */
function isOfCar({ inference: { grid, model } }: CircuitPosterior, unit: number): boolean {
  return circuitOfUnit(grid.units[unit] ?? "") === model.carId;
}

/** Whether a unit holds a fault that shows only at times: quiet readings do not refute it. */
export function isIntermittent({ inference: { grid } }: CircuitPosterior, unit: number): boolean {
  return grid.faults.some((fault, index) => fault !== null && fault.during !== null && grid.unitOfFault[index] === unit);
}

/** What could be done in every set of circuits under the present belief, in the order of the case's clusters. */
function outlooksOf(opened: WeighedJob): Outlook[] {
  const { joint, clusters, onlyCircuit, job, doubts } = opened;
  const inDoubt = new Set(doubts.filter(({ probability }) => probability > REPEAT).map(({ id }) => id));
  const best = bestUnit(joint);
  const bestRelative = best.posterior === null ? 0 : best.posterior.relative[best.unit];
  const passing = comesAndGoes(job);
  return joint.circuits.map((posterior, index) => {
    const work = workDoneOf(clusters[index]?.own ?? [], onlyCircuit, job, inDoubt, passing, posterior.inference.basis.conditions);
    return outlook(posterior, work, (unit) => posterior.relative[unit] - bestRelative >= REFUTED_LOG);
  });
}

/** One set of circuits against the leading unit. */
interface Sorted {
  /** Units that are told from the leader by nothing; the leader itself among them. */
  readonly members: readonly number[];
  /** Units that read alike and carry next to nothing. */
  readonly beside: readonly number[];
  readonly open: readonly number[];
  readonly refuted: readonly number[];
}

/** Sorts the units of one set of circuits: who belongs to the leader, who is still open, who is refuted. @param first whether it is the first set */
function sortUnits(posterior: CircuitPosterior, best: Best, tests: readonly PossibleTest[], first: boolean): Sorted {
  const { grid } = posterior.inference;
  const leads = best.posterior === posterior;
  const soundLeads = best.posterior === null;
  const bestRelative = best.posterior === null ? 0 : best.posterior.relative[best.unit];
  const members: number[] = leads ? [best.unit] : soundLeads ? [0] : [];
  const rivals: number[] = [];
  const refuted: number[] = [];
  const peaks = soundLeads ? unitBest(grid, posterior.evidence.logLikelihood) : null;
  for (let unit = 0; unit < grid.units.length; unit += 1) {
    if (members.includes(unit) || (unit === 0 && (soundLeads || !first))) continue;
    if (!leads && !first && isOfCar(posterior, unit)) continue;
    if (best.posterior !== null && !leads && bestRelative >= ESTABLISHED_LOG) continue;
    const alive = peaks === null ? posterior.relative[unit] - bestRelative >= REFUTED_LOG : standsBesideSound(posterior, peaks, unit);
    if (alive) rivals.push(unit);
    else if (leads && unit !== 0 && isUntoldTwin(posterior, best.unit, unit)) members.push(unit);
    else if (unit !== 0) refuted.push(unit);
  }
  rivals.sort((a, b) => posterior.units[b] - posterior.units[a]);
  const comparable = leads && rivals.length <= MOST_COMPARED;
  const together = new Set(comparable ? rivals.filter((unit) => unit !== 0 && !separable(tests, best.unit, unit, posterior.units, INSEPARABLE_BITS)) : []);
  const light = (unit: number): boolean => posterior.units[unit] < LEAST_MEMBER;
  return {
    members: [...members, ...rivals.filter((unit) => together.has(unit) && !light(unit))],
    beside: rivals.filter((unit) => together.has(unit) && light(unit)),
    open: rivals.filter((unit) => !together.has(unit)),
    refuted,
  };
}

/** From this probability of the leading group on, tests are ranked by what separates it from the rivals still open. */
const CONFIRMING = 0.9;

/** Factors on the units' weights under which tests are ranked: as they are, or only the group against open rivals, whatever they weigh. */
function rankingScale({ units }: CircuitPosterior, { members, open }: Sorted, leads: boolean, confirming: boolean): Float64Array {
  const scale = new Float64Array(units.length).fill(confirming ? 0 : 1);
  if (!confirming) return scale;
  const kept = [...members, ...open];
  if (!kept.includes(0) && !leads) kept.push(0);
  for (const unit of kept) scale[unit] = 1 / Math.max(1e-300, units[unit]);
  for (const unit of members) scale[unit] = scale[unit] / members.length;
  return scale;
}

/** Works out where a weighed job stands. */
export function standingOf(weighed: WeighedJob): Standing {
  const { joint, job } = weighed;
  const best = bestUnit(joint);
  const outlooks = outlooksOf(weighed);
  const possible = outlooks.map(({ tests }) => tests);
  const group: string[] = [];
  const open: Rival[] = [];
  const beside: string[] = [];
  const refuted: Refuted[] = [];
  const tests: RankedPart[] = [];
  let groupProbability = best.posterior === null ? best.probability : 0;
  for (const [index, posterior] of joint.circuits.entries()) {
    const names = posterior.inference.grid.units;
    const own = possible[index] ?? [];
    const leads = best.posterior === posterior;
    const sorted = sortUnits(posterior, best, own, index === 0);
    if (leads) {
      group.push(...sorted.members.map((unit) => names[unit]));
      groupProbability += sorted.members.reduce((sum, unit) => sum + posterior.units[unit], 0);
    }
    beside.push(...sorted.beside.map((unit) => names[unit]));
    open.push(...sorted.open.map((unit) => ({ unit: names[unit], weight: posterior.units[unit], posterior, index: unit })));
    const clearing = lazy(() => new Clearing(posterior, leads ? best.unit : 0));
    refuted.push(...sorted.refuted.map((unit) => ({ unit: names[unit], by: lazy(() => clearing().by(unit)) })));
    const reached = leads || best.posterior === null || index > joint.circuits.indexOf(best.posterior) ? groupProbability : best.probability;
    const scale = rankingScale(posterior, sorted, leads, reached >= CONFIRMING && open.length > 0);
    tests.push(...rankTests(own, scale, MOST_NEXT, job.costless === true).map((test) => ({ posterior, test })));
  }
  tests.sort((a, b) => b.test.score - a.test.score);
  const left = tests.length > 0 || best.posterior === null ? [] : whoIsLeft(best.posterior, group, groupProbability);
  const joined = new Set(left.map(({ unit }) => unit));
  const apart = ({ unit }: { readonly unit: string }): boolean => !joined.has(unit);
  const whole = left.reduce((sum, { weight }) => sum + weight, groupProbability);
  return {
    posterior: best.posterior,
    group: [...group, ...joined],
    groupProbability: whole,
    sober: best.posterior === null ? whole : soberProbability(best.posterior, [...group, ...joined], whole),
    open: open.filter(apart),
    beside: beside.filter((unit) => !joined.has(unit)),
    refuted: refuted.filter(apart),
    tests,
    possible,
    *ahead() {
      for (const outlook of outlooks) yield* outlook.ahead();
    },
    questions: lazy(() => outlooks.flatMap(({ questions }) => questions()).sort((a, b) => b.gainBits - a.gainBits)),
    strained: lazy(() => (best.posterior === null ? [] : (outlooks[joint.circuits.indexOf(best.posterior)]?.strained(best.unit) ?? []))),
  };
}

/** With no test left a group takes in whoever still carries so much, up to so many, if it may be declared then. */
const LEAST_LEFT = 0.03;
const MOST_LEFT = 4;

/**
 * Where no test is left, nothing will tell the leading group from whoever else still carries weight, though readings made them less likely:
 * these belong to it. Empty where they would not make it sure enough to be declared.
 */
function whoIsLeft(posterior: CircuitPosterior, group: readonly string[], groupProbability: number): { unit: string; weight: number }[] {
  const others = heaviest(posterior, LEAST_LEFT)
    .filter(({ unit }) => !group.includes(unit))
    .slice(0, MOST_LEFT);
  const sure = others.reduce((sum, { weight }) => sum + weight, groupProbability);
  return groupProbability < DECLARE && sure >= DECLARE ? others : [];
}
