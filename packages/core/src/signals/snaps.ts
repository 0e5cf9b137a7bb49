import type { Samples } from "./capture";
import type { Hump } from "./humps";
import type { Speed } from "./speed";

/** How a slow signal goes up when a throttle is snapped open. Places are in samples, values in the channel's unit. */
export interface Snap {
  /** Where it stood before. */
  readonly rest: number;
  readonly first: Hump;
  /** The next hump: the engine that revs up behind the filling manifold. */
  readonly second: Hump | null;
  /** From a tenth to nine tenths of the way up to the first hump, seconds. */
  readonly riseSeconds: number;
  /** Where it had come half of that way. */
  readonly half: number;
}

/** A throttle is opened in hundredths of a second; slower it was pressed down, quicker something jumped. */
const QUICKEST_SECONDS = 0.004;
const SLOWEST_SECONDS = 0.4;
/** So much of the time before the first hump it has to stand still, as a share of the height to come. */
const REST_SHARE = 0.7;
const LEAST_REST_SECONDS = 0.1;
const STILL = 0.15;
/** A hump is at least so high, volts. */
const LEAST_VOLTS = 0.3;
/** An engine that is snapped open gains this factor at least. */
const REVS = 1.2;

function meanOf(samples: Samples, from: number, to: number): number {
  let sum = 0;
  for (let at = from; at < to; at += 1) sum += samples[at] as number;
  return sum / Math.max(1, to - from);
}

/** The last place before `from` at which the signal was below a level; null where it never was. */
function lastBelow(samples: Samples, level: number, from: number): number | null {
  for (let at = from; at >= 0; at -= 1) if ((samples[at] as number) < level) return at;
  return null;
}

/**
 * A snap in a slow signal: it stands, and goes up within hundredths of a second. Null where it does not.
 *
 * @param humps its humps, in order
 */
export function snapOf(samples: Samples, rate: number, humps: readonly Hump[]): Snap | null {
  const [first, second = null] = humps;
  if (first === undefined) return null;
  const top = Math.round(first.at);
  const still = Math.floor(REST_SHARE * top);
  if (still < LEAST_REST_SECONDS * rate) return null;
  const rest = meanOf(samples, 0, still);
  const height = first.value - rest;
  if (height < LEAST_VOLTS) return null;
  const level = (share: number): number => rest + share * height;
  const [nine, half] = [lastBelow(samples, level(0.9), top), lastBelow(samples, level(0.5), top)];
  const tenth = half === null ? null : lastBelow(samples, level(0.1), half);
  if (nine === null || half === null || tenth === null) return null;
  const riseSeconds = (nine - tenth) / rate;
  if (riseSeconds < QUICKEST_SECONDS || riseSeconds > SLOWEST_SECONDS) return null;
  // What wandered before is no rest from which it was opened.
  const [early, late] = [meanOf(samples, 0, still >> 1), meanOf(samples, still >> 1, still)];
  return Math.abs(late - early) > STILL * height ? null : { rest, first, second, riseSeconds, half };
}

/** How long after a signal an engine's speed had come half of its own way up, seconds; null where it did not rev. */
export function lagOf({ half, first }: Snap, { at, rpm }: Speed, rate: number): number | null {
  const before = rpm.filter((_, index) => (at[index] as number) < half);
  const after = rpm.filter((_, index) => (at[index] as number) >= first.at);
  if (before.length < 3 || after.length < 3) return null;
  const low = before.reduce((sum, value) => sum + value, 0) / before.length;
  const high = Math.max(...after);
  if (high < REVS * low) return null;
  const index = rpm.findIndex((value, place) => (at[place] as number) >= half && value >= 0.5 * (low + high));
  return index < 0 ? null : ((at[index] as number) - half) / rate;
}
