import type { HypothesisGrid } from "../hypotheses/grid";

/** A unit is refuted when the readings make it this much less likely than the best one. */
export const REFUTED_LOG = Math.log(1 / 20);
/** Probability at which a verdict may be declared. */
export const DECLARE = 0.95;

/**
 * log P(readings | unit) for every unit of a circuit: that of its best fault kind, severities averaged and priors divided
 * out. A unit is as alive as the liveliest of its faults.
 */
export function unitEvidence(grid: HypothesisGrid, logLikelihood: Float64Array): Float64Array {
  const out = new Float64Array(grid.units.length).fill(Number.NEGATIVE_INFINITY);
  const evidence = faultEvidence(grid, logLikelihood);
  for (let fault = 0; fault < evidence.length; fault += 1) {
    const unit = grid.unitOfFault[fault];
    if (evidence[fault] > out[unit]) out[unit] = evidence[fault];
  }
  return out;
}

/** log P(readings | fault) for every fault, severities averaged by their priors. */
function faultEvidence(grid: HypothesisGrid, logLikelihood: Float64Array): Float64Array {
  const { exp, log } = Math;
  const count = grid.faults.length;
  const top = new Float64Array(count).fill(Number.NEGATIVE_INFINITY);
  for (let cell = 0; cell < grid.count; cell += 1) {
    const fault = grid.fault[cell];
    if (logLikelihood[cell] > top[fault]) top[fault] = logLikelihood[cell];
  }
  const joint = new Float64Array(count);
  const prior = new Float64Array(count);
  for (let cell = 0; cell < grid.count; cell += 1) {
    const fault = grid.fault[cell];
    const weight = grid.prior[cell];
    joint[fault] = joint[fault] + weight * exp(logLikelihood[cell] - top[fault]);
    prior[fault] = prior[fault] + weight;
  }
  return top.map((value, fault) => value + log(joint[fault] / prior[fault]));
}

/** The best log likelihood among the cells of every unit: what the unit can explain at its best severity. */
export function unitBest(grid: HypothesisGrid, logLikelihood: Float64Array): Float64Array {
  const out = new Float64Array(grid.units.length).fill(Number.NEGATIVE_INFINITY);
  for (let cell = 0; cell < grid.count; cell += 1) {
    const unit = grid.unitOfFault[grid.fault[cell]];
    out[unit] = Math.max(out[unit], logLikelihood[cell]);
  }
  return out;
}

/** Sums cell weights by unit. */
export function unitWeights(grid: HypothesisGrid, weights: Float64Array): Float64Array {
  const out = new Float64Array(grid.units.length);
  for (let cell = 0; cell < grid.count; cell += 1) {
    const unit = grid.unitOfFault[grid.fault[cell]];
    out[unit] = out[unit] + weights[cell];
  }
  return out;
}

/** Sums cell weights by fault. */
export function faultWeights(grid: HypothesisGrid, weights: Float64Array): Float64Array {
  const out = new Float64Array(grid.faults.length);
  for (let cell = 0; cell < grid.count; cell += 1) {
    const fault = grid.fault[cell];
    out[fault] = out[fault] + weights[cell];
  }
  return out;
}

/** log P(one reading alone | unit), for every unit; `index` is the reading's place among `total` observations. */
export function unitSingle(grid: HypothesisGrid, single: Float64Array, total: number, index: number): Float64Array {
  const column = new Float64Array(grid.count);
  for (let cell = 0; cell < grid.count; cell += 1) column[cell] = single[cell * total + index];
  return unitEvidence(grid, column);
}
