import type { CircuitPosterior } from "../posterior/posterior";

/** How much likelier what was found before makes each unit of a set of circuits; null where nothing was found. */
function factorsOf({ inference: { grid } }: CircuitPosterior): Map<string, number> | null {
  const factors = new Map<string, number>();
  for (const fault of grid.faults) if (fault?.learnt !== undefined) factors.set(fault.unit, fault.learnt.factor);
  return factors.size === 0 ? null : factors;
}

/**
 * The probability of a group of units as it would be without what was found before: a prior multiplies what the readings say and can be taken
 * out again. History orders the search; nothing is proven by it. What is wrong in circuits that share nothing with these is no rival.
 * @param posterior the set of circuits the group belongs to
 */
export function soberProbability(posterior: CircuitPosterior, group: readonly string[], probability: number): number {
  const learnt = factorsOf(posterior);
  if (learnt === null) return probability;
  const names = posterior.inference.grid.units;
  let [own, others, all] = [0, 0, 0];
  for (let unit = 1; unit < posterior.units.length; unit += 1) {
    const name = names[unit] ?? "";
    const weight = posterior.units[unit] as number;
    const sober = weight / (learnt.get(name) ?? 1);
    all += weight;
    if (group.includes(name)) own += sober;
    else others += sober;
  }
  const whole = own + others + Math.max(0, 1 - all);
  return whole > 0 ? own / whole : probability;
}
