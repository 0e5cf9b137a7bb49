import type { CircuitModel } from "../circuit";

/** Share of full scale under and over which a signal is called electrically low or high, where the circuit does not say. */
const LOW_SHARE = 0.04;
const HIGH_SHARE = 0.96;
/** Two tracks that differ by more than this are not believed, percent. */
export const TRACK_PERCENT = 6;
/** Less than this over a winding or heater that is driven means that its circuit is broken, volts. */
export const DRIVEN_LEAST_VOLTS = 6;
/** A driven heater's wire under this is on ground for good, volts. */
export const DRIVEN_GROUNDED_VOLTS = 0.08;

/** The electrical limits a circuit's low and high codes are set by, volts at the module. */
export function codeLimits({ built, parameters }: CircuitModel): { readonly low: number; readonly high: number } {
  const given = parameters as { low?: number; high?: number };
  return { low: given.low ?? LOW_SHARE * built.fullScaleVolts, high: given.high ?? HIGH_SHARE * built.fullScaleVolts };
}
