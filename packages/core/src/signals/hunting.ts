import type { Samples } from "./capture";
import { blockMeans } from "./means";

/** How a signal of an idling engine goes up and down. */
export interface Hunting {
  readonly periodSeconds: number;
  readonly low: number;
  readonly high: number;
}

/** Averaged over this long, so that pulses of single strokes do not count. */
const BLOCK_SECONDS = 0.1;
const LEAST_SECONDS = 4;
/** So many whole swings, of which the longest is this much longer than the shortest. */
const LEAST_SWINGS = 4;
const MOST_UNEVEN = 1.8;
const SLOWEST_SECONDS = 5;
const QUICKEST_SECONDS = 0.4;
/** A swing that is no ripple: volts from end to end, and standard deviations of the averaged noise. */
const LEAST_VOLTS = 0.04;
const LEAST_SIGMAS = 12;
/** The middle has to be left by this share of the swing to be left at all. */
const HYSTERESIS = 0.2;
/** From this share of all blocks to the rest: single ones do not make a swing. */
const TAIL = 0.05;

/** Whether a slow signal swings evenly around its middle, as it does where an idle hunts; null where it does not. @param sigma its noise floor */
export function huntingOf(samples: Samples, rate: number, sigma: number): Hunting | null {
  if (samples.length < LEAST_SECONDS * rate) return null;
  const block = Math.max(1, Math.round(BLOCK_SECONDS * rate));
  const means = blockMeans(samples, block);
  const sorted = [...means].sort((a, b) => a - b);
  const at = (share: number): number => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0;
  const [low, high] = [at(TAIL), at(1 - TAIL)];
  const swing = high - low;
  if (swing < Math.max(LEAST_VOLTS, (LEAST_SIGMAS * sigma) / Math.sqrt(block))) return null;
  const middle = 0.5 * (low + high);
  const rises: number[] = [];
  let above = (means[0] ?? 0) > middle;
  means.forEach((value, index) => {
    if (above ? value < middle - HYSTERESIS * swing : value > middle + HYSTERESIS * swing) {
      above = !above;
      if (above) rises.push(index);
    }
  });
  const periods = rises.slice(1).map((rise, index) => ((rise - (rises[index] as number)) * block) / rate);
  if (periods.length < LEAST_SWINGS || Math.max(...periods) > MOST_UNEVEN * Math.min(...periods)) return null;
  const periodSeconds = periods.reduce((sum, period) => sum + period, 0) / periods.length;
  return periodSeconds < QUICKEST_SECONDS || periodSeconds > SLOWEST_SECONDS ? null : { periodSeconds, low, high };
}
