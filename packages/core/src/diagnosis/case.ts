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
import { weighPairs } from "./pairs";
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
  /** What two faults could do instead of the one that leads; null while none leads, and where two already count. */
  readonly challenge: Challenge | null;
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
  const { parts: settled, joint, challenge } = withPairs(job, whole, parts, single);
  const slips = slipsOf(joint);
  const readings = new Map(numbered.map(({ id, reading }) => [id, reading]));
  for (const { codes } of settled) for (const { observation, reading } of codes) readings.set(observation.id, reading);
  return { job, whole, numbered, readings, parts: settled, joint, slips, challenge };
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

/** From this probability on a single fault is challenged by pairs before it may be declared. */
const CHALLENGED = 0.9;

/** The circuits whose readings fit no single fault, else those of a unit that is nearly proven; null where there is no cause to try pairs. */
function pairedPart(job: DiagnosedJob, parts: readonly CasePart[], single: JointPosterior): { readonly at: number; readonly misfit: boolean } | null {
  if (comesAndGoes(job)) return null;
  const doubts = parts.map(() => 0);
  for (const { posterior, probability } of slipsOf(single))
    if (probability > 0.2) {
      const at = single.circuits.indexOf(posterior);
      doubts[at] = (doubts[at] ?? 0) + probability;
    }
  const worst = doubts.indexOf(Math.max(...doubts));
  if ((doubts[worst] ?? 0) >= PAIR_FLAG) return { at: worst, misfit: true };
  const leading = single.circuits.findIndex(({ units }) => units.some((share, unit) => unit > 0 && share >= CHALLENGED));
  return leading < 0 ? null : { at: leading, misfit: false };
}

/**
 * Where readings of some circuits fit no single fault, or one is nearly proven, tries pairs of faults on them. The job keeps to single
 * faults where these explain more than pairs do; what pairs could do instead is kept beside it.
 */
function withPairs(job: DiagnosedJob, whole: string, parts: readonly CasePart[], single: JointPosterior): Pick<Case, "parts" | "joint" | "challenge"> {
  const wanted = pairedPart(job, parts, single);
  const part = wanted === null ? undefined : parts[wanted.at];
  const pairs = wanted === null || part === undefined ? null : weighPairs(part, (engine) => weighPart(engine, part.own, job, whole), wanted.misfit);
  if (wanted === null || pairs === null) return { parts, joint: single, challenge: null };
  const { at } = wanted;
  const grown = parts.map((own) => (own === part ? pairs : own));
  const joint = combine(grown);
  if (pairShare(joint) > PAIR_NOTICED) return { parts: grown, joint, challenge: null };
  return { parts, joint: single, challenge: { at, posterior: joint.circuits[at] as CircuitPosterior } };
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
