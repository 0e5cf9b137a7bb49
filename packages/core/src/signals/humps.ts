import type { Samples } from "./capture";
import { blockMeans } from "./means";

/** A hump of a slow signal: its top, in samples and in the channel's unit. */
export interface Hump {
  readonly at: number;
  readonly value: number;
}

const BLOCK_SECONDS = 0.008;
const MOST_BLOCKS = 4000;
/** A hump stands out by this share of what the signal moves, and by this much. */
const LEAST_SHARE = 0.1;
const LEAST_VOLTS = 0.08;

/** The humps of a slow signal: tops that stand out of both their valleys. @param sigma its noise floor */
export function humpsOf(samples: Samples, rate: number, sigma: number): Hump[] {
  const block = Math.max(1, Math.round(BLOCK_SECONDS * rate), Math.ceil(samples.length / MOST_BLOCKS));
  const means = blockMeans(samples, block);
  if (means.length < 5) return [];
  const [low, high] = [Math.min(...means), Math.max(...means)];
  const prominence = Math.max(LEAST_SHARE * (high - low), LEAST_VOLTS, (8 * sigma) / Math.sqrt(block));
  const tops: number[] = [];
  let [top, valley, climbing] = [0, 0, true];
  for (let index = 1; index < means.length; index += 1) {
    const value = means[index] as number;
    if (climbing) {
      if (value > (means[top] as number)) top = index;
      else if (value < (means[top] as number) - prominence) {
        if ((means[top] as number) > (means[valley] as number) + prominence) tops.push(top);
        [climbing, valley] = [false, index];
      }
    } else if (value < (means[valley] as number)) valley = index;
    else if (value > (means[valley] as number) + prominence) [climbing, top] = [true, index];
  }
  return tops.map((index) => topNear(samples, index * block, block));
}

/** The top itself: the highest mean of a third of a block in the blocks around. */
function topNear(samples: Samples, from: number, block: number): Hump {
  const window = Math.max(1, Math.floor(block / 3));
  const [first, last] = [Math.max(0, from - block), Math.min(samples.length, from + 2 * block)];
  let sum = 0;
  let best: Hump = { at: from, value: Number.NEGATIVE_INFINITY };
  for (let at = first; at < last; at += 1) {
    sum += samples[at] as number;
    if (at - first >= window) sum -= samples[at - window] as number;
    if (at - first >= window - 1 && sum / window > best.value) best = { at: at - (window - 1) / 2, value: sum / window };
  }
  return best;
}
