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
    const unit = grid.unitOfFault[fault] as number;
    if ((evidence[fault] as number) > (out[unit] as number)) out[unit] = evidence[fault] as number;
  }
  return out;
}

/** log P(readings | fault) for every fault, severities averaged by their priors. */
function faultEvidence(grid: HypothesisGrid, logLikelihood: Float64Array): Float64Array {
  const { exp, log } = Math;
  const count = grid.faults.length;
  const top = new Float64Array(count).fill(Number.NEGATIVE_INFINITY);
  for (let cell = 0; cell < grid.count; cell += 1) {
    const fault = grid.fault[cell] as number;
    if ((logLikelihood[cell] as number) > (top[fault] as number)) top[fault] = logLikelihood[cell] as number;
  }
  const joint = new Float64Array(count);
  const prior = new Float64Array(count);
  for (let cell = 0; cell < grid.count; cell += 1) {
    const fault = grid.fault[cell] as number;
    const weight = grid.prior[cell] as number;
    joint[fault] = (joint[fault] as number) + weight * exp((logLikelihood[cell] as number) - (top[fault] as number));
    prior[fault] = (prior[fault] as number) + weight;
  }
  return top.map((value, fault) => value + log((joint[fault] as number) / (prior[fault] as number)));
}

/** The best log likelihood among the cells of every unit: what the unit can explain at its best severity. */
export function unitBest(grid: HypothesisGrid, logLikelihood: Float64Array): Float64Array {
  const out = new Float64Array(grid.units.length).fill(Number.NEGATIVE_INFINITY);
  for (let cell = 0; cell < grid.count; cell += 1) {
    const unit = grid.unitOfFault[grid.fault[cell] as number] as number;
    out[unit] = Math.max(out[unit] as number, logLikelihood[cell] as number);
  }
  return out;
}

/** Sums cell weights by unit. */
export function unitWeights(grid: HypothesisGrid, weights: Float64Array): Float64Array {
  const out = new Float64Array(grid.units.length);
  for (let cell = 0; cell < grid.count; cell += 1) {
    const unit = grid.unitOfFault[grid.fault[cell] as number] as number;
    out[unit] = (out[unit] as number) + (weights[cell] as number);
  }
  return out;
}

/** Sums cell weights by fault. */
export function faultWeights(grid: HypothesisGrid, weights: Float64Array): Float64Array {
  const out = new Float64Array(grid.faults.length);
  for (let cell = 0; cell < grid.count; cell += 1) {
    const fault = grid.fault[cell] as number;
    out[fault] = (out[fault] as number) + (weights[cell] as number);
  }
  return out;
}

/** log P(one reading alone | unit), for every unit; `index` is the reading's place among `total` observations. */
export function unitSingle(grid: HypothesisGrid, single: Float64Array, total: number, index: number): Float64Array {
  const column = new Float64Array(grid.count);
  for (let cell = 0; cell < grid.count; cell += 1) column[cell] = single[cell * total + index] as number;
  return unitEvidence(grid, column);
}
