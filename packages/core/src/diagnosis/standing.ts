import { outlook, type PossibleTest, type RankedTest, rankTests, separable } from "./advice";
import { type Case, comesAndGoes } from "./case";
import { membersOf } from "./involved";
import type { CircuitPosterior, JointPosterior } from "./posterior";
import { progressOf } from "./progress";
import { refutedBy, singlesOf } from "./reasons";
import { touchingTests, untouchedPoints } from "./touched";
import { isUntoldTwin } from "./twins";
import { DECLARE, REFUTED_LOG, unitBest } from "./verdict";

/** From this probability of a slip on, repeating the test is worth its time. */
const REPEAT = 0.15;
/** Rivals lighter than this, which no test here tells from the leading unit, are named but do not join its group. */
const LEAST_MEMBER = 0.01;
/** Two units that no possible test tells apart by more than this stay a group, bits. */
const INSEPARABLE_BITS = 0.12;
/** A fault that shows only at times is not refuted by two quiet tries: a sound circuit keeps it open, and says so. */
const QUIET_REFUTED_LOG = Math.log(1 / 100);
/** With more rivals alive than this nobody asks yet which of them the tests cannot tell apart. */
const MOST_COMPARED = 14;
const MOST_NEXT = 12;

/** A rival that the readings have not refuted; `unit` is empty for "nothing wrong". */
export interface Rival {
  readonly unit: string;
  readonly weight: number;
  readonly posterior: CircuitPosterior;
  readonly index: number;
}

/** A ranked test of one set of circuits. */
export interface RankedPart {
  readonly posterior: CircuitPosterior;
  readonly test: RankedTest;
}

/** Where a case stands: who leads, who cannot be told from it, who is refuted by what, what is open, and what could be done. */
export interface Standing {
  /** The set of circuits the leading unit belongs to; null when "nothing wrong" leads. */
  readonly posterior: CircuitPosterior | null;
  readonly group: readonly string[];
  readonly groupProbability: number;
  readonly open: readonly Rival[];
  readonly beside: readonly string[];
  readonly refuted: readonly { readonly unit: string; readonly by: string[] }[];
  /** All useful tests, the best first. */
  readonly tests: readonly RankedPart[];
  /** Tests that must be done before the leader may be declared, though they would tell little; worked out when asked, empty when none are left. */
  readonly owed: () => readonly RankedPart[];
}

/** A fault this unlikely is not worth naming where nothing was found. */
const LEAST_NAMED = 0.003;

/**
 * Whether a unit that looks refuted on the average of its severities still explains all readings at one of them, as a slight fault does on
 * a sound circuit: nobody may say that it was excluded.
 *
 * @param peaks from {@link unitBest}
 */
function couldBe({ units }: CircuitPosterior, peaks: Float64Array, unit: number): boolean {
  return (units[unit] as number) >= LEAST_NAMED && (peaks[unit] as number) - (peaks[0] as number) >= REFUTED_LOG;
}

/** The unit with most weight over all circuits; null stands for "nothing wrong". */
function bestUnit(joint: JointPosterior): { posterior: CircuitPosterior | null; unit: number; probability: number } {
  let best: { posterior: CircuitPosterior | null; unit: number; probability: number } = { posterior: null, unit: 0, probability: joint.healthy };
  for (const posterior of joint.circuits) {
    for (let unit = 1; unit < posterior.units.length; unit += 1) {
      const probability = posterior.units[unit] as number;
      if (probability > best.probability) best = { posterior, unit, probability };
    }
  }
  return best;
}

/** Whether a unit holds a fault that shows only at times: quiet readings do not refute it. */
export function isIntermittent({ engine: { points } }: CircuitPosterior, unit: number): boolean {
  return points.faults.some((fault, index) => fault !== null && fault.during !== null && points.unitOfFault[index] === unit);
}

/** Every possible test of every set of circuits under the present belief, in the order of the case's parts. */
export function possibleTestsOf(opened: Case): PossibleTest[][] {
  const { joint, parts, whole, job, slips } = opened;
  const inDoubt = new Set(slips.filter(({ probability }) => probability > REPEAT).map(({ id }) => id));
  const best = bestUnit(joint);
  const bestRelative = best.posterior === null ? 0 : (best.posterior.relative[best.unit] as number);
  const passing = comesAndGoes(job);
  return joint.circuits.map((posterior, index) => {
    const progress = progressOf(parts[index]?.own ?? [], whole, job, inDoubt, passing);
    return outlook(posterior, progress, (unit) => (posterior.relative[unit] as number) - bestRelative >= REFUTED_LOG, passing).tests;
  });
}

