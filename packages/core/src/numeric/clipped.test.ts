import fc from "fast-check";
import { clippedNormal, seededRandom } from "./index";

/** The same by drawing: 40,000 values, each held between the ends. */
function drawn(mean: number, sigma: number, bottom: number, top: number): { mean: number; variance: number } {
  const random = seededRandom(5);
  const shown = Array.from({ length: 40_000 }, () => Math.min(top, Math.max(bottom, mean + sigma * random.normal())));
  const middle = shown.reduce((sum, value) => sum + value, 0) / shown.length;
  return { mean: middle, variance: shown.reduce((sum, value) => sum + (value - middle) ** 2, 0) / shown.length };
}

describe("a normal variable held between two ends", () => {
  it.each([
    [-0.02, 0.05],
    [0, 0.05],
    [0.03, 0.05],
    [4.98, 0.1],
    [2.5, 2],
    [2.5, 0.3],
  ])("has the moments of values drawn: mean %d, sigma %d", (mean, sigma) => {
    const [found, wanted] = [clippedNormal(mean, sigma, 0, 5), drawn(mean, sigma, 0, 5)];
    expect(Math.abs(found.mean - wanted.mean)).toBeLessThan(0.02 * sigma + 1e-6);
    expect(Math.abs(Math.sqrt(found.variance) - Math.sqrt(wanted.variance))).toBeLessThan(0.02 * sigma);
  });
  it("is itself far from both, and the end far beyond one", () => {
    expect(clippedNormal(2, 0.1, 0, 5)).toMatchObject({ mean: expect.closeTo(2, 6), variance: expect.closeTo(0.01, 6), inside: expect.closeTo(1, 6) });
    expect(clippedNormal(-1, 0.05, 0, 5)).toMatchObject({ mean: expect.closeTo(0, 6), variance: expect.closeTo(0, 6), inside: expect.closeTo(0, 6) });
    expect(clippedNormal(9, 0.05, 0, 5)).toMatchObject({ mean: expect.closeTo(5, 6), inside: expect.closeTo(0, 6) });
  });
  it("never leaves the ends, never spreads wider than free, and rises with its mean", () => {
    const finite = (min: number, max: number) => fc.double({ min, max, noNaN: true });
    fc.assert(
      fc.property(finite(-3, 8), finite(0.01, 2), finite(0.01, 1), (mean, sigma, step) => {
        const [one, further] = [clippedNormal(mean, sigma, 0, 5), clippedNormal(mean + step, sigma, 0, 5)];
        expect(one.mean).toBeGreaterThanOrEqual(0);
        expect(one.mean).toBeLessThanOrEqual(5);
        expect(one.variance).toBeLessThanOrEqual(sigma * sigma * (1 + 1e-4));
        expect(further.mean).toBeGreaterThanOrEqual(one.mean - 1e-4 * sigma);
      }),
    );
  });
});
