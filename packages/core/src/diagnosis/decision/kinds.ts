import { BadInput } from "@fox-lamp/language";
import { alternativesOf, differing, type MeantCircuit, seenApart, shownParts, tellsApart } from "../../circuit";
import { logSumExp } from "../../numeric";
import type { WeighedCluster } from "../inference/cluster";
import type { DiagnosedJob } from "../inference/diagnosed-job";
import { DECLARE } from "../posterior/unit-evidence";
import type { WeighedJob } from "../posterior/weighed-job";
import { otherPulls } from "./other-pulls";
import { overtakenIn } from "./overtaken";
import type { Standing } from "./standing";

/** Something a sheet leaves out on which a verdict hangs: any of the parameters that say it. */
export interface HangsOn {
  readonly circuit: string;
  readonly parameters: readonly string[];
}

/** What a job says under other kinds of its circuits beside a weighed one: whatever could not weigh anything there may be left out. */
export type Glance = (job: DiagnosedJob, beside: WeighedJob) => WeighedJob;

/** A kind this much rarer than the one that was taken, after all readings, changes nothing, logarithm. */
const LEAST_LOG = Math.log(0.01);

/** log P(readings and codes of a set of circuits), whatever is wrong with them. */
function evidenceOf({ inference: { grid }, evidence }: WeighedCluster): number {
  return logSumExp(Array.from(grid.logPrior, (prior, cell) => prior + (evidence.logLikelihood[cell] ?? 0)));
}

function clusterOf({ clusters }: WeighedJob, circuit: string): number {
  return clusters.findIndex(({ inference }) => inference.circuits.some(({ id }) => id === circuit));
}

/** Of all lists of parameters that would tell a kind from the one that was taken, the shortest ones. */
function shortest(lists: readonly (readonly string[])[]): string[] {
  const least = Math.min(...lists.map(({ length }) => length));
  return [...new Set(lists.filter(({ length }) => length === least).flat())];
}

/**
 * What the leader's sheets leave out that would change the verdict: where a sheet is silent one kind of circuit was taken, the one that a sound
 * circuit's readings fit best. Here the others are tried with all their faults, and counted by how well they explain the readings.
 *
 * @param asked the job as its sheets stand, silent where they are
 */
export function hangsOn(asked: DiagnosedJob, weighed: WeighedJob, { posterior, group }: Standing, glance: Glance): readonly HangsOn[] {
  if (posterior === null) return [];
  const own = new Set(posterior.inference.circuits.map(({ id }) => id));
  return asked.circuits.flatMap((circuit): HangsOn[] => {
    const kinds = own.has(circuit.id) ? alternativesOf(circuit) : [];
    const taken = weighed.job.circuits.find(({ id }) => id === circuit.id);
    if (kinds.length < 2 || taken === undefined) return [];
    const weighedAs = new Map<string, WeighedJob | null>();
    const tried = kinds.flatMap(({ circuit: kind, weight }) => {
      const same = JSON.stringify(kind.with) === JSON.stringify(taken.with);
      const alike = same || !tellsApart(asked.readings ?? [], taken, kind, weighed.onlyCircuit);
      const parts = shownParts(asked.readings ?? [], kind, weighed.onlyCircuit);
      if (!weighedAs.has(parts)) {
        const own = weighed.job.circuits.map((one) => (one.id === kind.id ? kind : one));
        weighedAs.set(parts, alike ? weighed : attempt(() => glance({ ...weighed.job, circuits: own }, weighed)));
      }
      const other = weighedAs.get(parts) ?? null;
      const at = other === null ? -1 : clusterOf(other, circuit.id);
      const cluster = other?.clusters[at];
      const part = other?.joint.circuits[at];
      if (cluster === undefined || part === undefined) return [];
      const sure = part.inference.grid.units.reduce((sum, unit, index) => sum + (group.includes(unit) ? (part.units[index] ?? 0) : 0), 0);
      return [{ log: Math.log(weight) + evidenceOf(cluster), sure, kind, same }];
    });
    const best = Math.max(...tried.map(({ log }) => log));
    const counted = tried.filter(({ log }) => log - best >= LEAST_LOG);
    const total = counted.reduce((sum, { log }) => sum + Math.exp(log - best), 0);
    const sure = counted.reduce((sum, one) => sum + Math.exp(one.log - best) * one.sure, 0) / total;
    const least = Math.min(DECLARE, tried.find(({ same }) => same)?.sure ?? DECLARE) - SLACK;
    if (sure >= least) return [];
    const others = counted.filter(({ same }) => !same);
    const turning = others.filter((one) => one.sure < least);
    return [{ circuit: circuit.id, parameters: shortest((turning.length > 0 ? turning : others).map(({ kind }) => differing(taken, kind))) }];
  });
}

