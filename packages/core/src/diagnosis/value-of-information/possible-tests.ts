import { placeIn } from "@fox-lamp/language";
import type { UnsaidColumn } from "../../instruments";
import { lazy, type Steps } from "../../numeric";
import { measurementOf, type Procedure } from "../../procedures";
import type { OfferedTest } from "../inference/basis";
import { type Screen, screenOf } from "../inference/go";
import { usedAt } from "../likelihood/learn";
import type { CircuitPosterior } from "../posterior/posterior";
import { type Belief, believe, onlyUnits } from "./belief";
import { type Outcomes, outcomesOf } from "./outcomes";
import { minutesOf } from "./price";
import { type Question, questionsUnder, strainedUnder } from "./questions";
import { testKey, testOf, type WorkDone } from "./work-done";

/**
 * Where a fault comes and goes a test is done again after something has changed, this often at most; a place is moved twice in any job, and more
 * often where it did not show the same each time.
 */
const MOST_TRIES = 4;
const MOST_MOVES = 3;
const MOST_MOVES_DIFFERING = 5;
const TRIED_AGAIN: readonly (string | undefined)[] = ["sweep", "tap", "heat", "cool"];

/** Whether a test may be done once more. A second look sees what the first one saw, and so does any test while nothing has changed. */
function mayBeDone({ meter, setup, circuit, red }: Procedure, id: string, { passing, doubted, looked, done, unchanged, differing }: WorkDone): boolean {
  if (meter === "look") return !looked.has(placeIn(circuit, red));
  const times = done.get(id) ?? 0;
  if (times === 0) return true;
  const kind = setup.stimulus?.kind;
  // What shows in one wiggle, sweep, tap or warming and not in the next is worth another.
  if (differing.has(id) && (kind === "wiggle" || TRIED_AGAIN.includes(kind))) return times < MOST_MOVES_DIFFERING;
  // Of five sweeps over a worn spot one finds it sound.
  if (kind === "wiggle" || kind === "sweep") return times < MOST_MOVES;
  if (passing) return !unchanged.has(id) && times < MOST_TRIES;
  return doubted.has(id) && times < 2;
}

/** Tests that may be offered: the tools are at hand, not skipped, not done just now, repeated only for a reason. */
export function possibleTests({ inference }: Pick<CircuitPosterior, "inference">, work: WorkDone): OfferedTest[] {
  return inference.tests().filter(({ procedure }) => {
    const { bench } = work;
    if (bench !== null && procedure.needs.some((tool) => !bench.has(tool))) return false;
    const { key } = procedure.setup;
    if (work.noStart && (key === "idle" || key === "rev")) return false;
    const id = testKey(procedure.circuit, procedure.id);
    if (work.skipped.has(id) || work.skipped.has(procedure.id)) return false;
    const same = testOf(measurementOf(procedure), procedure.circuit, work.known);
    // Whoever moved a connector may move it again at once: what did not show may show now, and what showed is seen again.
    if (work.last === same && procedure.setup.stimulus?.kind !== "wiggle") return false;
    return mayBeDone(procedure, same, work);
  });
}

/** A test that may be offered, with what it would show under the present belief, computed when it is asked for. */
export interface PossibleTest {
  readonly offered: OfferedTest;
  readonly minutes: number;
  /** The screen it is read from; null for another instrument than the module's data. */
  readonly screen: Screen | null;
  readonly outcomes: () => Outcomes;
  /** Outcomes under two units alone, which is far less work. */
  readonly between: (first: number, second: number) => Outcomes;
}

/** What could be done under the present belief. */
export interface Outlook {
  /** Every possible test, the quickest first. */
  readonly tests: readonly PossibleTest[];
  /** What the sheets leave out and would tell something, computed when it is asked for. */
  readonly questions: () => readonly Question[];
  /** Computes what the tests would show, in steps. */
  readonly ahead: () => Steps<void>;
  /** What the sheets leave out that would have to be far from usual if a unit were it. */
  readonly strained: (unit: number) => readonly UnsaidColumn[];
}

/** Tests are computed together in lots of this size, which shares the solving of their setups. */
const LOT = 16;

/**
 * What could be done under the present belief.
 * @param alive which units the readings have not refuted
 */
export function outlook(posterior: CircuitPosterior, work: WorkDone, alive: (unit: number) => boolean): Outlook {
  const { inference, observations, evidence, weights } = posterior;
  const belief = believe(inference.grid, inference.columns, observations, evidence, weights, alive, work.passing ? work.complaint : null);
  const access = (id: string): Readonly<Record<string, number>> | undefined => inference.circuitOf(id).circuit.access;
  const order = possibleTests(posterior, work)
    .map((offered) => {
      const screen = screenOf(offered.procedure, work.known);
      return { offered, screen, minutes: minutesOf(offered, access, work, screen) };
    })
    .sort((a, b) => a.minutes - b.minutes);
  const wanted = belief.active.map(({ cell }) => cell);
  const lots = new Map<number, readonly Outcomes[]>();
  const outcomesAt = (at: number): Outcomes => {
    const from = at - (at % LOT);
    let lot = lots.get(from);
    if (lot === undefined) {
      const tests = order.slice(from, from + LOT).map(({ offered }) => offered);
      lot = inference.testTables(tests, wanted).map((table) => outcomesOf(belief, table));
      lots.set(from, lot);
    }
    return lot[at - from];
  };
  function* ahead(): Steps<void> {
    for (let from = 0; from < order.length; from += LOT) {
      yield* inference.fillTests(
        order.slice(from, from + LOT).map(({ offered }) => offered),
        wanted,
      );
      outcomesAt(from);
      yield;
    }
  }
  const beliefs = new Map<string, Belief>();
  const onlyBetween = (first: number, second: number): Belief => {
    const key = `${first} ${second}`;
    const found = beliefs.get(key) ?? onlyUnits(belief, [first, second]);
    beliefs.set(key, found);
    return found;
  };
  const between = (offered: OfferedTest, own: Belief): Outcomes => {
    const cells = own.active.map(({ cell }) => cell);
    return outcomesOf(own, inference.testTables([offered], cells)[0]);
  };
  const tests = order.map(({ offered, minutes, screen }, at) => ({
    offered,
    minutes,
    screen,
    outcomes: () => outcomesAt(at),
    between: (first: number, second: number) => between(offered, onlyBetween(first, second)),
  }));
  return {
    tests,
    ahead,
    questions: lazy(() => questionsUnder(belief)),
    strained: (unit) => strainedUnder(belief, unit, (cell) => usedAt(evidence, observations, cell)),
  };
}
