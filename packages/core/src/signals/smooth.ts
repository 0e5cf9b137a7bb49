import type { Samples } from "./capture";

/**
 * The moving mean over a window around each sample, a low-pass for looking: what is shorter than the window is taken down.
 *
 * @param window samples; the next odd number is taken, 1 leaves everything as it is
 */
export function smoothed(samples: Samples, window: number): Float32Array {
  const half = Math.max(0, Math.floor(window / 2));
  const out = new Float32Array(samples.length);
  let [sum, from, to] = [0, 0, 0];
  for (let at = 0; at < samples.length; at += 1) {
    while (to < Math.min(samples.length, at + half + 1)) {
      sum += samples[to] as number;
      to += 1;
    }
    while (from < at - half) {
      sum -= samples[from] as number;
      from += 1;
    }
    out[at] = sum / (to - from);
  }
  return out;
}
