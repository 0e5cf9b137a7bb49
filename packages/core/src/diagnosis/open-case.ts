import type { Reading } from "@fox-lamp/language";
import { buildModel, type CircuitModel } from "../circuit";
import { hintsAmong } from "../faults";
import type { EngineCache } from "./cache";
import { type Case, comesAndGoes, type Report, slipsOf } from "./case";
import { circumstancesOf } from "./circumstances";
import { clustersOf } from "./clusters";
import { codeObservations } from "./code-evidence";
import type { CircuitEngine } from "./engine";
import { pairShare } from "./involved";
import { assertCircuits, conditionsOf, type DiagnosedJob, knownFor, type NumberedReading, numberReadings, openWorlds } from "./job-part";
import { weighPairs } from "./pairs";
import type { CasePart } from "./part";
import { policyOf } from "./policy";
import { type CircuitPosterior, combine, type JointPosterior } from "./posterior";
import { standingOf } from "./standing";
import { bareStatus, stakeOf } from "./status";

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
  const caseOf = (settled: readonly CasePart[], joint: JointPosterior): Case => {
    const readings = new Map(numbered.map(({ id, reading }) => [id, reading]));
    for (const { codes } of settled) for (const { observation, reading } of codes) readings.set(observation.id, reading);
    return { job, whole, numbered, readings, parts: settled, joint, slips: slipsOf(joint), challenge: null };
  };
  const opened = caseOf(parts, single);
  const wanted = pairedPart(opened);
  const part = wanted === null ? undefined : parts[wanted.at];
  const pairs = wanted === null || part === undefined ? null : weighPairs(part, (engine) => weighPart(engine, part.own, job, whole), wanted.led);
  if (wanted === null || pairs === null) return opened;
  const { at } = wanted;
  const grown = parts.map((own) => (own === part ? pairs : own));
  const joint = combine(grown);
  if (pairShare(joint) > PAIR_NOTICED) return caseOf(grown, joint);
  opened.challenge = { at, posterior: joint.circuits[at] as CircuitPosterior };
  return opened;
}

/**
 * Solves the pairs that would challenge whoever leads now, though nobody is about to be declared: when the next reading makes it so, most of
 * them are known.
 */
export function challengeAhead(opened: Case): void {
  const { job, whole, parts, joint, challenge } = opened;
  const { posterior, group } = standingOf(opened);
  const part = posterior === null ? undefined : parts[joint.circuits.indexOf(posterior)];
  if (part === undefined || challenge !== null || part.engine.points.names !== null || comesAndGoes(job)) return;
  weighPairs(part, (engine) => weighPart(engine, part.own, job, whole), group);
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
 * The circuits whose readings fit no single fault, else those of a unit that would be declared now; null where there is no cause to try
 * pairs. Where pairs explain no more than single faults do, the job keeps to these, and what pairs could do instead is kept beside them.
 */
function pairedPart(opened: Case): { readonly at: number; readonly led: readonly string[] | null } | null {
  const { job, parts, joint, slips } = opened;
  if (comesAndGoes(job)) return null;
  const doubts = parts.map(() => 0);
  for (const { posterior, probability } of slips)
    if (probability > 0.2) {
      const at = joint.circuits.indexOf(posterior);
      doubts[at] = (doubts[at] ?? 0) + probability;
    }
  const worst = doubts.indexOf(Math.max(...doubts));
  if ((doubts[worst] ?? 0) >= PAIR_FLAG) return { at: worst, led: null };
  const standing = standingOf(opened);
  if (standing.posterior === null || bareStatus(opened, standing, stakeOf(opened, standing)) !== "proven") return null;
  return { at: joint.circuits.indexOf(standing.posterior), led: standing.group };
}
