import FFT from "fft.js";

/** Samples that are looked at, and the points they are padded to: fine enough for a third of a per cent at eight periods. */
const MOST_SAMPLES = 8192;
const LEAST_POINTS = 4096;
/** Fewer samples say nothing of a frequency. */
const LEAST_SAMPLES = 8;

/** Magnitudes of the spectrum of some samples, padded with zeros; `hertz(k)` is the frequency of line k. */
export function spectrumOf(samples: Float64Array, rate: number): { magnitudes: Float64Array; hertz: (line: number) => number } {
  const used = samples.subarray(0, MOST_SAMPLES);
  const points = Math.max(LEAST_POINTS, 2 ** Math.ceil(Math.log2(4 * used.length)));
  const mean = used.reduce((sum, value) => sum + value, 0) / Math.max(1, used.length);
  const input = new Array<number>(points).fill(0);
  for (let at = 0; at < used.length; at += 1) input[at] = (used[at] as number) - mean;
  const fft = new FFT(points);
  const out = fft.createComplexArray();
  fft.realTransform(out, input);
  const magnitudes = new Float64Array(points / 2);
  for (let line = 0; line < magnitudes.length; line += 1) magnitudes[line] = Math.hypot(out[2 * line] as number, out[2 * line + 1] as number);
  return { magnitudes, hertz: (line) => (line * rate) / points };
}

/** The strongest frequency of a stretch, hertz, read between the spectrum's lines by a parabola; null where there is too little of it. */
export function peakFrequency(samples: Float64Array, rate: number): number | null {
  if (samples.length < LEAST_SAMPLES) return null;
  const { magnitudes, hertz } = spectrumOf(samples, rate);
  // Under one period in the stretch it is no ring.
  const first = Math.max(2, Math.ceil((magnitudes.length * 2) / samples.length));
  let best = first;
  for (let line = first; line < magnitudes.length - 1; line += 1) if ((magnitudes[line] as number) > (magnitudes[best] as number)) best = line;
  const [left, top, right] = [magnitudes[best - 1] ?? 0, magnitudes[best] ?? 0, magnitudes[best + 1] ?? 0];
  const bend = left - 2 * top + right;
  return bend < 0 ? hertz(best + (0.5 * (left - right)) / bend) : hertz(best);
}
