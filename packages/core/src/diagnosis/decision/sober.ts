import type { CircuitPosterior, JointPosterior } from "../posterior/posterior";

/** How much likelier what was found before makes each unit of a set of circuits; null where nothing was found. */
function factorsOf({ inference: { grid } }: CircuitPosterior): Map<string, number> | null {
  const factors = new Map<string, number>();
  for (const fault of grid.faults) if (fault?.learnt !== undefined) factors.set(fault.unit, fault.learnt.factor);
  return factors.size === 0 ? null : factors;
}

/**
 * The probability of a group of units as it would be without what was found before: a prior multiplies what the readings say and can be taken
 * out again. History orders the search; nothing is proven by it.
 */
export function soberProbability({ circuits }: JointPosterior, group: readonly string[], probability: number): number {
  const learnt = circuits.map(factorsOf);
  if (learnt.every((factors) => factors === null)) return probability;
  let [own, others, all] = [0, 0, 0];
  circuits.forEach((posterior, index) => {
    const names = posterior.inference.grid.units;
    for (let unit = 1; unit < posterior.units.length; unit += 1) {
      const name = names[unit] ?? "";
      const weight = posterior.units[unit] as number;
      const sober = weight / (learnt[index]?.get(name) ?? 1);
      all += weight;
      if (group.includes(name)) own += sober;
      else others += sober;
    }
  });
  const whole = own + others + Math.max(0, 1 - all);
  return whole > 0 ? own / whole : probability;
}
