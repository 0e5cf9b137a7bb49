import { BadInput } from "@fox-lamp/language";

/** Samples brought to even time. */
interface Even {
  readonly start: number;
  readonly rate: number;
  readonly channels: readonly Float32Array[];
  readonly notes: readonly string[];
}

/** Times may lie this part of an interval off their place before samples are moved. */
const OFF_PLACE = 0.75;
/** Filled up with more than this many times its samples, a capture is no capture. */
const MOST_FILLED = 4;

/**
 * Brings samples to even time. Rounded times are what they are: only where samples are missing or crowd is each moment given the sample before it.
 *
 * @param seconds time of every row; null where only the rate is known
 * @param rate samples a second as the file says, where it does
 * @throws BadInput where time runs backwards or stands still
 */
export function evenly(seconds: Float64Array | null, channels: readonly Float32Array[], rate: number | null, firstLine: number): Even {
  const rows = channels[0]?.length ?? 0;
  if (seconds === null) return { start: 0, rate: rate ?? 1, channels, notes: [] };
  const start = seconds[0] as number;
  const span = (seconds[rows - 1] as number) - start;
  for (let row = 1; row < rows; row += 1) {
    if ((seconds[row] as number) < (seconds[row - 1] as number)) {
      throw new BadInput({
        code: "capture:backwards",
        where: `line ${firstLine + row}, column time`,
        message: `time runs back from ${seconds[row - 1]} s to ${seconds[row]} s; expected rising times`,
      });
    }
  }
  if (!(span > 0)) throw new BadInput({ code: "capture:still", where: "column time", message: "time stands still; expected rising times" });
  const interval = span / (rows - 1);
  // Times printed with few figures come in steps; the step is what they may be off.
  let [step, off] = [Number.POSITIVE_INFINITY, 0];
  for (let row = 1; row < rows; row += 1) {
    const ahead = (seconds[row] as number) - (seconds[row - 1] as number);
    if (ahead > 0 && ahead < step) step = ahead;
    off = Math.max(off, Math.abs((seconds[row] as number) - start - row * interval));
  }
  const rounded = step > 1.5 * interval ? step : 0;
  if (off <= Math.max(OFF_PLACE * interval, 1.01 * rounded)) return { start, rate: 1 / interval, channels, notes: [] };
  return resampled(seconds, channels, start, span);
}

/** Every moment of an even time gets the sample before it. */
function resampled(seconds: Float64Array, channels: readonly Float32Array[], start: number, span: number): Even {
  const rows = seconds.length;
  const places = Math.min(20_001, rows - 1);
  const steps = Float64Array.from({ length: places }, (_, index) => {
    const row = 1 + Math.floor((index * (rows - 1)) / places);
    return (seconds[row] as number) - (seconds[row - 1] as number);
  }).sort();
  const interval = steps[places >> 1] as number;
  const count = interval > 0 ? Math.round(span / interval) + 1 : Number.POSITIVE_INFINITY;
  if (count > MOST_FILLED * rows + 1000) {
    throw new BadInput({
      code: "capture:uneven",
      where: "column time",
      message: "most of the samples between first and last time are missing; expected even times",
    });
  }
  const out = channels.map(() => new Float32Array(count));
  let row = 0;
  for (let at = 0; at < count; at += 1) {
    const time = start + at * interval + 0.25 * interval;
    while (row + 1 < rows && (seconds[row + 1] as number) <= time) row += 1;
    for (let channel = 0; channel < channels.length; channel += 1) (out[channel] as Float32Array)[at] = (channels[channel] as Float32Array)[row] as number;
  }
  return { start, rate: 1 / interval, channels: out, notes: ["times are not even: every moment was given the sample before it"] };
}
