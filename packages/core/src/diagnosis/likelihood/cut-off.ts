import type { ConverterEnds } from "../../instruments";
import { normalTail } from "../../numeric";

/** A bound that tells nothing any more is a reading this much wider than the level itself, variances. */
const WIDEST = 1e6;

/** A reading of which only the side of a bound is known, as the normal reading that says the same of the level. */
export interface CutOff {
  /** log density of what was shown. */
  readonly log: number;
  /** The level such a reading would show, and the variance it would have. */
  readonly level: number;
  readonly variance: number;
}

/**
 * What "at the end or beyond" says of a level with this mean and variance: how likely it was, and the normal reading which leaves the level with the
 * mean and variance it has once that is known.
 *
 * @param shown what was read, which tells the end
 * @see expectation propagation, the site of a one-sided bound
 */
export function cutOff({ low, high, sigma }: ConverterEnds, shown: number, mean: number, variance: number): CutOff {
  const above = shown > 0.5 * (low + high);
  const tail = normalTail(mean, variance, above ? high : low, above);
  const kept = Math.min(1 - 1 / WIDEST, tail.variance / variance);
  const own = (variance * kept) / (1 - kept);
  // All levels beyond show as the end, with the converter's own unrest.
  return {
    log: tail.log - 0.5 * Math.log(2 * Math.PI) - Math.log(sigma),
    level: mean + ((tail.mean - mean) * (variance + own)) / variance,
    variance: own,
  };
}
