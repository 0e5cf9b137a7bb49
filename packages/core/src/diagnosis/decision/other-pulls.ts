import type { Circuit } from "@fox-lamp/language";
import { FAMILIES, type MeantCircuit, statedParameters } from "../../circuit";

/** Pulls a module may have besides the one that was taken: so many times its ohms, and how often against it. */
const OTHERS = [
  { times: 4, weight: 0.6 },
  { times: 0.25, weight: 0.6 },
  { times: 12, weight: 0.3 },
] as const;

const PULLS: readonly string[] = ["pullup", "pulldown"];

/**
 * A circuit with other pulls inside the module. What nobody stated is weighed along one straight line from what is usual, and a pull several times
 * as large bends far off that line: where readings would need it, the circuit is weighed from there.
 *
 * @param taken the circuit as it was taken
 * @param parameters what would have to lie far from the usual
 * @returns none where no pull is among them
 */
export function otherPulls(taken: Circuit, parameters: readonly string[]): readonly MeantCircuit[] {
  const family = FAMILIES.find(({ id }) => id === taken.family);
  if (family === undefined) return [];
  const { values } = statedParameters(taken.with);
  const usual = family.parameters.safeParse(values);
  if (!usual.success) return [];
  return PULLS.filter((pull) => parameters.includes(pull)).flatMap((pull) => {
    const ohms = (usual.data as Readonly<Record<string, unknown>>)[pull];
    if (typeof ohms !== "number") return [];
    return OTHERS.map(({ times, weight }) => ({ circuit: { ...taken, with: { ...taken.with, [pull]: { value: times * ohms, from: "family" } } }, weight }));
  });
}
