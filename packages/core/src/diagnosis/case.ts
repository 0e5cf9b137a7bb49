import type { Reading } from "@fox-lamp/language";
import type { DiagnosedJob, NumberedReading } from "./job-part";
import type { CasePart } from "./part";
import { type CircuitPosterior, type JointPosterior, slipProbability } from "./posterior";

/** One observation with how likely it slipped. */
export interface Slip {
  readonly posterior: CircuitPosterior;
  readonly index: number;
  readonly id: string;
  readonly probability: number;
}

/** A job with everything its readings say weighed. */
export interface Case {
  readonly job: DiagnosedJob;
  /** The circuit of readings that name none; empty where the job has several. */
  readonly whole: string;
  readonly numbered: readonly NumberedReading[];
  readonly readings: ReadonlyMap<string, Reading>;
  readonly parts: readonly CasePart[];
  readonly joint: JointPosterior;
  readonly slips: readonly Slip[];
  /** What two faults could do instead of the one that leads, set before that one may be declared; null while none leads, and where two already count. */
  challenge: Challenge | null;
}

/** The circuits of the leading unit weighed once more with pairs of faults beside the single ones. */
export interface Challenge {
  /** Place of the circuits among the case's parts. */
  readonly at: number;
  readonly posterior: CircuitPosterior;
}

/** Called before each stretch of work: how many are done, of how many, and what comes now. */
export type Report = (done: number, total: number, what: string) => void;

/** Whether the job's fault comes and goes: it says so, or a reading says that the complaint was not there. */
export function comesAndGoes(job: DiagnosedJob): boolean {
  return job.intermittent === true || (job.intermittent === undefined && (job.readings ?? []).some(({ symptom }) => symptom === false));
}

/** How likely each reading slipped; codes do not slip, they are stored or not. */
export function slipsOf(joint: JointPosterior): Slip[] {
  return joint.circuits.flatMap((posterior) =>
    posterior.observations.flatMap((observation, index): Slip[] =>
      observation.number === null && observation.table.wordNames.includes("not stored")
        ? []
        : [{ posterior, index, id: observation.id, probability: slipProbability(posterior, index) }],
    ),
  );
}
