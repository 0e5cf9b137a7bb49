import type { Samples } from "./capture";
import type { Noise } from "./noise";
import { peakFrequency } from "./spectrum";

/** A ring: where it begins, in samples, how far it swings from its own rest, and how fast. */
export interface Burst {
  readonly at: number;
  readonly to: number;
  readonly peak: number;
  readonly hertz: number | null;
  /** Time constant of its fall from its top, seconds; null where it does not fall to a tenth before the next begins. */
  readonly decaySeconds: number | null;
}

/** Rest is what is left of a signal over this long, seconds: longer than a ring's period, shorter than what is slow. */
const REST_SECONDS = 0.005;
const BLOCK_SECONDS = 0.0002;
/** A ring stands out of what is always there by so much, and is at least this share of the largest. */
const OUT_OF_NOISE = 7;
const LEAST_STEPS = 1.6;
const OUT_OF_USUAL = 2.6;
const LEAST_OF_LARGEST = 0.12;
/** A ring is over when it is quiet for this long. */
const QUIET_SECONDS = 0.0012;
/** The ring is followed until it has fallen to this share. */
const FALLEN_SHARE = 0.1;
/** A new ring inside an old one rises by this factor. */
const RISES_BY = 2.5;

/** The signal less its moving mean. */
export function aboveRest(samples: Samples, window: number): Float64Array {
  const length = samples.length;
  const out = new Float64Array(length);
  const half = Math.max(1, window >> 1);
  let sum = 0;
  for (let at = 0; at < Math.min(half, length); at += 1) sum += samples[at] as number;
  let count = Math.min(half, length);
  for (let at = 0; at < length; at += 1) {
    if (at + half < length) {
      sum += samples[at + half] as number;
      count += 1;
    }
    if (at - half - 1 >= 0) {
      sum -= samples[at - half - 1] as number;
      count -= 1;
    }
    out[at] = (samples[at] as number) - sum / count;
  }
  return out;
}

/** Rings in a channel: short swings around a rest that stand out of the noise and of what swings all the time. @param noise its noise floor */
export function burstsOf(samples: Samples, rate: number, { sigma, step }: Noise): Burst[] {
  const swing = aboveRest(samples, Math.round(REST_SECONDS * rate));
  const block = Math.max(4, Math.round(BLOCK_SECONDS * rate));
  const blocks = Math.floor(swing.length / block);
  if (blocks < 4) return [];
  const envelope = new Float64Array(blocks);
  for (let index = 0; index < blocks; index += 1) {
    let most = 0;
    for (let at = index * block; at < (index + 1) * block; at += 1) most = Math.max(most, Math.abs(swing[at] as number));
    envelope[index] = most;
  }
  const sorted = Float64Array.from(envelope).sort();
  const usual = sorted[Math.floor(0.3 * blocks)] as number;
  const largest = sorted[blocks - 1] as number;
  const threshold = Math.max(OUT_OF_NOISE * sigma, LEAST_STEPS * step, OUT_OF_USUAL * usual, LEAST_OF_LARGEST * largest);
  if (largest <= 1.15 * threshold) return [];
  return spans(envelope, threshold, Math.max(2, Math.ceil((QUIET_SECONDS * rate) / block))).map(({ from, to }) =>
    burstIn(swing, from * block, to * block, rate, threshold),
  );
}

/** Blocks in which the envelope is up: joined over short dips, parted where it rises anew. */
function spans(envelope: Float64Array, threshold: number, quiet: number): { from: number; to: number }[] {
  const found: { from: number; to: number }[] = [];
  let [from, low, high, still] = [-1, 0, 0, 0];
  for (let index = 0; index < envelope.length; index += 1) {
    const value = envelope[index] as number;
    if (from < 0) {
      if (value > threshold) [from, low, high, still] = [index, value, value, 0];
      continue;
    }
    // Fallen well below its top and up again: another ring.
    if (value > 1.5 * threshold && value > RISES_BY * low && high > RISES_BY * low) {
      found.push({ from, to: index });
      [from, low, high, still] = [index, value, value, 0];
      continue;
    }
    if (value > high) [low, high] = [value, value];
    low = Math.min(low, value);
    still = value < 0.7 * threshold ? still + 1 : 0;
    if (still >= quiet) {
      found.push({ from, to: index - still + 1 });
      from = -1;
    }
  }
  if (from >= 0) found.push({ from, to: envelope.length });
  return found;
}

function burstIn(swing: Float64Array, begin: number, end: number, rate: number, threshold: number): Burst {
  let from = begin;
  const last = Math.min(end, swing.length);
  while (from < last && Math.abs(swing[from] as number) < 0.5 * threshold) from += 1;
  let [peak, top] = [0, from];
  for (let at = from; at < last; at += 1) {
    if (Math.abs(swing[at] as number) > peak) [peak, top] = [Math.abs(swing[at] as number), at];
  }
  let to = top;
  for (let at = top; at < last; at += 1) if (Math.abs(swing[at] as number) > FALLEN_SHARE * peak) to = at;
  return { at: from, to, peak, hertz: peakFrequency(swing.subarray(from, to + 1), rate), decaySeconds: to < last - 1 ? decayOf(swing, top, to, rate) : null };
}

/** A ring shorter than so many samples says nothing of its fall. */
const LEAST_FALL = 12;

/** Time constant of a ring that falls: of exp(-t/T) the mean moment of its squares is half of T. */
function decayOf(swing: Float64Array, top: number, to: number, rate: number): number | null {
  if (to - top < LEAST_FALL) return null;
  let [squares, moments] = [0, 0];
  for (let at = top; at <= to; at += 1) {
    const square = (swing[at] as number) ** 2;
    squares += square;
    moments += (at - top) * square;
  }
  return (2 * moments) / squares / rate;
}
