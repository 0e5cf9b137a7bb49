import { smoothed } from "./smooth";

describe("a moving mean", () => {
  const samples = Float64Array.from({ length: 200 }, (_, at) => Math.sin(at / 3) + (at === 90 ? 5 : 0));
  it.each([1, 2, 5, 9, 51])("over %i samples is the mean of what is around each", (window) => {
    const out = smoothed(samples, window);
    const half = Math.floor(window / 2);
    for (let at = 0; at < samples.length; at += 1) {
      const around = samples.slice(Math.max(0, at - half), at + half + 1);
      expect(out[at]).toBeCloseTo(around.reduce((sum, value) => sum + value, 0) / around.length, 5);
    }
  });
  it("leaves a level as it is and takes a spike down", () => {
    expect([...smoothed(new Float64Array(20).fill(4.5), 7)].every((value) => Math.abs(value - 4.5) < 1e-6)).toBe(true);
    expect(Math.max(...smoothed(samples, 11))).toBeLessThan(1.5);
  });
  it("of nothing is nothing", () => {
    expect(smoothed(new Float64Array(0), 5)).toHaveLength(0);
  });
});
