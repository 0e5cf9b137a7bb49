import { compareWithOptimal } from "./index";

describe("the advice against the optimal decision tree", () => {
  it.each(["thermistor-2w", "switch", "potentiometer-3w"])("costs at most a tenth more than the optimal tree on a small %s", (family) => {
    const { optimalMinutes, adviceMinutes, fixedMinutes, hypotheses } = compareWithOptimal({ id: "c", family }, 10);
    expect(hypotheses).toBe(10);
    expect(optimalMinutes).toBeGreaterThan(0.5);
    expect(adviceMinutes).toBeGreaterThanOrEqual(optimalMinutes - 1e-9);
    expect(adviceMinutes).toBeLessThanOrEqual(1.1 * optimalMinutes);
    expect(fixedMinutes).toBeGreaterThanOrEqual(optimalMinutes - 1e-9);
  });
});
