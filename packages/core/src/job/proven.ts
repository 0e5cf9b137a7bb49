import { circuitOfUnit } from "@fox-lamp/language";
import type { JobState } from "./state";

/**
 * What was proven in a job, fault by fault: of each the units that measuring cannot tell apart, or the one that was found at the car afterwards.
 * A later verdict on a circuit takes the place of an earlier one.
 */
export function provenUnits({ decisions, located }: Pick<JobState, "decisions" | "located">): readonly (readonly string[])[] {
  const byCircuit = new Map<string, readonly string[]>();
  for (const { decision, unit, group } of decisions) {
    if (decision !== "proven" || typeof unit !== "string") continue;
    const units = Array.isArray(group) ? group.filter((member): member is string => typeof member === "string") : [];
    const circuit = circuitOfUnit(unit);
    byCircuit.delete(circuit);
    byCircuit.set(circuit, units.length > 0 ? units : [unit]);
  }
  return [...byCircuit.values()].map((units) => {
    const found = located.filter(({ way, unit }) => way === "found" && units.some((one) => circuitOfUnit(one) === circuitOfUnit(unit))).at(-1);
    return found === undefined ? units : [found.unit];
  });
}
