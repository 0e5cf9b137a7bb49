import { logSumExp } from "../../numeric";
import type { CircuitPosterior } from "./posterior";

/** Cells lighter than this share of the heaviest say nothing any more. */
const LEAST_WEIGHT = 1e-12;

/** Log weights of cells before one reading was taken. */
export function withoutReading(posterior: CircuitPosterior, index: number): Float64Array {
  const { inference, evidence, observations } = posterior;
  const out = new Float64Array(inference.grid.count);
  for (let cell = 0; cell < out.length; cell += 1) {
    const single = evidence.single[cell * observations.length + index];
    out[cell] = inference.grid.logPrior[cell] + evidence.logLikelihood[cell] - single;
  }
  return out;
}

/** For every fault, the log of how much better it predicted a reading than all other hypotheses together did. */
export function logRatios(posterior: CircuitPosterior, index: number, before: Float64Array): Float64Array {
  const { exp, log, max } = Math;
  const { inference, evidence, observations } = posterior;
  const { grid } = inference;
  let top = Number.NEGATIVE_INFINITY;
  for (const weight of before) top = max(top, weight);
  const prior = new Float64Array(grid.faults.length);
  const joint = new Float64Array(grid.faults.length);
  let priorSum = 0;
  let jointSum = 0;
  for (let cell = 0; cell < before.length; cell += 1) {
    const weight = exp(before[cell] - top);
    if (weight < LEAST_WEIGHT) continue;
    const likely = weight * exp(evidence.single[cell * observations.length + index]);
    const fault = grid.fault[cell];
    prior[fault] = prior[fault] + weight;
    joint[fault] = joint[fault] + likely;
    priorSum += weight;
    jointSum += likely;
  }
  return prior.map((weight, fault) => {
    const rest = max(1e-300, (jointSum - joint[fault]) / max(1e-300, priorSum - weight));
    return weight === 0 ? 0 : log(max(1e-300, joint[fault] / weight)) - log(rest);
  });
}

/** The unit a cell belongs to. */
export function unitAt({ inference: { grid } }: CircuitPosterior, cell: number): number {
  return grid.unitOfFault[grid.fault[cell]];
}

/** log P(one reading | unit, all other readings) for two units of a set of circuits. */
export function givenOthers(posterior: CircuitPosterior, index: number, first: number, second: number): [number, number] {
  const { grid } = posterior.inference;
  const total = posterior.observations.length;
  const without = withoutReading(posterior, index);
  const sums = [first, second].map((unit) => {
    const [joint, alone]: [number[], number[]] = [[], []];
    for (let cell = 0; cell < grid.count; cell += 1) {
      if (unitAt(posterior, cell) !== unit) continue;
      alone.push(without[cell]);
      joint.push(without[cell] + posterior.evidence.single[cell * total + index]);
    }
    return logSumExp(joint) - logSumExp(alone);
  });
  return [sums[0], sums[1]];
}
