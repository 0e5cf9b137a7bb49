import type { Points } from "./points";

/** A unit is refuted when the readings make it this much less likely than the best one. */
export const REFUTED_LOG = Math.log(1 / 20);
/** Probability at which a verdict may be declared. */
export const DECLARE = 0.95;

/**
 * log P(readings | unit) for every unit of a circuit: that of its best fault kind, severities averaged and priors divided
 * out. A unit is as alive as the liveliest of its faults.
 */
export function unitEvidence(points: Points, logLikelihood: Float64Array): Float64Array {
  const out = new Float64Array(points.units.length).fill(Number.NEGATIVE_INFINITY);
  const evidence = faultEvidence(points, logLikelihood);
  for (let fault = 0; fault < evidence.length; fault += 1) {
    const unit = points.unitOfFault[fault] as number;
    if ((evidence[fault] as number) > (out[unit] as number)) out[unit] = evidence[fault] as number;
  }
  return out;
}

/** log P(readings | fault) for every fault, severities averaged by their priors. */
function faultEvidence(points: Points, logLikelihood: Float64Array): Float64Array {
  const { exp, log } = Math;
  const count = points.faults.length;
  const top = new Float64Array(count).fill(Number.NEGATIVE_INFINITY);
  for (let point = 0; point < points.count; point += 1) {
    const fault = points.fault[point] as number;
    if ((logLikelihood[point] as number) > (top[fault] as number)) top[fault] = logLikelihood[point] as number;
  }
  const joint = new Float64Array(count);
  const prior = new Float64Array(count);
  for (let point = 0; point < points.count; point += 1) {
    const fault = points.fault[point] as number;
    const weight = points.prior[point] as number;
    joint[fault] = (joint[fault] as number) + weight * exp((logLikelihood[point] as number) - (top[fault] as number));
    prior[fault] = (prior[fault] as number) + weight;
  }
  return top.map((value, fault) => value + log((joint[fault] as number) / (prior[fault] as number)));
}

/** The best log likelihood among the points of every unit: what the unit can explain at its best severity. */
export function unitBest(points: Points, logLikelihood: Float64Array): Float64Array {
  const out = new Float64Array(points.units.length).fill(Number.NEGATIVE_INFINITY);
  for (let point = 0; point < points.count; point += 1) {
    const unit = points.unitOfFault[points.fault[point] as number] as number;
    out[unit] = Math.max(out[unit] as number, logLikelihood[point] as number);
  }
  return out;
}

/** Sums point weights by unit. */
export function unitWeights(points: Points, weights: Float64Array): Float64Array {
  const out = new Float64Array(points.units.length);
  for (let point = 0; point < points.count; point += 1) {
    const unit = points.unitOfFault[points.fault[point] as number] as number;
    out[unit] = (out[unit] as number) + (weights[point] as number);
  }
  return out;
}

/** Sums point weights by fault. */
export function faultWeights(points: Points, weights: Float64Array): Float64Array {
  const out = new Float64Array(points.faults.length);
  for (let point = 0; point < points.count; point += 1) {
    const fault = points.fault[point] as number;
    out[fault] = (out[fault] as number) + (weights[point] as number);
  }
  return out;
}

/** log P(one reading alone | unit), for every unit; `index` is the reading's place among `total` observations. */
export function unitSingle(points: Points, single: Float64Array, total: number, index: number): Float64Array {
  const column = new Float64Array(points.count);
  for (let point = 0; point < points.count; point += 1) column[point] = single[point * total + index] as number;
  return unitEvidence(points, column);
}
