import { logSumExp } from "../numeric";
import type { CircuitEngine } from "./engine";
import type { Evidence, Observation } from "./evidence";
import { faultWeights, unitEvidence, unitWeights } from "./verdict";

/** What the readings say about one circuit, seen beside the others of the job. */
export interface CircuitPosterior {
  readonly engine: CircuitEngine;
  readonly observations: readonly Observation[];
  readonly evidence: Evidence;
  /** Posterior of every point; the healthy points carry everything that does not lie in this circuit. Sums to one. */
  readonly weights: Float64Array;
  readonly units: Float64Array;
  readonly faults: Float64Array;
  /** log P(readings | unit) - log P(readings | healthy), comparable between circuits. */
  readonly relative: Float64Array;
}

/** Joint posterior of independent circuits under one fault at most: each circuit's healthy hypothesis joins them. */
export interface JointPosterior {
  readonly circuits: readonly CircuitPosterior[];
  /** Probability that nothing is wrong in any circuit. */
  readonly healthy: number;
}

/** Combines the circuits' evidence. With one fault in one circuit, all others are healthy, which factorises exactly. */
export function combine(parts: readonly { engine: CircuitEngine; observations: readonly Observation[]; evidence: Evidence }[]): JointPosterior {
  const share = Math.log(parts.length);
  const scaled = parts.map(({ engine, evidence }) => {
    const { points } = engine;
    const joint = Float64Array.from({ length: points.count }, (_, point) => (points.logPrior[point] as number) + (evidence.logLikelihood[point] as number));
    const healthyPoints: number[] = [];
    for (let point = 0; point < points.count; point += 1) if (points.fault[point] === 0) healthyPoints.push(joint[point] as number);
    const healthy = logSumExp(healthyPoints);
    for (let point = 0; point < points.count; point += 1) {
      joint[point] = (joint[point] as number) - healthy - (points.fault[point] === 0 ? 0 : share);
    }
    const faultPart = logSumExp(joint.filter((_, point) => points.fault[point] !== 0));
    return { joint, faultPart };
  });
  const total = logSumExp([0, ...scaled.map(({ faultPart }) => faultPart)]);
  const circuits = parts.map(({ engine, observations, evidence }, index): CircuitPosterior => {
    const { joint, faultPart } = scaled[index] as (typeof scaled)[number];
    const { points } = engine;
    const elsewhere = Math.max(0, 1 - Math.exp(faultPart - total));
    const weights = Float64Array.from(joint, (value, point) => (points.fault[point] === 0 ? Math.exp(value) * elsewhere : Math.exp(value - total)));
    const absolute = unitEvidence(points, evidence.logLikelihood);
    points.units.forEach((unit, at) => {
      absolute[at] = (absolute[at] as number) + (engine.outsideLog.get(unit) ?? 0);
    });
    const relative = absolute.map((value) => value - (absolute[0] as number));
    return { engine, observations, evidence, weights, units: unitWeights(points, weights), faults: faultWeights(points, weights), relative };
  });
  return { circuits, healthy: Math.exp(-total) };
}

/** P(this observation slipped), averaged over the posterior. */
export function slipProbability(posterior: CircuitPosterior, index: number): number {
  const { weights, evidence, observations } = posterior;
  let sum = 0;
  for (let point = 0; point < weights.length; point += 1) sum += (weights[point] as number) * (evidence.slipped[point * observations.length + index] as number);
  return sum;
}
