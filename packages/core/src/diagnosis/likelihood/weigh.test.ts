import fc from "fast-check";
import { buildModel, type CircuitModel } from "../../circuit";
import type { ElectricalProbe } from "../../instruments";
import type { PredictionTable } from "../predictions/table";
import { type Observation, steadyCircumstances } from "./observation";
import { ANY_NUMBER } from "./slips";
import { weigh } from "./weigh";

const MODEL = buildModel([{ id: "x", family: "thermistor-2w" }]);
const CIRCUIT = MODEL.circuits[0] as CircuitModel;
const VOLTS: ElectricalProbe = {
  kind: "electrical",
  meter: "volts-dc",
  circuit: CIRCUIT,
  red: "bat+",
  black: "bat-",
  setup: {},
  statistic: "mean",
  ac: "true-rms",
  coupling: "dc",
  range: null,
  fullScale: null,
  reads: null,
  unit: null,
  clamp: null,
};
const LAMP: ElectricalProbe = { ...VOLTS, meter: "lamp" };
const D = 3;
const SLIP = 0.03;
const BROAD = 1 / 16;

function numericTable(mean: number, noise: number, slopes: readonly number[]): PredictionTable {
  return {
    probe: VOLTS,
    wordNames: [],
    numeric: true,
    slips: "none" as const,
    ends: null,
    used: new Uint8Array(0),
    broad: BROAD,
    mean: Float64Array.of(mean),
    noise: Float64Array.of(noise),
    bent: Float64Array.of(0),
    lasting: Float64Array.of(0),
    jacobian: Float64Array.from(slopes),
    words: new Float64Array(0),
    quiet: Int32Array.of(-1),
    slot: Int32Array.of(0),
    brinks: null,
    swing: null,
    rows: 1,
  };
}
function lampTable(words: readonly number[]): PredictionTable {
  return { ...numericTable(0, 1, [0, 0, 0]), probe: LAMP, wordNames: ["lit", "dim", "out"], numeric: false, broad: 1, words: Float64Array.from(words) };
}

interface Drawn {
  readonly mean: number;
  readonly noise: number;
  readonly slopes: readonly number[];
  readonly value: number;
}
const drawn: fc.Arbitrary<Drawn> = fc.record({
  mean: fc.double({ min: -1, max: 5, noNaN: true }),
  noise: fc.double({ min: 1e-4, max: 0.05, noNaN: true }),
  slopes: fc.array(fc.double({ min: -0.5, max: 0.5, noNaN: true }), { minLength: D, maxLength: D }),
  value: fc.double({ min: -1, max: 5, noNaN: true }),
});

/** Log density of a few numbers that are jointly normal, the covariance written out and factored without tricks. */
function logJointDensity(rows: readonly Drawn[]): number {
  const n = rows.length;
  if (n === 0) return 0;
  const cover = rows.map((a, i) => rows.map((b, j) => a.slopes.reduce((sum, slope, k) => sum + slope * (b.slopes[k] as number), i === j ? a.noise : 0)));
  const right = rows.map(({ value, mean }) => value - mean);
  let logDeterminant = 0;
  const work = cover.map((row, index) => [...row, right[index] as number]);
  for (let column = 0; column < n; column += 1) {
    const pivot = work[column] as number[];
    logDeterminant += Math.log(pivot[column] as number);
    for (let row = column + 1; row < n; row += 1) {
      const target = work[row] as number[];
      const factor = (target[column] as number) / (pivot[column] as number);
      for (let k = column; k <= n; k += 1) target[k] = (target[k] as number) - factor * (pivot[k] as number);
    }
  }
  const solved = new Array<number>(n).fill(0);
  for (let row = n - 1; row >= 0; row -= 1) {
    const cells = work[row] as number[];
    let sum = cells[n] as number;
    for (let k = row + 1; k < n; k += 1) sum -= (cells[k] as number) * (solved[k] as number);
    solved[row] = sum / (cells[row] as number);
  }
  const miss = right.reduce((sum, value, index) => sum + value * (solved[index] as number), 0);
  return -0.5 * (n * Math.log(2 * Math.PI) + logDeterminant + miss);
}

/** Sum over every pattern of at most so many slips, spelled out; in logarithms, since far misses leave the range of numbers. */
function spelledOut(rows: readonly Drawn[], most: number): { logTotal: number; slipped: number[] } {
  const n = rows.length;
  const patterns: { out: boolean[]; log: number }[] = [];
  for (let pattern = 0; pattern < 2 ** n; pattern += 1) {
    const out = rows.map((_, index) => (pattern >> index) % 2 === 1);
    const slips = out.filter(Boolean).length;
    if (slips > most) continue;
    const log = slips * Math.log(SLIP * ANY_NUMBER * BROAD) + (n - slips) * Math.log(1 - SLIP) + logJointDensity(rows.filter((_, index) => !out[index]));
    patterns.push({ out, log });
  }
  const top = Math.max(...patterns.map(({ log }) => log));
  const total = patterns.reduce((sum, { log }) => sum + Math.exp(log - top), 0);
  const slipped = rows.map((_, index) => patterns.reduce((sum, { out, log }) => sum + (out[index] ? Math.exp(log - top) : 0), 0) / total);
  return { logTotal: top + Math.log(total), slipped };
}

