import fc from "fast-check";
import { seededRandom } from "../numeric";
import { aboveRest, burstsOf } from "./bursts";
import { departuresFromCourse, departuresFromLevel } from "./departures";
import { edgesOf, runsOf, withoutRuns } from "./edges";
import { histogramOf, levelsOf, quantile } from "./histogram";
import { humpsOf } from "./humps";
import { acOf, meanOf, meterView } from "./meter-view";
import { noiseOf } from "./noise";
import { rowOf } from "./rows";
import { peakFrequency, spectrumOf } from "./spectrum";
import { joined, levelBetween } from "./trouble";

// Each piece beside a slow and obvious way to the same number.

const seeds = fc.integer({ min: 1, max: 1e6 });
const white = (seed: number, length: number, sigma = 1): Float64Array => {
  const random = seededRandom(seed);
  return Float64Array.from({ length }, () => sigma * random.normal());
};
const sorted = (values: ArrayLike<number>): number[] => Array.from(values).sort((a, b) => a - b);

describe("levels", () => {
  it("have the lowest, the highest and the mean of the samples, and their quantiles to a bin", () => {
    fc.assert(
      fc.property(seeds, fc.integer({ min: 20, max: 3000 }), fc.double({ min: 0.02, max: 0.98, noNaN: true }), (seed, length, share) => {
        const samples = white(seed, length);
        const histogram = histogramOf(samples);
        const order = sorted(samples);
        expect(histogram.min).toBe(order[0]);
        expect(histogram.max).toBe(order.at(-1));
        expect(histogram.mean).toBeCloseTo(samples.reduce((sum, value) => sum + value, 0) / length, 9);
        const [before, after] = [order[Math.max(0, Math.floor(share * length) - 2)], order[Math.min(length - 1, Math.ceil(share * length) + 1)]] as [
          number,
          number,
        ];
        const bin = (histogram.max - histogram.min) / 1024;
        expect(quantile(histogram, share)).toBeGreaterThanOrEqual(before - bin);
        expect(quantile(histogram, share)).toBeLessThanOrEqual(after + bin);
      }),
      { numRuns: 100 },
    );
  });
  it("are where the samples mostly are, whatever overshoots", () => {
    fc.assert(
      fc.property(seeds, fc.double({ min: 0.05, max: 0.95, noNaN: true }), (seed, share) => {
        const noise = white(seed, 5000, 0.03);
        const samples = noise.map((value, at) => value + ((at % 100) / 100 < share ? 5 : 0.2) + (at % 100 === 0 ? 3 : 0));
        const { low, high } = levelsOf(histogramOf(samples), 0.03);
        expect(Math.abs(low - 0.2)).toBeLessThan(0.05);
        expect(Math.abs(high - 5)).toBeLessThan(0.05);
      }),
      { numRuns: 60 },
    );
  });
  it("of a constant are that constant", () => {
    expect(levelsOf(histogramOf(new Float32Array(50).fill(2)), 0)).toEqual({ low: 2, high: 2, between: 0, spread: 0 });
  });
});

describe("noise", () => {
  it("is the standard deviation of white noise, under a slope and under steps", () => {
    for (const [seed, sigma, step] of [
      [1, 0.05, 0],
      [2, 0.02, 0.04],
      [3, 0.1, 0.078],
    ] as const) {
      const samples = white(seed, 20_000, sigma).map((value, at) => {
        const sum = value + at * 1e-4;
        return step === 0 ? sum : Math.round(sum / step) * step;
      });
      const expected = Math.hypot(sigma, step / Math.sqrt(12));
      expect(noiseOf(samples, 2, 5).sigma / expected).toBeGreaterThan(0.75);
      expect(noiseOf(samples, 2, 5).sigma / expected).toBeLessThan(1.3);
      if (step > 0) expect(noiseOf(samples, 2, 5).step).toBeCloseTo(step, 6);
    }
    expect(noiseOf(new Float64Array(1), 1, 1)).toEqual({ sigma: 0, step: 0 });
  });
});

