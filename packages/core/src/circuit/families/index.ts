import type { Family } from "../family";
import { potentiometer3w } from "./potentiometer-3w";
import { pressure3w } from "./pressure-3w";
import { thermistor2w } from "./thermistor-2w";

/** Every family, in the order they are listed. A new family is one new file and one entry here. */
export const FAMILIES: readonly Family[] = [thermistor2w, potentiometer3w, pressure3w];

/** The family with this id, or null. */
export function familyById(id: string): Family | null {
  return FAMILIES.find((family) => family.id === id) ?? null;
}
