import type { Samples, Stretch } from "./capture";

/** Corner of a hand-held meter's AC range, hertz (one pole); the same as its readings are computed with. */
const AC_CORNER_HERTZ = 3000;
/** An average-responding meter shows the rectified mean times the form factor of a sine: pi over twice the root of two. */
const FORM_FACTOR = Math.PI / (2 * Math.SQRT2);
/** How often a hand-held meter's min/max looks, samples a second. */
const MIN_MAX_RATE = 10;
/** Peak to peak below which its counter does not trigger, volts. */
const TRIGGER_VOLTS = 0.3;

/** What a hand-held meter would have shown of a stretch. */
export interface MeterView {
  /** DC range: the average. */
  readonly dc: number;
  /** AC range, average taken away, within its bandwidth. */
  readonly acTrueRms: number;
  readonly acAverageResponding: number;
  /** Min/max record: averages over a tenth of a second, so that shorter peaks are missed. */
  readonly min: number;
  readonly max: number;
  /** Hertz and duty function; null where the counter does not trigger. */
  readonly hertz: number | null;
  readonly duty: number | null;
}

/** The average of a stretch. */
export function meanOf(samples: Samples, { from, to }: Stretch): number {
  let sum = 0;
  for (let at = from; at < to; at += 1) sum += samples[at] as number;
  return sum / Math.max(1, to - from);
}

/** What an AC range shows of a stretch: true RMS and the rectified mean times 1.11, both without the average and behind one pole at 3 kHz. */
export function acOf(samples: Samples, rate: number, { from, to }: Stretch, mean: number): { trueRms: number; averageResponding: number } {
  const count = to - from;
  if (count < 2) return { trueRms: 0, averageResponding: 0 };
  // Under some samples a period of the corner the samples themselves are the limit.
  const follow = rate > 4 * AC_CORNER_HERTZ ? 1 - Math.exp((-2 * Math.PI * AC_CORNER_HERTZ) / rate) : 1;
  let [held, squares, rectified] = [(samples[from] as number) - mean, 0, 0];
  for (let at = from; at < to; at += 1) {
    held += ((samples[at] as number) - mean - held) * follow;
    squares += held * held;
    rectified += Math.abs(held);
  }
  return { trueRms: Math.sqrt(squares / count), averageResponding: (FORM_FACTOR * rectified) / count };
}

/** Lowest and highest of the averages that a min/max record would have taken. */
function recordOf(samples: Samples, rate: number, { from, to }: Stretch): { min: number; max: number } {
  const window = Math.max(1, Math.min(to - from, Math.round(rate / MIN_MAX_RATE)));
  let [min, max] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (let at = from; at + window <= to; at += window) {
    const mean = meanOf(samples, { from: at, to: at + window });
    min = Math.min(min, mean);
    max = Math.max(max, mean);
  }
  return { min, max };
}

/** What a counter at mid swing makes of a stretch: pulses a second and share of the time high. */
function counterOf(samples: Samples, rate: number, { from, to }: Stretch): { hertz: number | null; duty: number | null } {
  let [min, max] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (let at = from; at < to; at += 1) {
    const value = samples[at] as number;
    if (value < min) min = value;
    if (value > max) max = value;
  }
  if (max - min < TRIGGER_VOLTS) return { hertz: null, duty: null };
  const [lower, upper] = [min + 0.4 * (max - min), min + 0.6 * (max - min)];
  let [above, pulses, high] = [0, 0, (samples[from] as number) > 0.5 * (min + max)];
  for (let at = from; at < to; at += 1) {
    const value = samples[at] as number;
    if (high && value < lower) high = false;
    else if (!high && value > upper) {
      high = true;
      pulses += 1;
    }
    if (high) above += 1;
  }
  const seconds = (to - from) / rate;
  return { hertz: pulses === 0 ? null : pulses / seconds, duty: (100 * above) / (to - from) };
}

/** What a hand-held meter would have shown between two moments of a channel. */
export function meterView(samples: Samples, rate: number, stretch: Stretch): MeterView {
  const dc = meanOf(samples, stretch);
  const { trueRms, averageResponding } = acOf(samples, rate, stretch, dc);
  return { dc, acTrueRms: trueRms, acAverageResponding: averageResponding, ...recordOf(samples, rate, stretch), ...counterOf(samples, rate, stretch) };
}
