import type { EngineCache } from "./cache";
import type { DiagnosedJob } from "./job-part";
import { openCase } from "./open-case";
import { possibleTestsOf, standingOf } from "./standing";

/** Tests whose predictions are made ready for every hypothesis: one of them is most likely taken next. */
const LIKELY = 6;

/**
 * Computes ahead what the next advice on a job will need, while somebody walks to the car: the predictions of the likeliest next readings
 * under every hypothesis, then those of all other tests under what is still alive. Each step takes some milliseconds; the caller does
 * something else between two steps, or stops. Nothing that is answered later depends on it but the time it takes.
 */
export function* preparations(job: DiagnosedJob, cache: EngineCache): Generator<void, void, void> {
  const opened = openCase(job, cache);
  const { tests, owed } = standingOf(opened);
  const likely = [...tests, ...owed()].filter(({ posterior }) => opened.joint.circuits.includes(posterior)).slice(0, LIKELY);
  for (const { posterior, test } of likely) {
    posterior.engine.testTables([posterior.engine.tests().indexOf(test.offered)], null);
    yield;
  }
  for (const possible of possibleTestsOf(opened)) {
    for (const { outcomes } of possible) {
      outcomes();
      yield;
    }
  }
}
