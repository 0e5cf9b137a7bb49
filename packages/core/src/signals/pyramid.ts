import type { Samples, Stretch } from "./capture";

/** Samples under one pair of the lowest level, and pairs under one of the next. */
export const PYRAMID_BASE = 64;
const STEP = 4;

/** Lowest and highest of ever longer stretches: pair k of a level is at 2 k and 2 k + 1. The lowest level first. */
export type Pyramid = readonly Float32Array[];

/** Makes the lowest level: lowest and highest of every so many samples. */
export function lowestLevel(samples: Samples): Float32Array {
  const out = new Float32Array(2 * Math.ceil(samples.length / PYRAMID_BASE));
  for (let pair = 0; 2 * pair < out.length; pair += 1) {
    const end = Math.min(samples.length, (pair + 1) * PYRAMID_BASE);
    let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
    for (let at = pair * PYRAMID_BASE; at < end; at += 1) {
      const value = samples[at] as number;
      if (value < low) low = value;
      if (value > high) high = value;
    }
    out[2 * pair] = low;
    out[2 * pair + 1] = high;
  }
  return out;
}

/** The levels above a lowest one, up to a single pair. */
export function pyramidOver(lowest: Float32Array): Pyramid {
  const levels = [lowest];
  for (let below = lowest; below.length > 2; ) {
    const above = new Float32Array(2 * Math.ceil(below.length / 2 / STEP));
    for (let pair = 0; 2 * pair < above.length; pair += 1) {
      let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
      for (let from = pair * STEP; from < Math.min(below.length / 2, (pair + 1) * STEP); from += 1) {
        low = Math.min(low, below[2 * from] as number);
        high = Math.max(high, below[2 * from + 1] as number);
      }
      above[2 * pair] = low;
      above[2 * pair + 1] = high;
    }
    levels.push(above);
    below = above;
  }
  return levels;
}

/**
 * Lowest and highest of a stretch, no spike left out: as much as possible from the level that fits, the rest of its ends from finer ones,
 * the last samples from the samples themselves. Without samples the ends are as coarse as the lowest level.
 *
 * @returns null for an empty stretch
 */
export function rangeOver(pyramid: Pyramid, samples: Samples | null, { from, to }: Stretch, length: number): { low: number; high: number } | null {
  if (pyramid.length === 0 && samples === null) return null;
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  const take = (one: number, other: number): void => {
    if (one < low) low = one;
    if (other > high) high = other;
  };
  let at = Math.max(0, from);
  const end = Math.min(length, to);
  while (at < end) {
    let [level, size] = [-1, 1];
    // The last pair of a level may reach beyond the last sample; it is whole all the same.
    for (let next = PYRAMID_BASE; level + 1 < pyramid.length && at % next === 0 && (at + next <= end || end === length); next *= STEP) {
      level += 1;
      size = next;
      if (at + next >= end) break;
    }
    if (level >= 0) {
      const pairs = pyramid[level] as Float32Array;
      const pair = Math.floor(at / size);
      take(pairs[2 * pair] as number, pairs[2 * pair + 1] as number);
      at += size;
    } else if (samples !== null) {
      take(samples[at] as number, samples[at] as number);
      at += 1;
    } else {
      const pair = Math.floor(at / PYRAMID_BASE);
      const pairs = pyramid[0] as Float32Array;
      take(pairs[2 * pair] as number, pairs[2 * pair + 1] as number);
      at = (pair + 1) * PYRAMID_BASE;
    }
  }
  return low > high ? null : { low, high };
}
