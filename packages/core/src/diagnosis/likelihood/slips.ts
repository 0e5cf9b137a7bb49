import { timesOhms } from "../../instruments";
import { logAdd, logNormalDensity } from "../../numeric";
import type { Observation } from "./observation";

// Taken out of Math once: these run millions of times.
const { abs, log, max, sqrt } = Math;

/** How often a reading is slipped, before anything is known about it. */
export const SLIP_SHARE = 0.03;
const NEVER = Number.NEGATIVE_INFINITY;
const LOG_TWO_PI = log(2 * Math.PI);
/** Shares of slips that have a name: swapped leads among volts, a k that was not seen among ohms. */
const LOG_SWAPPED = log(0.15);
const LOG_UNIT = log(0.15);
/** And the other way round: a k where none is shown. */
const LOG_ADDED_UNIT = log(0.03);
/** And nothing at all: a probe that does not touch, a key that is off; density of that, with how far from zero it still is nothing. */
const NOTHING_VOLTS = 0.015;
const LOG_NOTHING = log(0.1 / (NOTHING_VOLTS * Math.sqrt(2 * Math.PI)));
/** A decimal point in the wrong place, one way or the other. */
const LOG_RANGE = log(0.1);
const LOG_POINT = log(0.05);
const LOG_TEN = log(10);
/**
 * What a number of ohms is multiplied by to be what it should have been, with the log share of the slip. Whoever does not
 * see the k on a display does not see it when he reads again; nobody adds one twice, or misplaces a point twice.
 */
const SLIPPED_UNITS = [
  { factor: 1000, share: LOG_UNIT, again: true },
  { factor: 1e-3, share: LOG_ADDED_UNIT, again: false },
  { factor: 10, share: LOG_RANGE, again: false },
  { factor: 0.1, share: LOG_RANGE, again: false },
] as const;
/** A slip shows any of the words, or leaves the right one as it is. */
const LEAST_WORDS = 8;

/**
 * Most slips have a name, or leave a number that a circuit shows somewhere: nothing, its reference, its battery. Any number whatever, evenly over what the
 * meter can show, comes from so many of them.
 */
export const ANY_NUMBER = 0.4;

/** Log density of a slipped reading: uniform over what the meter can show. */
export function logBroad(observation: Observation): number {
  const { table } = observation;
  if (observation.number === null) return -log(max(LEAST_WORDS, table.wordNames.length));
  return log(ANY_NUMBER * table.broad);
}

/** What an observation costs a hypothesis that calls it slipped. */
export function logSlip(observation: Observation): number {
  const { slipShare = SLIP_SHARE } = observation;
  return log(slipShare / (1 - slipShare)) + logBroad(observation);
}

/** What a number can have been before a slip: its level, and the log density it then has. */
interface Meant {
  readonly level: number;
  readonly log: number;
  /** Whether who made the slip makes it again. */
  readonly again: boolean;
}

/** What ohms can have been: typed in another unit, or with their point elsewhere. Empty for any other reading. */
export function meantOhms({ table, number }: Observation): readonly Meant[] {
  if (table.slips !== "unit" || number === null) return [];
  return SLIPPED_UNITS.map(({ factor, share, again }) => {
    const { level, logSlope } = timesOhms(number, factor);
    return { level, log: share + logSlope, again };
  });
}

/**
 * log P(number | a slip with a name): a unit typed wrongly, leads that were swapped.
 * @param mean and `variance` of the number were it no slip
 * @param meant of {@link meantOhms}
 */
export function logNamedSlip({ table, number }: Observation, mean: number, variance: number, meant: readonly Meant[]): number {
  if (table.slips === "none" || number === null) return NEVER;
  const scale = -0.5 * (LOG_TWO_PI + log(variance));
  const at = (miss: number): number => scale - (0.5 * miss * miss) / variance;
  if (table.slips === "sign") {
    // Nothing the wrong way round, or with its point elsewhere, is still nothing.
    if (abs(number) < 2 * sqrt(variance)) return LOG_NOTHING - 0.5 * (number / NOTHING_VOLTS) ** 2;
    const point = LOG_POINT + logAdd(LOG_TEN + at(10 * number - mean), at(0.1 * number - mean) - LOG_TEN);
    return logAdd(point, logAdd(LOG_SWAPPED + at(-number - mean), LOG_NOTHING - 0.5 * (number / NOTHING_VOLTS) ** 2));
  }
  let sum = NEVER;
  for (const { level, log: share } of meant) sum = logAdd(sum, share + at(level - mean));
  return sum;
}

/** log P(number | a slip that is made again where it was made once). @param meant of {@link meantOhms} */
export function logLastingSlip(mean: number, variance: number, meant: readonly Meant[]): number {
  const lasting = meant.find(({ again }) => again);
  return lasting === undefined ? NEVER : lasting.log + logNormalDensity(lasting.level, mean, variance);
}
