import type { Instrument } from "@fox-lamp/language";
import type { Procedure } from "../tests";
import type { OfferedTest } from "./engine";
import { type Belief, believe, informationBits, type Outcomes, onlyUnits, outcomesOf } from "./outcomes";
import type { CircuitPosterior } from "./posterior";
import type { PredictionTable } from "./tables";

/** Minutes to reach a place when the circuit does not say. */
export const DEFAULT_ACCESS: Readonly<Record<string, number>> = { sensor: 2, module: 8 };
/** Minutes to reach an inline connector when the circuit does not say. */
export const INLINE_ACCESS = 4;
/** Minutes to unplug and plug a connector again. */
const UNPLUG_MINUTES: Readonly<Record<string, number>> = { sensor: 0.4, module: 1.5 };
/** What a first unplugging may cost by curing a bad contact for a day, in minutes. */
const DISTURBANCE_MINUTES = 1.2;
/** Below this a test is not worth walking to the car for, bits. */
const LEAST_BITS = 0.01;

/** A test that may have missed a fault that comes and goes is tried this often; moving and stimulating wait for one even in an ordinary job. */
const MOST_TRIES = 4;
const MOST_MOVES = 2;

/** What has been done so far, as far as it changes the price of the next test. */
export interface Progress {
  readonly reached: ReadonlySet<string>;
  readonly unplugged: ReadonlySet<string>;
  readonly done: ReadonlyMap<string, number>;
  readonly last: string | null;
  /** Tests whose reading is in doubt: only these, and tests that wait for a fault to show, are worth repeating. */
  readonly doubted: ReadonlySet<string>;
  readonly bench: ReadonlySet<Instrument> | null;
  /** The fault comes and goes: a reading that looks healthy may be taken again. */
  readonly passing: boolean;
  /** The engine does not start: nothing can be read at idle or above. */
  readonly noStart: boolean;
  /** Tests the technician cannot or will not do. */
  readonly skipped: ReadonlySet<string>;
}

export interface RankedTest {
  readonly offered: OfferedTest;
  readonly outcomes: Outcomes;
  readonly gainBits: number;
  readonly minutes: number;
  /** Bits per minute under what is to be settled now. */
  readonly score: number;
}

/** A test of one circuit: its id repeats in others. */
export function testKey(circuit: string, id: string): string {
  return `${circuit} ${id}`;
}

/** A place of the car: the module is one, everything else belongs to a circuit. */
export function placeKey(circuit: string, place: string): string {
  return place === "module" || place.includes(":") ? place : `${circuit}:${place}`;
}

/** Minutes a test costs now: itself, reaching places not yet reached, unplugging, disturbance. */
export function minutesOf(offered: OfferedTest, access: (circuit: string) => Readonly<Record<string, number>> | undefined, progress: Progress): number {
  const { procedure } = offered;
  let minutes = procedure.minutes;
  const done = (places: ReadonlySet<string>, place: string): boolean => places.has(placeKey(procedure.circuit, place));
  for (const place of new Set(procedure.reach)) {
    const [first = "", second] = place.split(":");
    const local = second ?? first;
    const known = access(second === undefined ? procedure.circuit : first)?.[local];
    if (!done(progress.reached, place)) minutes += known ?? DEFAULT_ACCESS[local] ?? INLINE_ACCESS;
  }
  for (const place of procedure.opens) {
    minutes += UNPLUG_MINUTES[place] ?? 0.5;
    if (!done(progress.unplugged, place)) minutes += DISTURBANCE_MINUTES;
  }
  return Number(minutes.toFixed(2));
}

/** How often a test may be done. A second look sees what the first one saw. */
function triesOf({ meter, technique }: Procedure, id: string, { passing, doubted }: Progress): number {
  if (meter === "look") return 1;
  if (passing) return MOST_TRIES;
  if (technique === "T8" || technique === "T9") return MOST_MOVES;
  return doubted.has(id) ? 2 : 1;
}

