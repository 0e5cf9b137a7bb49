import { type Random, seededRandom } from "../src/numeric";
import type { Capture, CapturedChannel } from "../src/signals";

/** What an instrument makes of volts: noise, an offset, and steps of its bits over its range. */
export interface Instrument {
  readonly noise: number;
  readonly bits: 8 | 12 | null;
  readonly range: number;
  readonly offset: number;
}

export const CLEAN: Instrument = { noise: 0, bits: null, range: 20, offset: 0 };

/** Samples of a course as an instrument stores them. */
export function sampled(volts: (seconds: number) => number, seconds: number, rate: number, random: Random, instrument: Instrument = CLEAN): Float64Array {
  const step = instrument.bits === null ? 0 : (2 * instrument.range) / 2 ** instrument.bits;
  return Float64Array.from({ length: Math.round(seconds * rate) }, (_, at) => {
    const value = volts(at / rate) + instrument.offset + instrument.noise * random.normal();
    return step === 0 ? value : Math.round(value / step) * step;
  });
}

export function captureOf(rate: number, channels: Readonly<Record<string, Float64Array>>, unit = "V"): Capture {
  return { start: 0, rate, channels: Object.entries(channels).map(([name, samples]): CapturedChannel => ({ name, unit, samples })) };
}

/** A row of teeth in time: high for `duty` of each, resting (low or high) where one is missing. @param absent numbers of teeth that are not there */
export function toothed(turns: (seconds: number) => number, teeth: number, absent: readonly number[], duty: number, low: number, high: number, rest = low) {
  const gone = new Set(absent);
  return (seconds: number): number => {
    const place = turns(seconds);
    const at = (place - Math.floor(place)) * teeth;
    const tooth = Math.floor(at);
    if (gone.has(tooth)) return rest;
    return at - tooth < duty ? high : low;
  };
}

/** The same wheel past a winding: one wave a tooth, upwards first. */
export function alternating(turns: (seconds: number) => number, teeth: number, absent: readonly number[], peak: number, rest = 0) {
  const gone = new Set(absent);
  return (seconds: number): number => {
    const place = turns(seconds);
    const at = (place - Math.floor(place)) * teeth;
    const tooth = Math.floor(at);
    return rest + (gone.has(tooth) ? 0 : peak * Math.sin(2 * Math.PI * (at - tooth)));
  };
}

/** Rings that start at some moments and die away, around a rest. */
export function rings(starts: readonly number[], hertz: number, peak: number, decaySeconds: number, rest: number) {
  return (seconds: number): number =>
    starts.reduce((sum, start) => {
      const since = seconds - start;
      return since < 0 ? sum : sum + peak * Math.exp(-since / decaySeconds) * Math.sin(2 * Math.PI * hertz * since);
    }, rest);
}

export function between(random: Random, low: number, high: number): number {
  return low + (high - low) * random.uniform();
}

export { seededRandom };
