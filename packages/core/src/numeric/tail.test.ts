import fc from "fast-check";
import { normalTail, seededRandom } from "./index";

/** The same by drawing: of 200,000 values those beyond the bound. */
function drawn(mean: number, sigma: number, bound: number, above: boolean) {
  const random = seededRandom(5);
  const all = Array.from({ length: 200_000 }, () => mean + sigma * random.normal());
  const kept = all.filter((value) => value > bound === above);
  const middle = kept.reduce((sum, value) => sum + value, 0) / kept.length;
  return { share: kept.length / all.length, mean: middle, variance: kept.reduce((sum, value) => sum + (value - middle) ** 2, 0) / kept.length };
}

describe("a normal variable known to lie beyond a bound", () => {
  it.each([
    [3.7, 3.9, 5, true],
    [5.2, 0.3, 5, true],
    [4.6, 0.3, 5, true],
    [0.3, 0.2, 0, false],
    [-1, 2, 0, false],
  ])("has the share, mean and variance of values drawn: mean %d, sigma %d, bound %d", (mean, sigma, bound, above) => {
    const [found, wanted] = [normalTail(mean, sigma ** 2, bound, above), drawn(mean, sigma, bound, above)];
    expect(Math.exp(found.log)).toBeCloseTo(wanted.share, 2);
    expect(Math.abs(found.mean - wanted.mean)).toBeLessThan(0.02 * sigma);
    expect(Math.abs(Math.sqrt(found.variance) - Math.sqrt(wanted.variance))).toBeLessThan(0.02 * sigma);
  });
  it("is as likely as the tables say, far out too", () => {
    // Standard normal distribution at -3, -6, -10.
    for (const [z, log] of [
      [-3, -6.60773],
      [-6, -20.73677],
      [-10, -53.23129],
    ] as const)
      expect(normalTail(z, 1, 0, true).log).toBeCloseTo(log, 2);
  });
  it("is itself well inside, and hugs the bound far outside", () => {
    expect(normalTail(9, 0.01, 5, true)).toMatchObject({ log: expect.closeTo(0, 6), mean: expect.closeTo(9, 4), variance: expect.closeTo(0.01, 5) });
    const far = normalTail(0.2, 0.0016, 5, true);
    expect(far.mean).toBeGreaterThan(5);
    expect(far.mean).toBeLessThan(5.001);
  });
  it("lies beyond the bound, never spreads wider than free, and gets likelier as its mean moves over", () => {
    const finite = (min: number, max: number) => fc.double({ min, max, noNaN: true });
    fc.assert(
      fc.property(finite(-3, 8), finite(0.01, 2), finite(0.01, 1), fc.boolean(), (mean, sigma, step, above) => {
        const [one, further] = [normalTail(mean, sigma ** 2, 5, above), normalTail(mean + (above ? step : -step), sigma ** 2, 5, above)];
        expect(above ? one.mean - 5 : 5 - one.mean).toBeGreaterThan(-0.01 * sigma);
        expect(one.variance).toBeLessThanOrEqual(sigma * sigma * (1 + 1e-4));
        expect(one.variance).toBeGreaterThan(0);
        expect(further.log).toBeGreaterThanOrEqual(one.log - 0.03);
      }),
    );
  });
});
