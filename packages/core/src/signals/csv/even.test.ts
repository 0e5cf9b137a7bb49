import { BadInput } from "@fox-lamp/language";
import fc from "fast-check";
import { evenly } from "./even";

const values = (length: number): Float32Array => Float32Array.from({ length }, (_, at) => at);

describe("times of samples", () => {
  it("that are even, or only rounded, leave the samples as they are", () => {
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 500 }), fc.integer({ min: 1, max: 100_000 }), fc.integer({ min: 6, max: 9 }), (length, rate, decimals) => {
        const seconds = Float64Array.from({ length }, (_, at) => Number((at / rate).toFixed(decimals)));
        if (!((seconds.at(-1) as number) > 0)) return;
        const samples = values(length);
        const even = evenly(seconds, [samples], null, 2);
        expect(even.channels[0]).toBe(samples);
        expect(even.notes).toEqual([]);
        expect(even.rate / rate).toBeCloseTo(1, 0);
      }),
      { numRuns: 200 },
    );
  });
  it("are made of the rate where the file has none", () => {
    expect(evenly(null, [values(4)], 2000, 2)).toMatchObject({ start: 0, rate: 2000, notes: [] });
  });
  it("keep their first moment, also before the trigger", () => {
    expect(evenly(Float64Array.from([-0.002, -0.001, 0]), [values(3)], null, 2)).toMatchObject({ start: -0.002, rate: expect.closeTo(1000, 6) });
  });
  it("with a hole are filled with the sample before it, and that is said", () => {
    const seconds = Float64Array.from([0, 1, 2, 3, 4, 5, 11, 12, 13, 14].map((at) => at / 100));
    const { channels, notes } = evenly(seconds, [values(10)], null, 2);
    expect(Array.from(channels[0] ?? [])).toEqual([0, 1, 2, 3, 4, 5, 5, 5, 5, 5, 5, 6, 7, 8, 9]);
    expect(notes).toHaveLength(1);
  });
  it.each([
    [[0, 2, 1], "line 4, column time: time runs back from 2 s to 1 s; expected rising times"],
    [[3, 3, 3], "column time: time stands still; expected rising times"],
    [[0, 1e-6, 2e-6, 1000], "column time: most of the samples between first and last time are missing; expected even times"],
  ])("like %j are refused", (seconds, sentence) => {
    const refused = (): unknown => evenly(Float64Array.from(seconds), [values(seconds.length)], null, 2);
    expect(refused).toThrow(BadInput);
    expect(refused).toThrow(sentence);
  });
});
