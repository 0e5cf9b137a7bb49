import type { Reading } from "@fox-lamp/language";
import type { WeighedCluster } from "../inference/cluster";
import { isOfCode } from "../inference/code-evidence";
import type { DiagnosedJob } from "../inference/diagnosed-job";
import type { NamedReading } from "../inference/observe";
import { showsWhileMoved } from "./moved";
import { type CircuitPosterior, type JointPosterior, slipProbability } from "./posterior";

/** One observation with how likely it slipped. */
export interface DoubtedReading {
  readonly posterior: CircuitPosterior;
  readonly index: number;
  readonly id: string;
  readonly probability: number;
}

/** A job with everything its readings say weighed. */
export interface WeighedJob {
  readonly job: DiagnosedJob;
  /** The circuit of readings that name none; empty where the job has several. */
  readonly onlyCircuit: string;
  readonly numbered: readonly NamedReading[];
  readonly readings: ReadonlyMap<string, Reading>;
  readonly clusters: readonly WeighedCluster[];
  readonly joint: JointPosterior;
  readonly doubts: readonly DoubtedReading[];
}

/** Called before each stretch of work: how many are done, of how many, and what comes now. */
export type OnProgress = (done: number, total: number, what: string) => void;

/** Whether the job's fault comes and goes: it says so, a reading says that the complaint was not there, or one became another while the loom was moved. */
export function comesAndGoes({ intermittent, readings = [] }: DiagnosedJob): boolean {
  return intermittent ?? (readings.some(({ symptom }) => symptom === false) || showsWhileMoved(readings));
}

/** How likely each reading slipped; codes do not slip, they are stored or not. */
export function doubtsOf(joint: JointPosterior): DoubtedReading[] {
  return joint.circuits.flatMap((posterior) =>
    posterior.observations.flatMap((observation, index): DoubtedReading[] =>
      isOfCode(observation) ? [] : [{ posterior, index, id: observation.id, probability: slipProbability(posterior, index) }],
    ),
  );
}
