import type { Reading } from "@fox-lamp/language";
import { buildModel, type CircuitModel } from "../circuit";
import { hintsAmong } from "../faults";
import type { EngineCache } from "./cache";
import { circumstancesOf } from "./circumstances";
import { clustersOf } from "./clusters";
import type { CircuitEngine } from "./engine";
import type { Evidence, Observation } from "./evidence";
import { assertCircuits, conditionsOf, type DiagnosedJob, knownFor, type NumberedReading, numberReadings, openWorlds } from "./job-part";
import { policyOf } from "./policy";
import { type CircuitPosterior, combine, type JointPosterior, slipProbability } from "./posterior";

/** One set of circuits that share something, with the readings that are theirs. */
export interface CasePart {
  readonly engine: CircuitEngine;
  readonly own: readonly NumberedReading[];
  readonly observations: readonly Observation[];
  readonly evidence: Evidence;
}

/** One observation with how likely it slipped. */
interface Slip {
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
}

/** Whether the job's fault comes and goes: it says so, or a reading says that the complaint was not there. */
export function comesAndGoes(job: DiagnosedJob): boolean {
  return job.intermittent === true || (job.intermittent === undefined && (job.readings ?? []).some(({ symptom }) => symptom === false));
}

/**
 * Weighs a job's readings: circuits that share anything together, the rest apart, joined under one fault at most.
 *
 * @throws BadInput for circuits or readings that cannot be
 */
export function openCase(job: DiagnosedJob, cache: EngineCache): Case {
  const numbered = numberReadings(job);
  assertCircuits(job, numbered);
  const only = job.circuits.length > 1 ? undefined : job.circuits[0]?.id;
  const whole = only ?? "";
  const model = buildModel(job.circuits);
  const policy = policyOf(job.policy);
  const hints = hintsAmong(job.hints ?? []);
  const circuitOf = (reading: Reading): CircuitModel | undefined => model.circuits.find(({ id }) => id === (reading.circuit ?? only));
  const parts = clustersOf(model).map((circuits): CasePart => {
    const ids = new Set(circuits.map(({ id }) => id));
    const own = numbered.filter(({ reading }) => ids.has(reading.circuit ?? whole));
    const conditions = Object.fromEntries(
      circuits.map(({ id }) => {
        const { world } = (model.circuits.find((circuit) => circuit.id === id) as CircuitModel).built;
        const said = conditionsOf(
          own.filter(({ reading }) => (reading.circuit ?? whole) === id),
          world,
        );
        return [id, { ...said, ...knownFor(model, id, job.conditions ?? {}) }];
      }),
    );
    const open = openWorlds(own, circuitOf, conditions);
    const engine = cache.get(circuits, { conditions, open, hints, policy, carId: model.carId }, "circuits");
    const observations = engine.observe(own);
    const known = circumstancesOf(engine, own, observations, whole, comesAndGoes(job));
    return { engine, own, observations, evidence: engine.weigh(observations, known) };
  });
  const joint = combine(parts);
  const slips = joint.circuits.flatMap((posterior) =>
    posterior.observations.map((observation, index) => ({ posterior, index, id: observation.id, probability: slipProbability(posterior, index) })),
  );
  return { job, whole, numbered, readings: new Map(numbered.map(({ id, reading }) => [id, reading])), parts, joint, slips };
}
