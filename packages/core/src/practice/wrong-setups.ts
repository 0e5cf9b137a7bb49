import type { Circuit, Setup } from "@fox-lamp/language";
import { buildModel } from "../circuit";
import { leadsOf } from "../files";
import { scopeAdvice } from "../procedures";
import { quantise, traceOf } from "../vehicle";

/** Ways to set a scope wrongly, each of which hides something of the same signal. */
export const WRONG_SETUPS = ["coarse-range", "small-range", "ac-coupling", "slow-rate", "no-peak"] as const;
export type WrongSetup = (typeof WRONG_SETUPS)[number];

/** One signal as it is, and as a wrongly set scope shows it, sample for sample. */
export interface Demonstration {
  readonly rate: number;
  readonly right: Float32Array;
  readonly wrong: Float32Array;
  /** What was set wrongly: full scale in volts, samples a second, volts that are gone; and what it makes of the signal. */
  readonly set: number;
  readonly shown: { readonly low: number; readonly high: number; readonly edges: number };
  readonly instead: { readonly low: number; readonly high: number; readonly edges: number };
}

const COARSE_VOLTS = 400;
const BITS = 8;
const SPIKE_SECONDS = 0.0003;
const MOST_SAMPLES = 60_000;

function extremes(samples: Float32Array): { low: number; high: number; edges: number } {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const value of samples) [low, high] = [Math.min(low, value), Math.max(high, value)];
  const [lower, upper] = [low + 0.35 * (high - low), low + 0.65 * (high - low)];
  let [edges, above] = [0, (samples[0] ?? 0) > 0.5 * (low + high)];
  for (const value of samples) {
    if (above ? value < lower : value > upper) {
      above = !above;
      edges += 1;
    }
  }
  return { low, high, edges };
}

function quantised(samples: Float32Array, fullScale: number): Float32Array {
  const out = samples.slice();
  quantise(out, BITS, fullScale);
  return out;
}

/** Every so many samples one is kept, and stands until the next. */
function held(samples: Float32Array, each: number): Float32Array {
  return samples.map((_, at) => samples[Math.floor(at / each) * each] as number);
}

/** Samples a signal is taken at when its own rate is seen wrongly: a little under once a period. */
function slowEach(rate: number, hertz: number | null): number {
  return hertz === null ? Math.round(rate / 4) : Math.max(2, Math.round((0.93 * rate) / hertz));
}

/**
 * The same signal through a scope that is set as it should be and one that is not, from the sheet of its circuit.
 *
 * @throws BadInput for a circuit that cannot be
 */
export function wrongSetup(circuits: readonly Circuit[], id: string, setup: Setup, which: WrongSetup): Demonstration {
  const model = buildModel(circuits);
  const circuit = model.circuits.find((one) => one.id === id) ?? model.circuits[0];
  if (circuit === undefined) throw new RangeError("there is no circuit to show");
  const { rate, seconds, pin, rangeVolts, hertz } = scopeAdvice(model, circuit, setup);
  const long = Math.min(seconds, MOST_SAMPLES / rate);
  const { channels } = traceOf(model, circuit, setup, [], {
    channels: [leadsOf(model, `${circuit.id}:${pin}`, "pin")],
    seconds: long,
    rate,
    seed: 7,
    bits: BITS,
    range: rangeVolts,
  });
  const right = Float32Array.from(channels[0]?.samples ?? []);
  const { low, high } = extremes(right);
  const answer = (wrong: Float32Array, set: number): Demonstration => ({ rate, right, wrong, set, shown: extremes(right), instead: extremes(wrong) });
  switch (which) {
    case "coarse-range":
      return answer(quantised(right, COARSE_VOLTS), COARSE_VOLTS);
    case "small-range": {
      const small = Math.max(0.05, 0.4 * Math.max(Math.abs(low), Math.abs(high)));
      return answer(quantised(right, small), small);
    }
    case "ac-coupling": {
      const mean = right.reduce((sum, value) => sum + value, 0) / Math.max(1, right.length);
      return answer(
        right.map((value) => value - mean),
        mean,
      );
    }
    case "slow-rate": {
      const each = slowEach(rate, hertz);
      return answer(held(right, each), rate / each);
    }
    case "no-peak": {
      // A spike as a bad contact makes, shorter than the time between the samples of a slow time base.
      const each = Math.max(2, Math.round(4 * SPIKE_SECONDS * rate));
      const from = Math.floor((0.55 * right.length) / each) * each + Math.floor(each / 3);
      const to = Math.min(right.length, from + Math.max(1, Math.round(SPIKE_SECONDS * rate)));
      right.fill(low > 0.3 * high ? 0 : high + 0.3 * (high - low), from, to);
      return answer(held(right, each), rate / each);
    }
  }
}