describe("edges", () => {
  /** The obvious way: a state that changes when a threshold is passed. */
  const slow = (samples: Float64Array, lower: number, upper: number): number => {
    const first = samples.findIndex((value) => value <= lower || value >= upper);
    let [high, count] = [(samples[first] ?? 0) >= upper, 0];
    for (const value of samples.subarray(Math.max(0, first))) {
      if (high ? value <= lower : value >= upper) {
        high = !high;
        count += 1;
      }
    }
    return count;
  };
  it("are as many as thresholds are passed in turn, in order, each the other way", () => {
    fc.assert(
      fc.property(seeds, fc.integer({ min: 2, max: 2000 }), (seed, length) => {
        const samples = white(seed, length);
        const { at, rising, passed } = edgesOf(samples, -0.5, 0.5);
        expect(at.length).toBe(slow(samples, -0.5, 0.5));
        for (let edge = 1; edge < at.length; edge += 1) {
          expect(at[edge]).toBeGreaterThanOrEqual(at[edge - 1] as number);
          expect(rising[edge]).not.toBe(rising[edge - 1]);
          expect(passed[edge]).toBeGreaterThanOrEqual(at[edge] as number);
        }
      }),
      { numRuns: 100 },
    );
  });
  it("lie where the straight line between two samples crosses the middle", () => {
    const { at } = edgesOf(Float64Array.from([0, 0, 4, 4, 4, 1, 0]), 1, 3);
    expect(Array.from(at)).toEqual([1.5, expect.closeTo(4 + 2 / 3, 9)]);
  });
  it("bound runs; a run that is dropped takes both its edges along", () => {
    const edges = edgesOf(Float64Array.from([0, 5, 5, 5, 0, 5, 5, 0, 0]), 1, 4);
    expect(runsOf(edges).map(({ high }) => high)).toEqual([true, false, true]);
    expect(withoutRuns(edges, new Set([1])).at.length).toBe(2);
    expect(withoutRuns(edges, new Set())).toBe(edges);
  });
});

describe("a row of teeth", () => {
  it("has the spacing it was made with, is even, and shows what lasts too long", () => {
    const runs = Array.from({ length: 60 }, (_, index) => ({ from: 10 * index, to: 10 * index + 10, high: index % 2 === 0 }));
    const row = rowOf(runs);
    expect(row).toMatchObject({ even: true, toothSamples: 20, long: [], short: [] });
    const gap = runs.map((run, index) => ({ ...run, from: run.from + (index > 30 ? 40 : 0), to: run.to + (index >= 30 ? 40 : 0) }));
    expect(rowOf(gap).long).toMatchObject([{ index: 30, extra: 2 }]);
    const spike = [...runs.slice(0, 21), { from: 210, to: 210.4, high: false }, { from: 210.4, to: 220, high: true }, ...runs.slice(22)];
    expect(rowOf(spike).short).toEqual([21]);
  });
  it("of lengths by chance is none", () => {
    const random = seededRandom(5);
    let from = 0;
    const runs = Array.from({ length: 80 }, (_, index) => {
      const to = from + 1 + 60 * random.uniform() ** 3;
      const run = { from, to, high: index % 2 === 0 };
      from = to;
      return run;
    });
    expect(rowOf(runs).even).toBe(false);
  });
});

describe("departures", () => {
  it("from a level begin and end where the samples leave it and are back", () => {
    fc.assert(
      fc.property(seeds, fc.integer({ min: 100, max: 400 }), fc.integer({ min: 5, max: 200 }), (seed, from, length) => {
        const samples = white(seed, 1000, 0.01).map((value, at) => value + (at >= from && at < from + length ? 1 : 5));
        const [found, ...more] = departuresFromLevel(samples, 5, 0.5, 3);
        expect(more).toEqual([]);
        expect(found).toMatchObject({ from, to: from + length });
        expect(found?.value).toBeCloseTo(1, 1);
      }),
      { numRuns: 60 },
    );
    expect(departuresFromLevel(white(1, 500, 0.01), 0, 0.5, 3)).toEqual([]);
  });
  it("from a moving course are told from the course, and a step that stays is a new course", () => {
    const course = (at: number): number => 1 + 0.002 * at;
    const worn = Float64Array.from({ length: 1000 }, (_, at) => (at >= 400 && at < 440 ? 0 : course(at)));
    expect(departuresFromCourse(worn, { jump: 0.3, reach: 2, longest: 300 })).toMatchObject([{ from: 400, to: 440, value: 0 }]);
    const stepped = Float64Array.from({ length: 1000 }, (_, at) => (at < 300 ? 1 : 3));
    expect(departuresFromCourse(stepped, { jump: 0.3, reach: 2, longest: 300 })).toEqual([]);
    expect(
      departuresFromCourse(
        Float64Array.from({ length: 500 }, (_, at) => course(at)),
        { jump: 0.3, reach: 2, longest: 300 },
      ),
    ).toEqual([]);
  });
  it("that follow one another are one, named by the longer", () => {
    const one = { from: 0.1, to: 0.2, level: "low" as const, volts: 0 };
    const next = { from: 0.201, to: 0.4, level: "mid" as const, volts: 2 };
    expect(joined([next, one], 0.003)).toEqual([{ ...next, from: 0.1 }]);
    expect(joined([one, { ...next, from: 0.3 }], 0.003)).toHaveLength(2);
    expect([0.2, 2.5, 4.9].map((volts) => levelBetween(volts, 0, 5))).toEqual(["low", "mid", "high"]);
  });
});

