import type { Samples, Stretch } from "./capture";

const BINS = 1024;
/** Samples this part of the swing from a level are at it. */
const NEAR_SHARE = 0.2;

/** How often each level occurs. */
export interface Histogram {
  readonly min: number;
  readonly max: number;
  readonly mean: number;
  readonly counts: Float64Array;
  readonly total: number;
}

/** Counts the samples of a stretch in even bins between its lowest and its highest value. */
export function histogramOf(samples: Samples, { from, to }: Stretch = { from: 0, to: samples.length }): Histogram {
  let min = Number.POSITIVE_INFINITY;
  let max = Number.NEGATIVE_INFINITY;
  let sum = 0;
  for (let at = from; at < to; at += 1) {
    const value = samples[at] as number;
    if (value < min) min = value;
    if (value > max) max = value;
    sum += value;
  }
  const counts = new Uint32Array(BINS);
  const factor = max > min ? (BINS - 1e-6) / (max - min) : 0;
  for (let at = from; at < to; at += 1) {
    const bin = (((samples[at] as number) - min) * factor) | 0;
    counts[bin] = (counts[bin] as number) + 1;
  }
  return { min, max, mean: sum / Math.max(1, to - from), counts: Float64Array.from(counts), total: to - from };
}

/** The value of a bin's middle. */
function valueAt({ min, max, counts }: Histogram, bin: number): number {
  return max > min ? min + ((bin + 0.5) * (max - min)) / counts.length : min;
}

/** The value below which a share of the samples lies, to within a bin. */
export function quantile(histogram: Histogram, share: number): number {
  const target = share * histogram.total;
  let sum = 0;
  for (let bin = 0; bin < histogram.counts.length; bin += 1) {
    const count = histogram.counts[bin] as number;
    if (count > 0 && sum + count >= target) {
      const inside = (target - sum) / count;
      const width = (histogram.max - histogram.min) / histogram.counts.length;
      return histogram.max > histogram.min ? histogram.min + (bin + inside) * width : histogram.min;
    }
    sum += count;
  }
  return histogram.max;
}

/** The two levels a signal spends its time at. */
export interface Levels {
  readonly low: number;
  readonly high: number;
  /** Share of the samples between them: more than a tenth away from each towards the other. */
  readonly between: number;
  /** How much the samples near a level spread around it, one standard deviation. */
  readonly spread: number;
}

/** Mean of the samples around the most frequent value of some bins: a flat top, noise and rounding averaged. */
function plateau(histogram: Histogram, first: number, last: number, reach: number): number {
  const { counts } = histogram;
  // The mode of sums over a few bins, so that coarse rounding does not decide.
  let best = first;
  let most = -1;
  let sum = 0;
  for (let bin = first; bin <= last; bin += 1) {
    sum += counts[bin] as number;
    if (bin - first >= 2 * reach) sum -= counts[bin - 2 * reach] as number;
    if (sum > most) {
      most = sum;
      best = bin - Math.min(reach, (bin - first) >> 1);
    }
  }
  let [weight, moment] = [0, 0];
  for (let bin = Math.max(first, best - 2 * reach); bin <= Math.min(last, best + 2 * reach); bin += 1) {
    weight += counts[bin] as number;
    moment += (counts[bin] as number) * valueAt(histogram, bin);
  }
  return weight > 0 ? moment / weight : valueAt(histogram, best);
}

/**
 * The two levels of a channel: the histogram is cut where two groups differ most (Otsu's threshold: largest variance between the
 * groups), and each group's most frequent value is taken, so that spikes, ringing and soft edges do not move them.
 *
 * @param sigma noise of the channel: a plateau is averaged over three of them to each side
 */
export function levelsOf(histogram: Histogram, sigma: number): Levels {
  const { counts, total, min, max } = histogram;
  if (!(max > min)) return { low: min, high: max, between: 0, spread: 0 };
  let all = 0;
  for (let bin = 0; bin < counts.length; bin += 1) all += bin * (counts[bin] as number);
  let [weight, moment, cut, best] = [0, 0, counts.length >> 1, -1];
  for (let bin = 0; bin < counts.length - 1; bin += 1) {
    weight += counts[bin] as number;
    moment += bin * (counts[bin] as number);
    if (weight === 0 || weight === total) continue;
    const apart = moment / weight - (all - moment) / (total - weight);
    const variance = weight * (total - weight) * apart * apart;
    if (variance > best) {
      best = variance;
      cut = bin;
    }
  }
  const reach = Math.max(2, Math.ceil((1.5 * sigma * counts.length) / (max - min)));
  const low = plateau(histogram, 0, cut, Math.min(reach, Math.max(2, cut >> 2)));
  const high = plateau(histogram, cut + 1, counts.length - 1, Math.min(reach, Math.max(2, (counts.length - cut) >> 2)));
  const margin = Math.max(0.1 * (high - low), 4 * sigma);
  const reachOfLevel = NEAR_SHARE * (high - low);
  let [inside, near, squares] = [0, 0, 0];
  for (let bin = 0; bin < counts.length; bin += 1) {
    const value = valueAt(histogram, bin);
    const count = counts[bin] as number;
    if (value > low + margin && value < high - margin) inside += count;
    const off = Math.min(Math.abs(value - low), Math.abs(value - high));
    if (off > reachOfLevel) continue;
    near += count;
    squares += count * off * off;
  }
  return { low, high, between: inside / total, spread: Math.sqrt(squares / Math.max(1, near)) };
}
