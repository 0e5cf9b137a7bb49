import { logNormalDensity, normalCdf } from "./statistics";

/** A normal variable held between two ends: what is then shown. */
interface Clipped {
  readonly mean: number;
  readonly variance: number;
  /** Probability that it lies between the ends: by so much what moves it still moves what is shown. */
  readonly inside: number;
}

/**
 * Moments of a normal variable that is shown as the nearer end wherever it lies beyond one.
 * @param sigma its standard deviation, above zero
 * @see standard moments of the truncated normal distribution, with the mass beyond the ends put on them
 */
export function clippedNormal(mean: number, sigma: number, bottom: number, top: number): Clipped {
  const [low, high] = [(bottom - mean) / sigma, (top - mean) / sigma];
  const [under, over] = [normalCdf(low), 1 - normalCdf(high)];
  const inside = Math.max(0, 1 - under - over);
  const [atLow, atHigh] = [Math.exp(logNormalDensity(low, 0, 1)), Math.exp(logNormalDensity(high, 0, 1))];
  const shown = under * bottom + over * top + inside * mean + sigma * (atLow - atHigh);
  const square =
    under * bottom * bottom +
    over * top * top +
    inside * (mean * mean + sigma * sigma) +
    2 * mean * sigma * (atLow - atHigh) +
    sigma * sigma * (low * atLow - high * atHigh);
  return { mean: Math.min(top, Math.max(bottom, shown)), variance: Math.max(0, square - shown * shown), inside };
}