/** A confirming test must tell so much of the leader from pairs that stand in its place, bits, and take no longer than this. */
const CONFIRM_BITS = 0.2;
const CONFIRM_MINUTES = 5;

/**
 * Tests that tell the leading group from what explains the readings as well but by coincidence: another fault at just one severity, or two
 * faults together that look like a third one. Only a reading taken for that shows it. Empty where no quick test would.
 */
function confirmingTests({ challenge, parts, whole, job }: Case, group: readonly string[]): RankedPart[] {
  if (challenge === null || group.length === 0) return [];
  const { posterior, at } = challenge;
  const { units } = posterior.engine.points;
  const led = units.flatMap((unit, index) => (group.includes(unit) ? [index] : []));
  const best = Math.max(...led.map((unit) => posterior.relative[unit] as number));
  const alive = (unit: number): boolean => (posterior.relative[unit] as number) - best >= REFUTED_LOG;
  const peaks = unitBest(posterior.engine.points, posterior.evidence.logLikelihood);
  const peak = Math.max(...led.map((unit) => peaks[unit] as number));
  const shadows = units.flatMap((unit, index) => {
    const members = membersOf(unit);
    if (index === 0 || members.some((member) => group.includes(member))) return [];
    const single = members.length === 1 && (posterior.units[index] as number) >= LEAST_NAMED && (peaks[index] as number) - peak >= REFUTED_LOG;
    return single || (members.length === 2 && alive(index)) ? [index] : [];
  });
  if (led.length === 0 || shadows.length === 0) return [];
  const scale = new Float64Array(units.length);
  const weightOf = (unit: number): number => Math.max(1e-300, posterior.units[unit] as number);
  for (const unit of led) scale[unit] = 1 / led.length / weightOf(unit);
  const total = shadows.reduce((sum, unit) => sum + weightOf(unit), 0);
  for (const unit of shadows) scale[unit] = 1 / total;
  const counts = new Set([...led, ...shadows]);
  const progress = progressOf(parts[at]?.own ?? [], whole, job, new Set(), false);
  const { tests } = outlook(posterior, progress, (unit) => counts.has(unit));
  const quick = tests.filter(({ minutes }) => minutes <= CONFIRM_MINUTES);
  return rankTests(quick, scale, MOST_NEXT).flatMap((test) => (test.gainBits < CONFIRM_BITS ? [] : [{ posterior, test }]));
}

const standings = new WeakMap<Case, Standing>();

/** Works out where a case stands; once. */
export function standingOf(opened: Case): Standing {
  const known = standings.get(opened) ?? standingNow(opened);
  standings.set(opened, known);
  return known;
}

