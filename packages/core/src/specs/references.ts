/** References there are, volts. The last one may be the battery itself. */
export const REFERENCES = [5, 8, 9, 10, 12] as const;

/** What is measured at a reference or feed pin, the sensor's plug off, key on: volts, each against the battery's negative terminal. */
export interface ReferenceMeasured {
  readonly volts: number;
  /** The battery at the same moment. */
  readonly battery: number;
  /** The same two with the engine running or cranking, where they were taken: the battery has moved, a regulator has not. */
  readonly moved?: { readonly volts: number; readonly battery: number } | undefined;
}

/**
 * Which reference it is: one that a module makes, the battery itself, both still possible until the battery has moved, nothing there, or
 * something else than any reference there is.
 */
export type ReferenceFound =
  | { readonly found: "reference" | "battery"; readonly volts: number }
  | { readonly found: "ask-moved" | "moved-too-little" | "none" | "no-reference"; readonly volts: null };

/** A reference lies within this share of its own, and the battery's feed within so many volts of the battery. */
const NEAR_SHARE = 0.04;
const NEAR_BATTERY = 0.8;
const NOTHING_VOLTS = 0.3;
/** The battery has to move by this much before it tells a regulator from itself, volts. */
const LEAST_MOVE = 0.6;

const nothing = (found: "ask-moved" | "moved-too-little" | "none" | "no-reference"): ReferenceFound => ({ found, volts: null });

/** The reference a voltage is near; null for none. */
function near(volts: number): number | null {
  return REFERENCES.find((reference) => Math.abs(volts / reference - 1) <= NEAR_SHARE) ?? null;
}

/**
 * Settles which reference a circuit has where no chart says it. A voltage well below the battery is a regulator's: 5, 8, 9 or 10 V. One near the
 * battery may be the battery or a regulator of 10 or 12 V: the battery is moved, by the engine, and only its own feed moves along.
 */
export function referenceFrom({ volts, battery, moved }: ReferenceMeasured): ReferenceFound {
  if (volts < NOTHING_VOLTS) return nothing("none");
  const reference = near(volts);
  if (battery - volts > NEAR_BATTERY) return reference === null || reference === 12 ? nothing("no-reference") : { found: "reference", volts: reference };
  if (volts - battery > NEAR_BATTERY) return nothing("no-reference");
  if (moved === undefined) return nothing("ask-moved");
  const step = moved.battery - battery;
  if (Math.abs(step) < LEAST_MOVE) return nothing("moved-too-little");
  if (Math.abs(moved.volts - volts - step) <= 0.5 * Math.abs(step)) return { found: "battery", volts: 12 };
  return reference === null ? nothing("no-reference") : { found: "reference", volts: reference };
}
