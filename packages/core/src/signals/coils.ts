import type { Samples } from "./capture";
import { edgesOf } from "./edges";
import { middleOf } from "./middle";
import type { Noise } from "./noise";

/** The pulses of a switched winding behind a clamp. Amperes, seconds. */
export interface Coil {
  readonly count: number;
  readonly widthSeconds: number;
  /** What the current comes to before it is switched off. */
  readonly plateau: number;
  /** How fast it rises at first, amperes a second: what feeds the winding over its inductance. */
  readonly slope: number;
  /** Whether the capture is fine enough to show a kink at all. */
  readonly judged: boolean;
  /** Seconds from switching on to the kink a pintle makes when it moves; null where there is none. */
  readonly kinkSeconds: number | null;
}

/** Thresholds of a pulse as shares of the swing. */
const LOWER = 0.15;
const UPPER = 0.35;
/** Pulses that are laid over one another. */
const MOST_PULSES = 400;
/** The slope is taken over this part of the time the rise takes to each side. */
const WINDOW_SHARE = 1 / 13;
/** A current without a kink rises ever more slowly: rising again by this share of its first slope is a kink, out of so much noise. */
const KINK_SHARE = 0.1;
const OUT_OF_NOISE = 6;
const LEAST_RISE_SAMPLES = 14;
/** What moves does so while the current rises: within so many times of what it takes to 63 %. */
const RISES_FOR = 3;

interface Pulse {
  readonly from: number;
  readonly to: number;
}

/** From switching on to switching off, in samples. */
function pulsesOf(samples: Samples, low: number, high: number, sigma: number): Pulse[] {
  const span = high - low;
  const { at, rising } = edgesOf(samples, low + LOWER * span, low + UPPER * span);
  const rest = low + Math.max(3 * sigma, 0.03 * span);
  const pulses: Pulse[] = [];
  for (let edge = 0; edge + 1 < at.length; edge += 1) {
    if (rising[edge] !== 1) continue;
    let from = Math.floor(at[edge] as number);
    const before = edge === 0 ? 0 : Math.ceil(at[edge - 1] as number);
    while (from > before && (samples[from] as number) > rest) from -= 1;
    const end = Math.floor(at[edge + 1] as number);
    let most = Number.NEGATIVE_INFINITY;
    for (let place = from; place <= end; place += 1) most = Math.max(most, samples[place] as number);
    let to = end;
    while (to > from && (samples[to] as number) < most - Math.max(4 * sigma, 0.03 * span)) to -= 1;
    // One that was on when the capture began is not whole.
    if (from > before && to - from >= 4) pulses.push({ from, to });
  }
  return pulses;
}

/** Many pulses laid over one another from their beginning: noise that is not alike in them goes. */
function overlaid(samples: Samples, pulses: readonly Pulse[], length: number): Float64Array {
  const sum = new Float64Array(length);
  for (const { from } of pulses) for (let place = 0; place < length; place += 1) sum[place] = (sum[place] as number) + (samples[from + place] as number);
  return sum.map((value) => value / pulses.length);
}

/** Sum of the squared places of a window: what a line's slope is divided by (least squares). */
function squaredPlaces(half: number): number {
  return (half * (half + 1) * (2 * half + 1)) / 3;
}

/** The slope around each place, per sample, by straight lines over a window. */
function slopesOf(curve: Float64Array, half: number): Float64Array {
  const norm = squaredPlaces(half);
  const out = new Float64Array(Math.max(0, curve.length - 2 * half));
  for (let place = 0; place < out.length; place += 1) {
    let sum = 0;
    for (let step = 1; step <= half; step += 1) sum += step * ((curve[place + half + step] as number) - (curve[place + half - step] as number));
    out[place] = sum / norm;
  }
  return out;
}

/** The deepest place from which the slope rises again, and by how much. */
function rebound(slopes: Float64Array, from: number): { at: number; by: number } {
  let [lowest, at, by] = [from, from, 0];
  for (let place = from; place < slopes.length; place += 1) {
    const here = slopes[place] as number;
    if (here < (slopes[lowest] as number)) lowest = place;
    const rise = here - (slopes[lowest] as number);
    if (rise > by) [at, by] = [lowest, rise];
  }
  return { at, by };
}

/**
 * Reads the current of a winding that is switched on and off: how long, how far, how fast, and whether the movement of its pintle shows. While
 * nothing moves the current of a winding rises ever more slowly (i = V / R (1 - exp(-t R / L))); what moves induces a voltage against it, and the
 * slope falls and rises again.
 *
 * @param low usual amperes while it is off @param high the most it comes to
 * @returns null for fewer than two whole pulses
 */
export function coilOf(samples: Samples, rate: number, { sigma, step }: Noise, low: number, high: number): Coil | null {
  const pulses = pulsesOf(samples, low, high, sigma);
  if (pulses.length < 2) return null;
  const lengths = pulses.map(({ from, to }) => to - from);
  const width = middleOf(lengths) ?? 0;
  const alike = pulses.filter(({ from, to }) => Math.abs(to - from - width) <= Math.max(2, 0.02 * width)).slice(0, MOST_PULSES);
  const length = Math.min(...alike.map(({ from, to }) => to - from));
  const curve = overlaid(samples, alike, length);
  const tail = Math.max(1, Math.floor(0.06 * length));
  // What is shown while nothing flows: just before each pulse.
  const rest = middleOf(alike.flatMap(({ from }) => [...samples.slice(Math.max(0, from - 8), from)])) ?? 0;
  const plateau = curve.slice(length - tail).reduce((sum, value) => sum + value, 0) / tail - rest;
  const reach = (share: number): number =>
    Math.max(
      1,
      curve.findIndex((value) => value - rest >= share * plateau),
    );
  const [early, late] = [reach(0.1), reach(0.4)];
  const slope = (((curve[late] as number) - (curve[early] as number)) * rate) / Math.max(1, late - early);
  const rise = reach(0.63);
  const half = Math.max(1, Math.round(WINDOW_SHARE * rise));
  const slopes = slopesOf(curve, half);
  const norm = squaredPlaces(half);
  // Steps finer than the noise average out with it.
  const rounding = sigma > step ? 0 : 0.3 * step;
  const spread = Math.sqrt((sigma * sigma) / alike.length + rounding ** 2) / Math.sqrt(norm);
  const needed = Math.max(KINK_SHARE * (plateau / rise), OUT_OF_NOISE * spread * Math.SQRT2);
  const judged = rise >= LEAST_RISE_SAMPLES && OUT_OF_NOISE * spread * Math.SQRT2 <= 1.5 * KINK_SHARE * (plateau / rise) && length > 2 * rise;
  // The last of it may be rounded by pulses of unlike length; the first by where they begin.
  const end = Math.min(slopes.length - tail - half, Math.ceil(RISES_FOR * rise));
  const kink = rebound(slopes.subarray(0, Math.max(0, end)), Math.min(slopes.length, Math.ceil(0.2 * rise)));
  const found = rise >= LEAST_RISE_SAMPLES && kink.by > needed;
  return {
    count: pulses.length,
    widthSeconds: width / rate,
    plateau,
    slope,
    judged,
    kinkSeconds: found ? (kink.at + half) / rate : null,
  };
}
