// Taken out of Math once: these run millions of times.
const { abs, ceil, exp, log, max, min } = Math;

/** Standard normal cumulative distribution (Abramowitz and Stegun 7.1.26, absolute error below 1.5e-7). */
export function normalCdf(z: number): number {
  const x = abs(z) / Math.SQRT2;
  const t = 1 / (1 + 0.3275911 * x);
  const poly = t * (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429))));
  const tail = 0.5 * poly * exp(-x * x);
  return z >= 0 ? 1 - tail : tail;
}

const LOG_ROOT_TWO_PI = 0.5 * log(2 * Math.PI);

/** Logarithm of a normal density at `x`. */
export function logNormalDensity(x: number, mean: number, variance: number): number {
  const difference = x - mean;
  return -LOG_ROOT_TWO_PI - 0.5 * log(variance) - (0.5 * difference * difference) / variance;
}

/** log(sum(exp(values))) without overflow; minus infinity for an empty list. */
export function logSumExp(values: ArrayLike<number>): number {
  let largest = Number.NEGATIVE_INFINITY;
  for (let index = 0; index < values.length; index += 1) largest = max(largest, values[index]);
  if (largest === Number.NEGATIVE_INFINITY) return largest;
  let sum = 0;
  for (let index = 0; index < values.length; index += 1) sum += exp(values[index] - largest);
  return largest + log(sum);
}

/** Logistic function, 0 to 1. */
export function logistic(x: number): number {
  return 1 / (1 + exp(-x));
}

/** The value below which a share of the sorted sample lies (nearest rank). */
export function percentile(sample: readonly number[], share: number): number {
  if (sample.length === 0) return 0;
  const sorted = [...sample].sort((a, b) => a - b);
  return sorted[min(sorted.length - 1, max(0, ceil(share * sorted.length) - 1))] ?? 0;
}

/** log of a sum of two numbers given by their logarithms. */
export function logAdd(a: number, b: number): number {
  const high = max(a, b);
  return high === Number.NEGATIVE_INFINITY ? high : high + Math.log1p(exp(min(a, b) - high));
}
