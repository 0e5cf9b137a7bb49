import fc from "fast-check";
import { seededRandom } from "../numeric";
import { decodeBlock, encodeBlock } from "./blocks";
import { lowestLevel, PYRAMID_BASE, pyramidOver, rangeOver } from "./pyramid";

const made = (seed: number, length: number): Float32Array => {
  const random = seededRandom(seed);
  return Float32Array.from({ length }, () => random.normal());
};

describe("a pyramid", () => {
  it("has the lowest and the highest of any stretch, no spike lost", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.integer({ min: 1, max: 9000 }), fc.nat(9000), fc.nat(9000), (seed, length, one, other) => {
        const samples = made(seed, length);
        const pyramid = pyramidOver(lowestLevel(samples));
        const [from, to] = [Math.min(one, other) % length, Math.min(length, Math.max(one, other) + 1)];
        if (from >= to) return;
        const stretch = samples.subarray(from, to);
        expect(rangeOver(pyramid, samples, { from, to }, length)).toEqual({ low: Math.min(...stretch), high: Math.max(...stretch) });
      }),
      { numRuns: 400 },
    );
  });
  it("without samples shows at least what is there", () => {
    const samples = made(3, 1000);
    const seen = rangeOver(pyramidOver(lowestLevel(samples)), null, { from: 100, to: 400 }, 1000);
    expect(seen?.low).toBeLessThanOrEqual(Math.min(...samples.subarray(100, 400)));
    expect(seen?.high).toBeGreaterThanOrEqual(Math.max(...samples.subarray(100, 400)));
    expect(rangeOver(pyramidOver(lowestLevel(samples)), samples, { from: 5, to: 5 }, 1000)).toBeNull();
    expect(PYRAMID_BASE).toBeGreaterThan(1);
  });
});

describe("a stored block", () => {
  it("gives back every sample to the last bit", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.integer({ min: 1, max: 2000 }), fc.constantFrom(0, 8, 12, 16), (seed, length, bits) => {
        const step = bits === 0 ? 0 : 20 / 2 ** bits;
        const samples = made(seed, length).map((value) => (step === 0 ? value : Math.round(value / step) * step));
        expect(Array.from(decodeBlock(encodeBlock(samples)), (value) => value + 0)).toEqual(Array.from(samples, (value) => value + 0));
      }),
      { numRuns: 200 },
    );
  });
  it("takes half the room where an instrument's steps are all there is", () => {
    const steps = made(1, 4096).map((value) => Math.round(value * 50) / 64);
    expect(encodeBlock(steps).length).toBeLessThan(2.1 * 4096);
    expect(() => decodeBlock(new Uint8Array([9, 9, 9]))).toThrow(RangeError);
  });
});
