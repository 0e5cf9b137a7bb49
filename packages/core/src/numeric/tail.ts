import { logNormalDensity, normalCdf } from "./statistics";

// Taken out of Math once: these run millions of times.
const { exp, log, sqrt } = Math;

/** Below this many standard deviations the series for the tail is nearer than the polynomial. */
const FAR = -4;

/** What a normal variable is once it is known to lie beyond a bound: log of how likely that was, mean and variance. */
export interface Tail {
  readonly log: number;
  readonly mean: number;
  readonly variance: number;
}

/** log of the standard normal distribution, and density over distribution, at `z`. @see Abramowitz and Stegun 26.2.12 for the tail far out */
function logCdfAndHazard(z: number): readonly [number, number] {
  const logDensity = logNormalDensity(z, 0, 1);
  if (z < FAR) {
    const inverse = 1 / (z * z);
    const series = 1 - inverse * (1 - inverse * (3 - 15 * inverse));
    return [logDensity - log(-z) + log(series), -z / series];
  }
  const logCdf = log(normalCdf(z));
  return [logCdf, exp(logDensity - logCdf)];
}

/**
 * A normal variable of which only the side of a bound is known.
 * @param variance its variance, above zero; @param above whether it lies above the bound, else below
 * @see moments of the one-sided truncated normal distribution
 */
export function normalTail(mean: number, variance: number, bound: number, above: boolean): Tail {
  const sigma = sqrt(variance);
  const side = above ? 1 : -1;
  const z = (side * (mean - bound)) / sigma;
  const [logCdf, hazard] = logCdfAndHazard(z);
  // Far out the difference of two near numbers is nothing: what is left of the variance falls as 1 / z squared.
  const left = z < FAR ? 1 / (z * z + 5.2) : 1 - hazard * (hazard + z);
  return { log: logCdf, mean: mean + side * sigma * hazard, variance: variance * Math.max(1e-12, left) };
}
