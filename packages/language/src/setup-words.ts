/** What may be put between two points of a circuit. */
export const ADDED_KINDS = ["jumper", "resistor", "lamp", "led-lamp"] as const;
/** What is done to a part or a harness while a reading is taken. */
export const STIMULI = ["none", "sweep", "wiggle", "tap", "steel", "hand-turn", "heat", "cool", "vacuum", "snap", "command", "touch"] as const;

/** Something known: its value, or that with how far the truth may lie from it. */
export type Known<T extends number | string> = T | { readonly value: T; readonly within?: number | undefined };

/** The value itself of something known. */
export function knownValue<T extends number | string>(known: Known<T>): T {
  return typeof known === "object" ? known.value : known;
}

/** How far the truth may lie from a known value, in its own unit; undefined where nobody said. */
export function knownWithin<T extends number | string>(known: Known<T>): number | undefined {
  return typeof known === "object" ? known.within : undefined;
}

/** A known value as one word, the same for the same knowledge: `20`, `20+-2`, `high`. */
export function knownWord<T extends number | string>(known: Known<T>): string {
  const within = knownWithin(known);
  return `${knownValue(known)}${within === undefined ? "" : `+-${within}`}`;
}
