import { DECLARE } from "../posterior/unit-evidence";
import { informationBits, type Outcomes } from "../value-of-information/outcomes";
import { testKey } from "../value-of-information/work-done";
import type { RankedPart } from "./standing";

/** A plan looks this many tests ahead, and follows outcomes at least this likely. */
const DEPTH = 3;
const LEAST_BRANCH = 0.04;
/** The tests a look ahead chooses from. */
const CHOICES = 10;
const LEAST_BITS = 0.02;

/** One step of a plan: a test, and what follows each of its outcomes. */
export interface PlanStep {
  readonly part: RankedPart;
  readonly branches: readonly PlanBranch[];
}

/** What one outcome of a planned test would leave, and the step after it. */
export interface PlanBranch {
  /** Columns of the test's outcomes that make this branch. */
  readonly from: number;
  readonly to: number;
  readonly probability: number;
  /** The likeliest unit then (0 is "nothing wrong") with its probability. */
  readonly unit: number;
  readonly certainty: number;
  /** Null when that would settle it, or no test would tell more. */
  readonly next: PlanStep | null;
}

/** Columns of a test's outcomes joined where the same unit leads, words apart. */
function branchesOf({ mass, width, members, axis }: Outcomes, scale: Float64Array): { from: number; to: number; weights: Float64Array; total: number }[] {
  const found: { from: number; to: number; weights: Float64Array; total: number; leader: number }[] = [];
  for (let column = 0; column < width; column += 1) {
    const weights = new Float64Array(scale.length);
    let total = 0;
    let leader = 0;
    members.forEach((unit, row) => {
      const value = mass[row * width + column] * scale[unit];
      weights[unit] = value;
      total += value;
      if (value > weights[leader]) leader = unit;
    });
    if (total === 0) continue;
    const last = found.at(-1);
    if (last !== undefined && last.leader === leader && last.to === column && column < axis.bins) {
      for (const unit of members) last.weights[unit] = last.weights[unit] + weights[unit];
      last.total += total;
      last.to = column + 1;
    } else found.push({ from: column, to: column + 1, weights, total, leader });
  }
  return found.map(({ from, to, weights, total }) => ({ from, to, weights, total }));
}

/** Factors that turn the units' present weights into what an outcome would leave of them. */
function rescaled(prior: Float64Array, weights: Float64Array, total: number): Float64Array {
  return Float64Array.from(prior, (before, unit) => (before > 0 ? weights[unit] / total / before : 0));
}

/** Identity of a ranked test within its set of circuits. */
export function keyOf({ test: { offered } }: RankedPart): string {
  return testKey(offered.procedure.circuit, offered.procedure.id);
}

/**
 * The likely next steps for each outcome of a test: what would be done after each, three tests deep. Outcomes are taken as
 * independent given the unit, which is enough to say what comes next; after a reading everything is computed anew.
 *
 * @param tests ranked tests of the same set of circuits, the best first
 * @param prior the units' present weights
 */
export function planOf(first: RankedPart, tests: readonly RankedPart[], prior: Float64Array): PlanStep {
  const choices = tests.slice(0, CHOICES);
  const step = (part: RankedPart, scale: Float64Array, done: ReadonlySet<string>, depth: number): PlanStep => {
    const branches = branchesOf(part.test.outcomes, scale);
    const all = branches.reduce((sum, { total }) => sum + total, 0);
    return {
      part,
      branches: branches.flatMap(({ from, to, weights, total }): PlanBranch[] => {
        const probability = total / all;
        if (probability < LEAST_BRANCH) return [];
        const leader = weights.reduce((best, weight, unit) => (weight > weights[best] ? unit : best), 0);
        const certainty = weights[leader] / total;
        const after = rescaled(prior, weights, total);
        const next = certainty >= DECLARE || depth <= 1 ? null : bestAfter(after, done, depth - 1);
        return [{ from, to, probability, unit: leader, certainty, next }];
      }),
    };
  };
  const bestAfter = (scale: Float64Array, done: ReadonlySet<string>, depth: number): PlanStep | null => {
    let best: RankedPart | null = null;
    for (const part of choices) {
      if (done.has(keyOf(part))) continue;
      const gainBits = informationBits(part.test.outcomes, scale);
      const score = gainBits / part.test.minutes;
      if (gainBits < LEAST_BITS || (best !== null && score <= best.test.score)) continue;
      best = { ...part, test: { ...part.test, gainBits, score } };
    }
    return best === null ? null : step(best, scale, new Set([...done, keyOf(best)]), depth);
  };
  return step(first, new Float64Array(prior.length).fill(1), new Set([keyOf(first)]), DEPTH);
}
