/** @jest-environment jsdom */
import { scaleOf } from "./Gauge";

const volts = (low: number, high: number) => ({ low, high, unit: "V" });

describe("the scale under the window", () => {
  it("begins at nothing, or below it where the window does, and ends at a round number", () => {
    expect(scaleOf(volts(4.62, 4.93))).toEqual({ low: -0, high: 6, decades: false });
    expect(scaleOf(volts(-0.34, 3.58))).toEqual({ low: -0.5, high: 6, decades: false });
    expect(scaleOf(volts(-0.04, 0.12))).toEqual({ low: -0.05, high: 0.5, decades: false });
    expect(scaleOf({ low: 3.4, high: 25.8, unit: "g/s" })).toEqual({ low: -0, high: 50, decades: false });
    expect(scaleOf({ low: -12, high: 80, unit: "degC" })).toEqual({ low: -20, high: 100, decades: false });
  });

  it("goes by decades for ohms", () => {
    expect(scaleOf({ low: 700, high: 1100, unit: "ohm" })).toEqual({ low: 0.1, high: 100_000, decades: true });
  });
});
