import type { Samples } from "./capture";
import { middleOf } from "./middle";
import type { Speed } from "./speed";

/** What an inductive sensor makes at the slow and at the fast end of a capture, volts peak to peak, and how its teeth differ. */
export interface Amplitudes {
  readonly slow: { readonly rpm: number; readonly volts: number };
  readonly fast: { readonly rpm: number; readonly volts: number };
  /** Teeth at one speed, from the smallest to the largest but for a tenth at either end, as a share of the middle one. */
  readonly uneven: number;
}

/** So many places are looked at, at either end of the speeds. */
const MOST_PLACES = 200;
const LEAST_PLACES = 12;
/** A place is looked at over this part of a tooth to each side: its wave, and not the gap behind it. */
const REACH_TEETH = 0.75;

function swingAround(samples: Samples, from: number, to: number): number {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (let at = Math.max(0, Math.floor(from)); at <= Math.min(samples.length - 1, Math.ceil(to)); at += 1) {
    const value = samples[at] as number;
    if (value < low) low = value;
    if (value > high) high = value;
  }
  return high - low;
}

/** Amplitude against speed of a wheel's wave; null where there are too few teeth. @param teeth of the wheel, its gaps counted */
export function amplitudesOf(samples: Samples, rate: number, { at, rpm }: Speed, teeth: number): Amplitudes | null {
  const order = rpm.map((_, index) => index).sort((a, b) => (rpm[a] as number) - (rpm[b] as number));
  const quarter = order.length >> 2;
  if (quarter < LEAST_PLACES) return null;
  const end = (indices: readonly number[]): { rpm: number; volts: number; all: number[] } => {
    const each = Math.max(1, Math.floor(indices.length / MOST_PLACES));
    const picked = indices.filter((_, place) => place % each === 0);
    const all = picked.map((index) => {
      const reach = (REACH_TEETH * 60 * rate) / ((rpm[index] as number) * teeth);
      return swingAround(samples, (at[index] as number) - reach, (at[index] as number) + reach);
    });
    return { rpm: middleOf(picked.map((index) => rpm[index] as number)) ?? 0, volts: middleOf(all) ?? 0, all };
  };
  const [slow, fast] = [end(order.slice(0, quarter)), end(order.slice(-quarter))];
  const sorted = fast.all.map((volts) => volts / Math.max(1e-9, fast.volts)).sort((a, b) => a - b);
  const share = (of: number): number => sorted[Math.min(sorted.length - 1, Math.floor(of * sorted.length))] ?? 1;
  return { slow: { rpm: slow.rpm, volts: slow.volts }, fast: { rpm: fast.rpm, volts: fast.volts }, uneven: share(0.9) - share(0.1) };
}
