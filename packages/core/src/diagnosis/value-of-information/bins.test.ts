import fc from "fast-check";
import { buildModel } from "../../circuit";
import { type ElectricalProbe, probeOf } from "../../instruments";
import { emptyTable } from "../predictions/table";
import { binAxisOf } from "./bins";

const model = buildModel([{ id: "x", family: "thermistor-2w" }]);
const circuit = model.circuits[0];
const probe = (meter: ElectricalProbe["meter"], more: Partial<ElectricalProbe> = {}): ElectricalProbe => {
  const leads = meter === "amps-dc" ? { red: "sig@sensor" } : meter === "scan" ? { red: "sig@module" } : { red: "sig@sensor", black: "bat-" };
  return { ...(probeOf(model, { meter, ...leads }, "m") as ElectricalProbe), ...more };
};
const axisOf = (one: ElectricalProbe) => binAxisOf(emptyTable(one, 10));

const METERS = ["volts-dc", "volts-ac", "ohms", "amps-dc", "hertz", "duty", "scan"] as const;

describe.each(METERS)("the bins of %s", (meter) => {
  const axis = axisOf(probe(meter));
  it("rise, without gaps", () => {
    for (let bin = 1; bin <= axis.bins; bin += 1) expect(axis.edges[bin]).toBeGreaterThan(axis.edges[bin - 1]);
    expect(axis.edges).toHaveLength(axis.bins + 1);
  });
  it("hold what lies between their edges; what lies beyond goes to the ends", () => {
    const [low, high] = [axis.edges[0], axis.edges[axis.bins]];
    fc.assert(
      fc.property(fc.double({ min: low, max: high, noNaN: true }), (value) => {
        const bin = axis.binOf(value);
        const slack = 1e-9 * Math.max(1, Math.abs(value));
        expect(value).toBeGreaterThanOrEqual(axis.edges[bin] - slack);
        expect(value).toBeLessThanOrEqual(axis.edges[bin + 1] + slack);
      }),
    );
    expect([axis.binOf(low - 1), axis.binOf(high + 1)]).toEqual([0, axis.bins - 1]);
  });
});

describe("what is not a number", () => {
  it("has no bins", () => {
    expect(axisOf(probe("lamp")).bins).toBe(0);
    expect(axisOf(probe("continuity")).bins).toBe(0);
  });
});

describe("a small range", () => {
  it("is cut as finely for its full scale as a usual one for five volts", () => {
    const usual = axisOf(probe("volts-dc"));
    const small = axisOf(probe("volts-dc", { fullScale: 0.05 }));
    const stepAt = (axis: typeof usual, value: number): number => {
      const bin = axis.binOf(value);
      return axis.edges[bin + 1] - axis.edges[bin];
    };
    expect(stepAt(small, 0.01) / 0.05).toBeCloseTo(stepAt(usual, 1) / 5, 2);
    expect(small.binOf(5)).toBeLessThan(small.bins);
    expect(circuit.id).toBe("x");
  });
});
