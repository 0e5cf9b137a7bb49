import { logSumExp } from "../../numeric";
import type { Inference } from "../inference/inference";
import type { Evidence, Observation } from "../likelihood/observation";
import { faultWeights, unitEvidence, unitWeights } from "./unit-evidence";

/** What the readings say about one circuit, seen beside the others of the job. */
export interface CircuitPosterior {
  readonly inference: Inference;
  readonly observations: readonly Observation[];
  readonly evidence: Evidence;
  /** Posterior of every cell; the healthy cells carry everything that does not lie in this circuit. Sums to one. */
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
export function combine(parts: readonly { inference: Inference; observations: readonly Observation[]; evidence: Evidence }[]): JointPosterior {
  const share = Math.log(parts.length);
  const scaled = parts.map(({ inference, evidence }) => {
    const { grid } = inference;
    const joint = Float64Array.from({ length: grid.count }, (_, cell) => grid.logPrior[cell] + evidence.logLikelihood[cell]);
    const healthyCells: number[] = [];
    for (let cell = 0; cell < grid.count; cell += 1) if (grid.fault[cell] === 0) healthyCells.push(joint[cell]);
    const healthy = logSumExp(healthyCells);
    for (let cell = 0; cell < grid.count; cell += 1) {
      joint[cell] = joint[cell] - healthy - (grid.fault[cell] === 0 ? 0 : share);
    }
    const faultPart = logSumExp(joint.filter((_, cell) => grid.fault[cell] !== 0));
    return { joint, faultPart };
  });
  const total = logSumExp([0, ...scaled.map(({ faultPart }) => faultPart)]);
  const circuits = parts.map(({ inference, observations, evidence }, index): CircuitPosterior => {
    const { joint, faultPart } = scaled[index];
    const { grid } = inference;
    const elsewhere = Math.max(0, 1 - Math.exp(faultPart - total));
    const weights = Float64Array.from(joint, (value, cell) => (grid.fault[cell] === 0 ? Math.exp(value) * elsewhere : Math.exp(value - total)));
    const absolute = unitEvidence(grid, evidence.logLikelihood);
    grid.units.forEach((unit, at) => {
      absolute[at] = absolute[at] + (inference.outsideLog.get(unit) ?? 0);
    });
    const relative = absolute.map((value) => value - absolute[0]);
    return { inference, observations, evidence, weights, units: unitWeights(grid, weights), faults: faultWeights(grid, weights), relative };
  });
  return { circuits, healthy: Math.exp(-total) };
}

/** P(this observation slipped), averaged over the posterior. */
export function slipProbability(posterior: CircuitPosterior, index: number): number {
  const { weights, evidence, observations } = posterior;
  let sum = 0;
  for (let cell = 0; cell < weights.length; cell += 1) sum += weights[cell] * evidence.slipped[cell * observations.length + index];
  return sum;
}
