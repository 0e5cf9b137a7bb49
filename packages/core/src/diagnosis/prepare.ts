import type { EngineCache } from "./cache";
import type { CircuitEngine } from "./engine";
import type { DiagnosedJob } from "./job-part";
import { challengeAhead, openCase } from "./open-case";
import { possibleTestsOf, standingOf } from "./standing";
import { stakeOf, testsNow } from "./status";

/** Tests whose predictions are made ready for every hypothesis: one of them is most likely taken next. */
const LIKELY = 6;

/** Of other tests so many numbers are computed for every hypothesis, the quickest tests first. */
const MOST_NUMBERS = 4e6;

/**
 * Computes ahead what the next advice on a job will need, while somebody walks to the car: the predictions of the likeliest next readings
 * under every hypothesis, single or in the pairs that challenge the leader, then those of all other tests under what is still alive, and
 * then under what may come back. Each step takes some milliseconds; the caller does something else between two steps, or stops. Nothing
 * that is answered later depends on it but the time it takes.
 */
export function* preparations(job: DiagnosedJob, cache: EngineCache): Generator<void, void, void> {
  const opened = openCase(job, cache);
  const standing = standingOf(opened);
  const likely = testsNow(opened, standing, stakeOf(opened, standing)).slice(0, LIKELY);
  const fill = function* (grids: (engine: CircuitEngine) => readonly CircuitEngine[]): Generator<void, void, void> {
    for (const { posterior, test } of likely) {
      for (const grid of grids(posterior.engine)) {
        grid.fillAhead(test.offered);
        yield;
      }
    }
  };
  yield* fill((engine) => engine.grids().slice(0, 1));
  challengeAhead(opened);
  yield;
  yield* fill((engine) => engine.grids().slice(1));
  const possible = possibleTestsOf(opened);
  for (const { outcomes } of possible.flat()) {
    outcomes();
    yield;
  }
  // What would tell the leader from its challengers is looked for among all tests.
  for (const [at, { engine }] of opened.joint.circuits.entries()) {
    const challengers = engine.grids().at(-1);
    if (challengers === undefined || challengers.points.names === null) continue;
    for (const { offered } of possible[at] ?? []) {
      challengers.testTables([engine.tests().indexOf(offered)], null);
      yield;
    }
  }
  for (const [at, { engine }] of opened.joint.circuits.entries()) {
    const numbers = engine.points.count * engine.columns.count;
    for (const { offered } of (possible[at] ?? []).slice(0, Math.floor(MOST_NUMBERS / numbers))) {
      engine.testTables([engine.tests().indexOf(offered)], null);
      yield;
    }
  }
}
