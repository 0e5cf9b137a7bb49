import type { JointPosterior } from "./posterior";

/** The units of a hypothesis: one, or the two of a pair. */
export function membersOf(unit: string): readonly string[] {
  return unit.split("&");
}

/** How likely each unit is faulty, alone or beside another, the likeliest first; "nothing wrong" is left out. */
export function involvedUnits(joint: JointPosterior): { unit: string; probability: number }[] {
  const all = new Map<string, number>();
  for (const { inference, units } of joint.circuits) {
    const sums = new Map<string, number>();
    inference.grid.units.forEach((name, index) => {
      if (index === 0) return;
      for (const unit of membersOf(name)) sums.set(unit, (sums.get(unit) ?? 0) + units[index]);
    });
    // Battery and grounds stand in every set of circuits, and are the same ones.
    for (const [unit, sum] of sums) all.set(unit, Math.max(all.get(unit) ?? 0, sum));
  }
  return [...all].map(([unit, probability]) => ({ unit, probability: Math.min(1, probability) })).sort((a, b) => b.probability - a.probability);
}

/** Probability that two faults are there at once. */
export function pairShare(joint: JointPosterior): number {
  let sum = 0;
  for (const { inference, units } of joint.circuits) {
    inference.grid.units.forEach((name, index) => {
      if (name.includes("&")) sum += units[index];
    });
  }
  return sum;
}

/** The unit likeliest to be faulty beside another. */
export function partnerOf(joint: JointPosterior, unit: string): { unit: string; probability: number } | null {
  const sums = new Map<string, number>();
  for (const { inference, units } of joint.circuits) {
    inference.grid.units.forEach((name, index) => {
      const members = membersOf(name);
      if (members.length === 2 && members.includes(unit)) {
        const other = members[0] === unit ? members[1] : members[0];
        sums.set(other, (sums.get(other) ?? 0) + units[index]);
      }
    });
  }
  const [best] = [...sums].sort((a, b) => b[1] - a[1]);
  return best === undefined ? null : { unit: best[0], probability: Math.min(1, best[1]) };
}