describe("rings", () => {
  it("have the frequency of their strongest line, also between the lines", () => {
    fc.assert(
      fc.property(fc.double({ min: 2000, max: 18_000, noNaN: true }), fc.double({ min: 0.0008, max: 0.003, noNaN: true }), (hertz, decay) => {
        const rate = 100_000;
        const samples = Float64Array.from({ length: 600 }, (_, at) => Math.exp(-at / rate / decay) * Math.sin((2 * Math.PI * hertz * at) / rate));
        expect(Math.abs((peakFrequency(samples, rate) ?? 0) / hertz - 1)).toBeLessThan(0.02);
      }),
      { numRuns: 60 },
    );
    expect(peakFrequency(new Float64Array(3), 1000)).toBeNull();
  });
  it("have a spectrum that keeps their energy (Parseval)", () => {
    const samples = white(4, 512);
    const mean = samples.reduce((sum, value) => sum + value, 0) / samples.length;
    const { magnitudes } = spectrumOf(samples, 1000);
    const energy = samples.reduce((sum, value) => sum + (value - mean) ** 2, 0);
    const seen = magnitudes.reduce((sum, value) => sum + 2 * value * value, 0) / 4096;
    expect(seen / energy).toBeGreaterThan(0.98);
    expect(seen / energy).toBeLessThan(1.02);
  });
  it("are not made of noise, and stand around a moving mean", () => {
    expect(burstsOf(white(8, 20_000, 0.01), 50_000, { sigma: 0.01, step: 0 })).toEqual([]);
    const samples = white(9, 400);
    const swing = aboveRest(samples, 40);
    for (const at of [50, 200, 333]) {
      const around = samples.subarray(at - 20, at + 21);
      expect(swing[at]).toBeCloseTo((samples[at] as number) - around.reduce((sum, value) => sum + value, 0) / around.length, 9);
    }
  });
});

describe("humps", () => {
  it("are as many as were put in, at their tops", () => {
    const tops = [0.5, 1.2, 2.1];
    const samples = Float64Array.from({ length: 15_000 }, (_, at) => 1 + tops.reduce((sum, top) => sum + 2 * Math.exp(-(((at / 5000 - top) / 0.1) ** 2)), 0));
    const found = humpsOf(samples, 5000, 0.001);
    expect(found.map(({ at }) => Number((at / 5000).toFixed(2)))).toEqual(tops);
    expect(humpsOf(white(2, 5000, 0.01), 5000, 0.01)).toEqual([]);
  });
});

describe("a meter", () => {
  const square = (share: number): Float64Array => Float64Array.from({ length: 100_000 }, (_, at) => ((at % 1000) / 1000 < share ? 5 : 0));
  it("averages, and its AC range shows the root of the squares or 1.11 times the rectified mean", () => {
    const whole = { from: 0, to: 100_000 };
    expect(meanOf(square(0.1), whole)).toBeCloseTo(0.5, 6);
    // Slow against the range's corner: the forms by the book.
    const { trueRms, averageResponding } = acOf(square(0.5), 100_000, whole, 2.5);
    expect(trueRms).toBeCloseTo(2.5, 1);
    expect(averageResponding).toBeCloseTo(2.5 * 1.11, 1);
    const sine = Float64Array.from({ length: 100_000 }, (_, at) => 3 * Math.sin((2 * Math.PI * 50 * at) / 100_000));
    expect(acOf(sine, 100_000, whole, 0).trueRms).toBeCloseTo(3 / Math.SQRT2, 2);
    expect(acOf(sine, 100_000, whole, 0).averageResponding).toBeCloseTo(3 / Math.SQRT2, 2);
  });
  it("counts pulses and their share, and shows nothing where it does not trigger", () => {
    const view = meterView(square(0.3), 100_000, { from: 0, to: 100_000 });
    expect(view.hertz).toBeCloseTo(99, -1);
    expect(view.duty).toBeCloseTo(30, 0);
    const still = meterView(new Float32Array(1000).fill(1.2), 1000, { from: 0, to: 1000 });
    expect(still).toMatchObject({ hertz: null, duty: null });
    expect(still.dc).toBeCloseTo(1.2, 6);
  });
  it("misses in its min/max record what is shorter than a tenth of a second", () => {
    const samples = new Float64Array(10_000).fill(2);
    samples.fill(9, 5000, 5020);
    const { max, min } = meterView(samples, 10_000, { from: 0, to: 10_000 });
    expect(max).toBeLessThan(2.3);
    expect(min).toBe(2);
  });
});
