import type { Steps } from "../../numeric";
import type { DiagnosedJob } from "../inference/diagnosed-job";
import type { Session } from "../inference/session";
import { challengeAhead, openCase } from "./open-case";
import { testsNow } from "./what-now";

/** Tests whose predictions are made ready for every hypothesis: one of them is most likely taken next. */
const LIKELY = 6;

/** Of other tests so many numbers are computed for every hypothesis, the quickest tests first. */
const MOST_NUMBERS = 4e6;

/** Weighs a job and ranks its tests in pieces: what is asked of it afterwards is there. @throws BadInput for what cannot be */
export function* weighing(job: DiagnosedJob, session: Session): Steps<void> {
  const opened = openCase(job, session);
  yield;
  opened.standing();
  yield;
  testsNow(opened);
  yield;
}

/**
 * Computes ahead what the next advice on a job will need, while somebody walks to the car: the predictions of the likeliest next readings
 * under every hypothesis, single or in the pairs that challenge the leader, then those of all other tests under what is still alive, and
 * then under what may come back. Each step takes some milliseconds; the caller does something else between two steps, or stops. Nothing
 * that is answered later depends on it but the time it takes.
 */
export function* preparations(job: DiagnosedJob, session: Session): Steps<void> {
  const opened = openCase(job, session);
  yield;
  const [first, ...likely] = testsNow(opened).slice(0, LIKELY);
  const { possible, ahead } = opened.standing();
  // Whoever is shown a test takes it, most of the time.
  if (first !== undefined) yield* first.posterior.inference.own.fillAhead(first.test.offered);
  yield* ahead();
  for (const { posterior, test } of likely) yield* posterior.inference.own.fillAhead(test.offered);
  yield* challengeAhead(opened);
  for (const { posterior, test } of first === undefined ? [] : [first, ...likely])
    for (const grid of posterior.inference.own.others()) yield* grid.fillAhead(test.offered);
  // What would tell the leader from its challengers is looked for among all tests.
  for (const [at, { inference }] of opened.joint.circuits.entries()) {
    const challengers = inference.own.others().at(-1);
    if (challengers !== undefined) for (const { offered } of possible[at] ?? []) yield* challengers.fillTests([offered]);
  }
  for (const [at, { inference }] of opened.joint.circuits.entries()) {
    const numbers = inference.grid.count * inference.columns.count;
    for (const { offered } of (possible[at] ?? []).slice(0, Math.floor(MOST_NUMBERS / numbers))) yield* inference.fillTests([offered]);
  }
}
