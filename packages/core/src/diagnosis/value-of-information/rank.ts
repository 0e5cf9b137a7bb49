import type { OfferedTest } from "../inference/basis";
import { goWith, isOf, type Screen } from "../inference/go";
import { informationBits, type Outcomes } from "./outcomes";
import type { PossibleTest } from "./possible-tests";
import { ALONG_MINUTES, HANDLING_MINUTES } from "./price";

/** Below this a test is not worth walking to the car for, bits. */
const LEAST_BITS = 0.01;

export interface RankedTest {
  readonly offered: OfferedTest;
  readonly outcomes: Outcomes;
  readonly gainBits: number;
  readonly minutes: number;
  /** Bits per minute under what is to be settled now, with what any reading takes besides, and with what is worth reading along. */
  readonly score: number;
  /** Values that stand on the screen in the same go and are worth a look, the most telling first. */
  readonly along: readonly RankedTest[];
}

/** What a test tells and takes with what is read along. */
export function wholeOf({ gainBits, minutes, along }: Pick<RankedTest, "gainBits" | "minutes" | "along">): { gainBits: number; minutes: number } {
  const further = along.reduce((sum, test) => sum + test.gainBits, 0);
  return { gainBits: gainBits + further, minutes: minutes + along.length * ALONG_MINUTES + (along.length + 1) * HANDLING_MINUTES };
}

/**
 * A test ranked by itself, with nothing read along.
 * @param scale factor for every unit: see {@link rankTests}
 * @param scoreOf its score, from the bits it tells
 */
export function rankedAlone({ offered, minutes, outcomes }: PossibleTest, scale: Float64Array, scoreOf: (gainBits: number) => number): RankedTest {
  const seen = outcomes();
  const gainBits = informationBits(seen, scale);
  return { offered, outcomes: seen, gainBits, minutes, score: scoreOf(gainBits), along: [] };
}

interface Screened extends RankedTest {
  readonly screen: Screen | null;
}

/** The values on a test's screen that make its go worth more a minute, the most telling first. @param tests the most telling first */
function alongWith(test: Screened, tests: readonly Screened[]): Screened[] {
  if (test.screen === null) return [];
  const go = goWith(test.screen);
  const along: Screened[] = [];
  let { score } = test;
  for (const other of tests) {
    const { screen } = other;
    if (other === test || screen === null || !isOf(go, screen)) continue;
    const { gainBits, minutes } = wholeOf({ ...test, along: [...along, other] });
    if (gainBits / minutes <= score) break;
    go.stated.set(screen.circuit, screen.stated);
    along.push(other);
    score = gainBits / minutes;
  }
  return along;
}

/** Joins each test with what is worth reading along. */
function withAlong(ranked: readonly Screened[]): RankedTest[] {
  const telling = ranked.filter(({ screen }) => screen !== null).sort((a, b) => b.gainBits - a.gainBits);
  return ranked.map((test) => {
    const along = alongWith(test, telling);
    const { gainBits, minutes } = wholeOf({ ...test, along });
    return along.length === 0 ? test : { ...test, along, score: gainBits / minutes };
  });
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
  const ranked: Screened[] = [];
  let best = 0;
  for (const possible of tests) {
    const { minutes, screen } = possible;
    const worst = ranked.length < most ? 0 : (ranked[Math.min(most, BOUND_PLACE) - 1]?.score ?? 0);
    if (Math.min(MOST_BOUND, Math.max(LEAST_BOUND, MOST_TIMES * best)) / (minutes + HANDLING_MINUTES) < worst && !costless) break;
    const test = { ...rankedAlone(possible, scale, (bits) => (costless ? bits : bits / (minutes + HANDLING_MINUTES))), screen };
    best = Math.max(best, test.gainBits);
    if (test.gainBits <= LEAST_BITS) continue;
    const at = ranked.findIndex((other) => other.score < test.score);
    ranked.splice(at < 0 ? ranked.length : at, 0, test);
  }
  const joined = withAlong(ranked);
  return costless ? joined.sort((a, b) => b.gainBits - a.gainBits) : joined.sort((a, b) => b.score - a.score);
}

/** Whether any test could tell two units apart by so many bits, with both equally likely; quick tests are asked first. */
export function separable(tests: readonly PossibleTest[], first: number, second: number, weights: Float64Array, bits: number): boolean {
  const scale = new Float64Array(weights.length);
  for (const unit of [first, second]) scale[unit] = 0.5 / Math.max(1e-300, weights[unit]);
  return tests.some(({ between }) => informationBits(between(first, second), scale) >= bits);
}