function standingNow(opened: Case): Standing {
  const { joint, job } = opened;
  const best = bestUnit(joint);
  const bestRelative = best.posterior === null ? 0 : (best.posterior.relative[best.unit] as number);
  const group: string[] = best.posterior === null ? [] : [best.posterior.engine.points.units[best.unit] as string];
  const open: Rival[] = [];
  const beside: string[] = [];
  const refuted: { unit: string; by: string[] }[] = [];
  const tests: RankedPart[] = [];
  let groupProbability = best.probability;
  const possible = possibleTestsOf(opened);
  for (const [index, posterior] of joint.circuits.entries()) {
    const { units } = posterior.engine.points;
    const own = possible[index] as PossibleTest[];
    const leads = best.posterior === posterior;
    const members = new Set<number>(leads ? [best.unit] : best.posterior === null ? [0] : []);
    const rivals: number[] = [];
    const singles = singlesOf(posterior);
    const peaks = best.posterior === null ? unitBest(posterior.engine.points, posterior.evidence.logLikelihood) : null;
    for (let unit = 0; unit < units.length; unit += 1) {
      if (members.has(unit) || (unit === 0 && (best.posterior === null || index > 0))) continue;
      const relative = posterior.relative[unit] as number;
      const refutedFrom = best.posterior === null && isIntermittent(posterior, unit) ? QUIET_REFUTED_LOG : REFUTED_LOG;
      if (relative - bestRelative >= refutedFrom || (peaks !== null && couldBe(posterior, peaks, unit))) rivals.push(unit);
      else if (leads && unit !== 0 && isUntoldTwin(posterior, best.unit, unit)) {
        group.push(units[unit] as string);
        members.add(unit);
        groupProbability += posterior.units[unit] as number;
      } else if (unit !== 0) refuted.push({ unit: units[unit] as string, by: refutedBy(posterior, unit, leads ? best.unit : 0, singles) });
    }
    rivals.sort((a, b) => (posterior.units[b] as number) - (posterior.units[a] as number));
    for (const unit of rivals) {
      const weight = posterior.units[unit] as number;
      const together = rivals.length <= MOST_COMPARED && leads && unit !== 0 && !separable(own, best.unit, unit, posterior.units, INSEPARABLE_BITS);
      if (together && weight < LEAST_MEMBER) {
        beside.push(units[unit] as string);
      } else if (together) {
        group.push(units[unit] as string);
        members.add(unit);
        groupProbability += weight;
      } else {
        open.push({ unit: unit === 0 ? "" : (units[unit] as string), weight, posterior, index: unit });
      }
    }
    const scale = new Float64Array(units.length).fill(1);
    if (groupProbability >= 0.9 && open.length > 0) {
      // Confirming: what separates the leading group from the rivals still open counts, whatever their weights.
      scale.fill(0);
      const kept = [...members, ...open.filter((rival) => rival.posterior === posterior).map((rival) => rival.index)];
      if (!kept.includes(0) && !leads) kept.push(0);
      for (const unit of kept) scale[unit] = 1 / Math.max(1e-300, posterior.units[unit] as number);
      for (const unit of members) scale[unit] = (scale[unit] as number) / members.size;
    }
    tests.push(...rankTests(own, scale, MOST_NEXT, job.costless === true).map((test) => ({ posterior, test })));
  }
  tests.sort((a, b) => b.test.score - a.test.score);
  const left = tests.length > 0 || best.posterior === null ? [] : whoIsLeft(best.posterior, group, groupProbability);
  const joined = new Set(left.map(({ unit }) => unit));
  group.push(...joined);
  groupProbability += left.reduce((sum, { weight }) => sum + weight, 0);
  let known: readonly RankedPart[] | null = null;
  const owed = (): readonly RankedPart[] => {
    if (known === null) {
      const touching = owedTests(opened, best.posterior, group, possible);
      known = touching.length > 0 ? touching : confirmingTests(opened, group);
    }
    return known;
  };
  const apart = ({ unit }: { readonly unit: string }): boolean => !joined.has(unit);
  return {
    posterior: best.posterior,
    group,
    groupProbability,
    open: open.filter(apart),
    beside: beside.filter((unit) => !joined.has(unit)),
    refuted: refuted.filter(apart),
    tests,
    owed,
  };
}

/** With no test left a group takes in whoever still carries so much, up to so many, if it may be declared then. */
const LEAST_LEFT = 0.03;
const MOST_LEFT = 4;

/**
 * Where no test is left, nothing will tell the leading group from whoever else still carries weight, though readings made them less likely:
 * these belong to it. Empty where they would not make it sure enough to be declared.
 */
function whoIsLeft({ engine, units }: CircuitPosterior, group: readonly string[], groupProbability: number): { unit: string; weight: number }[] {
  const { units: names } = engine.points;
  const others = [...units.entries()]
    .map(([index, weight]) => ({ unit: names[index] as string, weight }))
    .filter(({ unit, weight }) => unit !== "" && weight >= LEAST_LEFT && !group.includes(unit) && membersOf(unit).length === 1)
    .sort((a, b) => b.weight - a.weight)
    .slice(0, MOST_LEFT);
  const sure = others.reduce((sum, { weight }) => sum + weight, groupProbability);
  return groupProbability < DECLARE && sure >= DECLARE ? others : [];
}

/** Tests on pins of the leading unit's circuit that no lead has been on yet. */
function owedTests(
  { joint, numbered, whole }: Case,
  leading: CircuitPosterior | null,
  group: readonly string[],
  possible: readonly PossibleTest[][],
): RankedPart[] {
  if (leading === null) return [];
  const pins = untouchedPoints(leading.engine, group[0] ?? "", numbered, whole);
  if (pins.size === 0) return [];
  const own = possible[joint.circuits.indexOf(leading)] ?? [];
  return touchingTests(own, pins, leading.units.length, MOST_NEXT).map((test) => ({ posterior: leading, test }));
}
