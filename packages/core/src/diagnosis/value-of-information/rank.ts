import type { OfferedTest } from "../inference/basis";
import { informationBits, type Outcomes } from "./outcomes";
import type { PossibleTest } from "./possible-tests";
import { HANDLING_MINUTES } from "./price";

/** Below this a test is not worth walking to the car for, bits. */
const LEAST_BITS = 0.01;

export interface RankedTest {
  readonly offered: OfferedTest;
  readonly outcomes: Outcomes;
  readonly gainBits: number;
  readonly minutes: number;
  /** Bits per minute under what is to be settled now, with what any reading takes besides. */
  readonly score: number;
}

/** A single reading seldom tells more than this many times the best one seen so far, within bounds, bits. */
const MOST_TIMES = 2;
const LEAST_BOUND = 1.2;
const MOST_BOUND = 3.5;
/** A test that cannot come up to the place this far down the list is not computed. */
const BOUND_PLACE = 6;

/**
 * Ranks tests by expected information per minute. Slow tests that could not come near the best ones, whatever they tell, are not
 * computed.
 *
 * @param scale factor for every unit: ones ask "what is most informative", a few non-zero ones "what separates these"
 * @param most how many are wanted
 * @param costless ranks by information alone, whatever it takes
 */
export function rankTests(tests: readonly PossibleTest[], scale: Float64Array, most: number, costless = false): RankedTest[] {
  const ranked: RankedTest[] = [];
  let best = 0;
  for (const { offered, minutes, outcomes } of tests) {
    const worst = ranked.length < most ? 0 : (ranked[Math.min(most, BOUND_PLACE) - 1]?.score ?? 0);
    if (Math.min(MOST_BOUND, Math.max(LEAST_BOUND, MOST_TIMES * best)) / (minutes + HANDLING_MINUTES) < worst && !costless) break;
    const seen = outcomes();
    const gainBits = informationBits(seen, scale);
    best = Math.max(best, gainBits);
    if (gainBits <= LEAST_BITS) continue;
    const test: RankedTest = { offered, outcomes: seen, gainBits, minutes, score: costless ? gainBits : gainBits / (minutes + HANDLING_MINUTES) };
    const at = ranked.findIndex((other) => other.score < test.score);
    ranked.splice(at < 0 ? ranked.length : at, 0, test);
  }
  return ranked;
}

/** Whether any test could tell two units apart by so many bits, with both equally likely; quick tests are asked first. */
export function separable(tests: readonly PossibleTest[], first: number, second: number, weights: Float64Array, bits: number): boolean {
  const scale = new Float64Array(weights.length);
  for (const unit of [first, second]) scale[unit] = 0.5 / Math.max(1e-300, weights[unit]);
  return tests.some(({ between }) => informationBits(between(first, second), scale) >= bits);
}
