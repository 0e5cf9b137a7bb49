import type { CircuitPosterior } from "./posterior";
import { REFUTED_LOG, unitSingle } from "./unit-evidence";

/**
 * Readings that make a unit unlikely against the best one, the strongest first: each by itself, or all together where none
 * does alone.
 *
 * @param singles from {@link singlesOf}
 */
export function refutedBy(posterior: CircuitPosterior, unit: number, best: number, singles: readonly Float64Array[]): string[] {
  const against = posterior.observations
    .map(({ id }, index) => {
      const single = singles[index];
      return { id, weight: single[unit] - single[best] };
    })
    .sort((a, b) => a.weight - b.weight);
  const alone = against.filter(({ weight }) => weight < 0.5 * REFUTED_LOG);
  return [...new Set((alone.length > 0 ? alone : against).map(({ id }) => id))];
}

/** log P(one reading alone | unit) for every reading and unit of a set of circuits. */
export function singlesOf({ observations, evidence, inference }: CircuitPosterior): Float64Array[] {
  return observations.map((_, index) => unitSingle(inference.grid, evidence.single, observations.length, index));
}
