import { buildModel } from "../circuit";
import { type ElectricalProbe, probeOf } from "../instruments";
import { rounded } from "./car";

const model = buildModel([{ id: "x", family: "thermistor-2w" }]);
const probe = (meter: "volts-dc" | "ohms" | "scan", more: Partial<ElectricalProbe> = {}): ElectricalProbe => ({
  ...(probeOf(model, { meter, red: meter === "scan" ? "sig@module" : "sig@sensor", black: "bat-" }, "m") as ElectricalProbe),
  ...more,
});

describe("what a display shows", () => {
  it.each([
    [probe("volts-dc"), 4.98765, 4.99],
    [probe("volts-dc"), 0.012345, 0.0123],
    [probe("scan"), 0.033219, 0.03],
    [probe("ohms"), 2345.678, 2346],
    [probe("volts-dc", { fullScale: 0.05 }), 0.011275, 0.01128],
    [probe("scan", { fullScale: 0.05 }), 0.033219, 0.03322],
    [probe("scan", { fullScale: 0.05, unit: "degC" }), 834.716, 834.72],
    [probe("volts-dc", { fullScale: 20 }), 4.98765, 4.99],
  ])("is rounded to its counts", (one, value, shown) => {
    expect(rounded(one, value)).toBe(shown);
  });
  it("of a recording is rounded at each end; words stay", () => {
    expect(rounded(probe("volts-dc"), { min: 1.2345, max: 4.5678, avg: 2.7131 })).toEqual({ min: 1.23, max: 4.57, avg: 2.71 });
    expect(rounded(probe("ohms"), "OL")).toBe("OL");
  });
});
