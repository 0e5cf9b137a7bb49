import type { Samples } from "./capture";

/** So many places are looked at: enough for a median within a few per cent. */
const PLACES = 20_000;
/** Differences up to this share count; those of edges and rings are larger. */
const SMALLEST_SHARE = 0.6;
/** Root mean square of the smallest six tenths of |x[i-1] - 2 x[i] + x[i+1]| of white noise, as a share of their standard deviation. */
const SMALLEST_RMS = 0.4631;
/** Rounding to steps makes a noise of a step over the root of twelve. */
const STEP_SIGMA = 1 / Math.sqrt(12);
/** A step larger than this share of all that is seen, and of full scale, is no instrument's. */
const LARGEST_STEP = 0.13;
const LARGEST_OF_SCALE = 0.04;

/** What a channel's smallest movements are made of. */
export interface Noise {
  /** One standard deviation of noise and rounding, in the channel's unit. */
  readonly sigma: number;
  /** The smallest step between two values; 0 where none was met. */
  readonly step: number;
}

/**
 * The noise floor of a channel, from the smaller second differences at evenly spread places: slopes, edges and rings that fill less than
 * four tenths of the samples do not count. Rounding is noise too: where neighbours are equal its share is all there is.
 *
 * @param range from lowest to highest, in the channel's unit
 * @param fullScale what the channel can reach, in its unit
 */
export function noiseOf(samples: Samples, range: number, fullScale: number): Noise {
  const places = Math.min(PLACES, samples.length - 2);
  if (places < 1) return { sigma: 0, step: 0 };
  const stride = (samples.length - 2) / places;
  const differences = new Float64Array(places);
  let smallest = Math.max(LARGEST_STEP * range, LARGEST_OF_SCALE * fullScale);
  let step = 0;
  for (let place = 0; place < places; place += 1) {
    const at = 1 + Math.floor(place * stride);
    const [before, here, after] = [samples[at - 1], samples[at], samples[at + 1]] as [number, number, number];
    differences[place] = Math.abs(before - 2 * here + after);
    const move = Math.abs(here - before);
    if (move > 1e-6 && move < smallest) [smallest, step] = [move, move];
  }
  differences.sort();
  const counted = Math.max(1, Math.floor(SMALLEST_SHARE * places));
  let squares = 0;
  for (let at = 0; at < counted; at += 1) squares += (differences[at] as number) ** 2;
  const sigma = Math.sqrt(squares / counted) / (SMALLEST_RMS * Math.sqrt(6));
  return { sigma: Math.max(sigma, STEP_SIGMA * step), step };
}
