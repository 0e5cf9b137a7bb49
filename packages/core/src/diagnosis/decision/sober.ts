import type { CircuitPosterior } from "../posterior/posterior";

/** How much likelier what was found before makes each unit of a set of circuits; null where nothing was found. */
function factorsOf({ inference: { grid } }: CircuitPosterior): Map<string, number> | null {
  const factors = new Map<string, number>();
  for (const fault of grid.faults) if (fault?.learnt !== undefined) factors.set(fault.unit, fault.learnt.factor);
  return factors.size === 0 ? null : factors;
}

/**
 * Probabilities of a set's units as they would be without what was found before, "nothing wrong here" first: a prior multiplies what the readings
 * say and can be taken out again. History orders the search; nothing is proven by it.
 */
export function soberUnits(posterior: CircuitPosterior): readonly number[] {
  const { units, inference } = posterior;
  const own = Array.from(units.subarray(1));
  const rest = Math.max(0, 1 - own.reduce((sum, weight) => sum + weight, 0));
  const learnt = factorsOf(posterior);
  if (learnt === null) return [rest, ...own];
  const weights = [rest, ...own.map((weight, index) => weight / (learnt.get(inference.grid.units[index + 1] ?? "") ?? 1))];
  const whole = weights.reduce((sum, weight) => sum + weight, 0);
  return whole > 0 ? weights.map((weight) => weight / whole) : weights;
}

/**
 * The probability of a group of units as it would be without what was found before. What is wrong in circuits that share nothing with these is
 * no rival.
 * @param posterior the set of circuits the group belongs to
 */
export function soberProbability(posterior: CircuitPosterior, group: readonly string[], probability: number): number {
  if (factorsOf(posterior) === null) return probability;
  const names = posterior.inference.grid.units;
  return soberUnits(posterior).reduce((sum, weight, unit) => sum + (unit > 0 && group.includes(names[unit] ?? "") ? weight : 0), 0);
}
