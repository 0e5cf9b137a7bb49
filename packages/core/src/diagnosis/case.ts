import type { Reading } from "@fox-lamp/language";
import { buildModel, type CircuitModel } from "../circuit";
import { hintsAmong } from "../faults";
import type { EngineCache } from "./cache";
import { circumstancesOf } from "./circumstances";
import { clustersOf } from "./clusters";
import { codeObservations } from "./code-evidence";
import type { CircuitEngine } from "./engine";
import { pairShare } from "./involved";
import { assertCircuits, conditionsOf, type DiagnosedJob, knownFor, type NumberedReading, numberReadings, openWorlds } from "./job-part";
import { pairEngine } from "./pairs";
import type { CasePart } from "./part";
import { policyOf } from "./policy";
import { type CircuitPosterior, combine, type JointPosterior, slipProbability } from "./posterior";

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

/** Called before each stretch of work: how many are done, of how many, and what comes now. */
export type Report = (done: number, total: number, what: string) => void;

/** Whether the job's fault comes and goes: it says so, or a reading says that the complaint was not there. */
export function comesAndGoes(job: DiagnosedJob): boolean {
  return job.intermittent === true || (job.intermittent === undefined && (job.readings ?? []).some(({ symptom }) => symptom === false));
}

/**
 * Weighs a job's readings: circuits that share anything together, the rest apart, joined under one fault at most.
 *
 * @throws BadInput for circuits or readings that cannot be
 */
export function openCase(job: DiagnosedJob, cache: EngineCache, progress: Report = () => undefined): Case {
  return cache.of(job, () => weighJob(job, cache, progress));
}

function weighJob(job: DiagnosedJob, cache: EngineCache, progress: Report): Case {
  const numbered = numberReadings(job);
  assertCircuits(job, numbered);
  const only = job.circuits.length > 1 ? undefined : job.circuits[0]?.id;
  const whole = only ?? "";
  const model = buildModel(job.circuits);
  const policy = policyOf(job.policy);
  const hints = hintsAmong(job.hints ?? []);
  const circuitOf = (reading: Reading): CircuitModel | undefined => model.circuits.find(({ id }) => id === (reading.circuit ?? only));
  const clusters = clustersOf(model);
  const parts = clusters.map((circuits, index): CasePart => {
    progress(index, 2 * clusters.length, circuits.map(({ title, id }) => title ?? id).join(", "));
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
    return weighPart(engine, own, job, whole);
  });
  const single = combine(parts);
  const { parts: settled, joint } = withPairs(job, whole, parts, single);
  const slips = slipsOf(joint);
  const readings = new Map(numbered.map(({ id, reading }) => [id, reading]));
  for (const { codes } of settled) for (const { observation, reading } of codes) readings.set(observation.id, reading);
  return { job, whole, numbered, readings, parts: settled, joint, slips };
}

/** What readings and codes say of one set of circuits. */
function weighPart(engine: CircuitEngine, own: readonly NumberedReading[], job: DiagnosedJob, whole: string): CasePart {
  const codes = codeObservations(engine, job.codes ?? null);
  const observations = [...engine.observe(own), ...codes.map(({ observation }) => observation)];
  const known = circumstancesOf(engine, own, observations, whole, comesAndGoes(job));
  return { engine, own, observations, codes, evidence: engine.weigh(observations, known) };
}

/** Expected number of slipped readings among the circuits' own from which two faults are considered. */
const PAIR_FLAG = 0.5;
/** Pairs weighing less than this beside the best single faults are left out again. */
const PAIR_NOTICED = 0.2;

/**
 * Where readings of some circuits fit no single fault, tries pairs of faults on them. The job keeps to single faults where
 * slips explain more than pairs do.
 */
function withPairs(
  job: DiagnosedJob,
  whole: string,
  parts: readonly CasePart[],
  single: JointPosterior,
): { parts: readonly CasePart[]; joint: JointPosterior } {
  const passing = comesAndGoes(job);
  const doubts = parts.map(() => 0);
  if (!passing)
    for (const { posterior, probability } of slipsOf(single))
      if (probability > 0.2) {
        const at = single.circuits.indexOf(posterior);
        doubts[at] = (doubts[at] ?? 0) + probability;
      }
  const worst = doubts.indexOf(Math.max(...doubts));
  const part = parts[worst];
  if (part === undefined || (doubts[worst] ?? 0) < PAIR_FLAG) return { parts, joint: single };
  const engine = pairEngine(part);
  if (engine === null) return { parts, joint: single };
  const grown = parts.map((own) => (own === part ? weighPart(engine, part.own, job, whole) : own));
  const joint = combine(grown);
  return pairShare(joint) > PAIR_NOTICED ? { parts: grown, joint } : { parts, joint: single };
}

/** How likely each reading slipped; codes do not slip, they are stored or not. */
function slipsOf(joint: JointPosterior): Slip[] {
  return joint.circuits.flatMap((posterior) =>
    posterior.observations.flatMap((observation, index): Slip[] =>
      observation.number === null && observation.table.wordNames.includes("not stored")
        ? []
        : [{ posterior, index, id: observation.id, probability: slipProbability(posterior, index) }],
    ),
  );
}
