import type { CodeObservation } from "./code-evidence";
import type { CircuitEngine } from "./engine";
import type { Evidence, Observation } from "./evidence";
import type { NumberedReading } from "./job-part";

/** One set of circuits that share something, with the readings that are theirs. */
export interface CasePart {
  readonly engine: CircuitEngine;
  readonly own: readonly NumberedReading[];
  /** The readings' observations, then the codes'. */
  readonly observations: readonly Observation[];
  readonly codes: readonly CodeObservation[];
  readonly evidence: Evidence;
}