/** Tests that may be offered: the tools are at hand, not skipped, not done just now, repeated only for a reason. */
export function possibleTests(posterior: CircuitPosterior, progress: Progress): number[] {
  return posterior.engine.tests().flatMap(({ procedure }, index) => {
    const { bench } = progress;
    if (bench !== null && procedure.needs.some((tool) => !bench.has(tool))) return [];
    const { key } = procedure.setup;
    if (progress.noStart && (key === "idle" || key === "rev")) return [];
    const id = testKey(procedure.circuit, procedure.id);
    if (progress.skipped.has(id) || progress.skipped.has(procedure.id) || progress.last === id) return [];
    return (progress.done.get(id) ?? 0) >= triesOf(procedure, id, progress) ? [] : [index];
  });
}

/** A test that may be offered, with what it would show under the present belief, computed when it is asked for. */
export interface PossibleTest {
  readonly offered: OfferedTest;
  readonly minutes: number;
  readonly outcomes: () => Outcomes;
  /** Outcomes under two units alone, which is far less work. */
  readonly between: (first: number, second: number) => Outcomes;
}

/** Tests are computed together in lots of this size, which shares the solving of their setups. */
const LOT = 16;

/** Every possible test under the present belief, the quickest first. */
export function outlook(
  posterior: CircuitPosterior,
  progress: Progress,
  alive: (unit: number) => boolean,
  passing = false,
): { belief: Belief; tests: PossibleTest[] } {
  const { engine, observations, evidence, weights } = posterior;
  const belief = believe(engine.points, engine.columns, observations, evidence, weights, alive, passing);
  const offered = engine.tests();
  const access = (id: string): Readonly<Record<string, number>> | undefined => engine.circuitOf(id).circuit.access;
  const order = possibleTests(posterior, progress)
    .map((index) => ({ index, minutes: minutesOf(offered[index] as OfferedTest, access, progress) }))
    .sort((a, b) => a.minutes - b.minutes);
  const wanted = belief.active.map(({ point }) => point);
  const known: (Outcomes | undefined)[] = [];
  const compute = (at: number): Outcomes => {
    const ready = known[at];
    if (ready !== undefined) return ready;
    const from = at - (at % LOT);
    const lot = order.slice(from, from + LOT);
    const tables = engine.testTables(
      lot.map(({ index }) => index),
      wanted,
    );
    tables.forEach((table, position) => {
      known[from + position] = outcomesOf(belief, table);
    });
    return known[at] as Outcomes;
  };
  const beliefs = new Map<string, Belief>();
  const under = (first: number, second: number): Belief => {
    const key = `${first} ${second}`;
    const found = beliefs.get(key) ?? onlyUnits(belief, [first, second]);
    beliefs.set(key, found);
    return found;
  };
  const between = (index: number, first: number, second: number): Outcomes => {
    const own = under(first, second);
    const [table] = engine.testTables(
      [index],
      own.active.map(({ point }) => point),
    );
    return outcomesOf(own, table as PredictionTable);
  };
  const tests = order.map(({ index, minutes }, at) => ({
    offered: offered[index] as OfferedTest,
    minutes,
    outcomes: () => compute(at),
    between: (first: number, second: number) => between(index, first, second),
  }));
  return { belief, tests };
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
    if (Math.min(MOST_BOUND, Math.max(LEAST_BOUND, MOST_TIMES * best)) / minutes < worst && !costless) break;
    const seen = outcomes();
    const gainBits = informationBits(seen, scale);
    best = Math.max(best, gainBits);
    if (gainBits <= LEAST_BITS) continue;
    const test: RankedTest = { offered, outcomes: seen, gainBits, minutes, score: costless ? gainBits : gainBits / minutes };
    const at = ranked.findIndex((other) => other.score < test.score);
    ranked.splice(at < 0 ? ranked.length : at, 0, test);
  }
  return ranked;
}

/** Whether any test could tell two units apart by so many bits, with both equally likely; quick tests are asked first. */
export function separable(tests: readonly PossibleTest[], first: number, second: number, weights: Float64Array, bits: number): boolean {
  const scale = new Float64Array(weights.length);
  for (const unit of [first, second]) scale[unit] = 0.5 / Math.max(1e-300, weights[unit] as number);
  return tests.some(({ between }) => informationBits(between(first, second), scale) >= bits);
}
