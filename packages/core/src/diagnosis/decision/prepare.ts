import type { DiagnosedJob } from "../inference/diagnosed-job";
import type { Inference } from "../inference/inference";
import type { Session } from "../inference/session";
import { challengeAhead, openCase } from "./open-case";
import { testsNow } from "./what-now";

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
export function* preparations(job: DiagnosedJob, session: Session): Generator<void, void, void> {
  const opened = openCase(job, session);
  const likely = testsNow(opened).slice(0, LIKELY);
  const fill = function* (grids: (inference: Inference) => readonly Inference[]): Generator<void, void, void> {
    for (const { posterior, test } of likely) {
      for (const grid of grids(posterior.inference.own)) {
        grid.fillAhead(test.offered);
        yield;
      }
    }
  };
  yield* fill((own) => [own]);
  challengeAhead(opened);
  yield;
  yield* fill((own) => own.others());
  const { possible } = opened.standing();
  for (const { outcomes } of possible.flat()) {
    outcomes();
    yield;
  }
  // What would tell the leader from its challengers is looked for among all tests.
  for (const [at, { inference }] of opened.joint.circuits.entries()) {
    const challengers = inference.own.others().at(-1);
    if (challengers === undefined) continue;
    for (const { offered } of possible[at] ?? []) {
      challengers.testTables([offered], null);
      yield;
    }
  }
  for (const [at, { inference }] of opened.joint.circuits.entries()) {
    const numbers = inference.grid.count * inference.columns.count;
    for (const { offered } of (possible[at] ?? []).slice(0, Math.floor(MOST_NUMBERS / numbers))) {
      inference.testTables([offered], null);
      yield;
    }
  }
}