/** From this probability of a fault nobody knows the other kinds of circuit are tried with all their faults. */
const UNKNOWN_TRIED = 0.1;
/** And from this number of readings on that would have to be slipped. */
const SLIPPED_TRIED = 0.5;

/** Whether a set of circuits leaves its readings to a fault nobody knows, or to slips. */
function explainsBadly(weighed: WeighedJob, at: number): boolean {
  const part = weighed.joint.circuits[at];
  const corrected = overtakenIn(weighed);
  const slipped = weighed.doubts.reduce((sum, { posterior, probability, id }) => sum + (posterior === part && !corrected.has(id) ? probability : 0), 0);
  return part !== undefined && (part.unknown >= UNKNOWN_TRIED || slipped >= SLIPPED_TRIED);
}

/**
 * The job under the kinds of circuit that explain its readings best, where those that were taken leave them to a fault nobody knows: a line at
 * 7 V fits no sound circuit of either kind, and a bad contact only where 12 V pull it up.
 *
 * @param asked the job as its sheets stand, silent where they are
 * @param weigh weighs a job whose sheets say what is meant: nobody knows beforehand how well another kind explains what this one does not
 * @param strained circuits whose leader explains the readings only with something hardly anybody builds, and what that is: there the others are
 * tried as well, and other pulls
 */
export function likelierKinds(
  asked: DiagnosedJob,
  weighed: WeighedJob,
  weigh: (job: DiagnosedJob) => WeighedJob,
  strained: ReadonlyMap<string, readonly string[]> = new Map(),
): WeighedJob {
  let best = weighed;
  for (const circuit of asked.circuits) {
    const at = clusterOf(best, circuit.id);
    const cluster = best.clusters[at];
    const asks = explainsBadly(best, at) || strained.has(circuit.id);
    const meant = asks ? alternativesOf(circuit) : [];
    const taken = best.job.circuits.find(({ id }) => id === circuit.id);
    if (cluster === undefined || taken === undefined) continue;
    const isTaken = ({ circuit: kind }: MeantCircuit): boolean => JSON.stringify(kind.with) === JSON.stringify(taken.with);
    const usual = meant.find(isTaken)?.weight ?? 1;
    const pulls = otherPulls(taken, strained.get(circuit.id) ?? []).map((kind) => ({ ...kind, weight: usual * kind.weight }));
    const kinds = seenApart(asked.readings ?? [], [...meant, ...pulls], best.onlyCircuit);
    if (kinds.length < 2) continue;
    const isSeen = ({ circuit: kind }: MeantCircuit): boolean => tellsApart(asked.readings ?? [], taken, kind, best.onlyCircuit);
    let log = Math.log(usual) + evidenceOf(cluster);
    for (const kind of kinds) {
      if (isTaken(kind) || !isSeen(kind)) continue;
      const job = { ...weighed.job, circuits: best.job.circuits.map((one) => (one.id === circuit.id ? kind.circuit : one)) };
      const other = attempt(() => weigh(job));
      const own = other?.clusters[clusterOf(other, circuit.id)];
      if (other === null || own === undefined) continue;
      const otherLog = Math.log(kind.weight) + evidenceOf(own);
      if (otherLog <= log) continue;
      log = otherLog;
      best = other;
    }
  }
  return best;
}

/** Other kinds may make it a little less sure: a verdict that was just sure enough is not turned by that. */
const SLACK = 0.05;

/** A weighed job; null where a kind of circuit has no place that somebody had a lead on. */
function attempt(weigh: () => WeighedJob): WeighedJob | null {
  try {
    return weigh();
  } catch (error) {
    if (error instanceof BadInput) return null;
    throw error;
  }
}
