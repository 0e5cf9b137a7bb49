import type { MatchedCode } from "../../codes";
import type { Circumstances, Evidence, Observation } from "../likelihood/observation";
import type { CodeObservation } from "./code-evidence";
import type { Inference } from "./inference";
import type { NamedReading } from "./observe";

/** One set of circuits that share something, with the readings that are theirs. */
export interface WeighedCluster {
  readonly inference: Inference;
  readonly own: readonly NamedReading[];
  /** The readings' observations, then the codes'. */
  readonly observations: readonly Observation[];
  readonly codes: readonly CodeObservation[];
  /** The circuits of the whole job that a code speaks of. */
  readonly matched: (code: string) => readonly MatchedCode[];
  readonly evidence: Evidence;
  readonly known: Circumstances;
}