const observe = (rows: readonly Drawn[]): Observation[] =>
  rows.map(({ mean, noise, slopes, value }, index) => ({ id: `r${index}`, key: "volts", table: numericTable(mean, noise, slopes), number: value, word: -1 }));

describe("weighing readings", () => {
  it("equals the sum over all patterns of slips, spelled out", () => {
    fc.assert(
      fc.property(fc.array(drawn, { minLength: 1, maxLength: 5 }), (rows) => {
        const evidence = weigh(observe(rows), 1, D);
        const [reference, whole] = [spelledOut(rows, 2), spelledOut(rows, 5)];
        const room = 1e-6 * Math.max(1, Math.abs(reference.logTotal));
        // More than two slips are summed over where they explain much: never less than two, never more than there are.
        expect(evidence.logLikelihood[0] as number).toBeGreaterThan(reference.logTotal - room);
        expect(evidence.logLikelihood[0] as number).toBeLessThan(whole.logTotal + room);
        if (whole.logTotal - reference.logTotal > 1e-9) return;
        reference.slipped.forEach((share, index) => {
          expect(Math.abs((evidence.slipped[index] as number) - share)).toBeLessThan(1e-6);
        });
      }),
      { numRuns: 200 },
    );
  });

  it("finds three and four gross slips among readings that agree, however they bend what they share", () => {
    const row = (value: number, slope: number): Drawn => ({ mean: 5, noise: 1e-3, slopes: [0.3, slope, 0], value });
    const sound = [5.02, 5.01, 4.99, 5, 5.03, 4.98].map((value, index) => row(value, 0.05 * index));
    for (const gross of [
      [-5, 0, 12],
      [-5, 0, 12, 0.5],
    ]) {
      const rows = [...sound, ...gross.map((value) => row(value, 0.1))];
      const { slipped, logLikelihood } = weigh(observe(rows), 1, D);
      rows.forEach((_, index) => {
        if (index < sound.length) expect(slipped[index]).toBeLessThan(0.05);
        else expect(slipped[index]).toBeGreaterThan(0.99);
      });
      const clean = weigh(observe(sound), 1, D).logLikelihood[0] as number;
      expect(logLikelihood[0] as number).toBeGreaterThan(clean - 10 * gross.length);
    }
  });

  it("takes one reading alone as a mixture of fitting and slipped", () => {
    fc.assert(
      fc.property(drawn, (row) => {
        const { single } = weigh(observe([row]), 1, D);
        const alone = Math.exp(logJointDensity([row])) + (SLIP / (1 - SLIP)) * ANY_NUMBER * BROAD;
        expect(single[0]).toBeCloseTo(Math.log(alone), 6);
      }),
    );
  });

  it("lets two readings that share a tolerance miss together, not apart", () => {
    const row = (value: number): Drawn => ({ mean: 5, noise: 1e-4, slopes: [0.1, 0, 0], value });
    const together = weigh(observe([row(5.2), row(5.2)]), 1, D).logLikelihood[0] as number;
    const apart = weigh(observe([row(5.2), row(4.8)]), 1, D).logLikelihood[0] as number;
    expect(together).toBeGreaterThan(apart + 3);
  });

  it("weighs words by their probability, slips allowed for", () => {
    const word = (probabilities: readonly number[], index: number): number => {
      const { logLikelihood } = weigh([{ id: "r1", key: "lamp", table: lampTable(probabilities), number: null, word: index }], 1, D);
      return Math.exp(logLikelihood[0] as number);
    };
    expect(word([1, 0, 0], 0)).toBeCloseTo(0.97 + 0.03 / 8, 6);
    expect(word([1, 0, 0], 2)).toBeCloseTo(0.03 / 8, 6);
    expect(word([0.5, 0.5, 0], 1)).toBeCloseTo(0.97 * 0.5 + 0.03 / 8, 6);
  });

  it("explains a quiet reading of an intermittent fault by its healthy twin", () => {
    const healthyMean = 1;
    const table: PredictionTable = {
      ...numericTable(0, 1e-3, []),
      mean: Float64Array.of(healthyMean, 5),
      noise: Float64Array.of(1e-3, 1e-3),
      jacobian: new Float64Array(2 * D),
      quiet: Int32Array.of(-1, 0),
      slot: Int32Array.of(0, 1),
      rows: 2,
    };
    const known = { ...steadyCircumstances(2), sometimes: Uint8Array.of(0, 1) };
    const { logLikelihood, slipped } = weigh([{ id: "r1", key: "volts", table, number: healthyMean, word: -1 }], 2, D, known);
    const ratio = Math.exp((logLikelihood[1] as number) - (logLikelihood[0] as number));
    expect(ratio).toBeCloseTo(0.2, 2);
    expect(slipped[1]).toBeLessThan(0.02);
  });

  it("says nothing when nothing was read", () => {
    expect(weigh([], 3, D).logLikelihood).toEqual(new Float64Array(3));
  });
});
