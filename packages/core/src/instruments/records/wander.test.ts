import type { Circuit, Measurement } from "@fox-lamp/language";
import { buildModel } from "../../circuit";
import { expectHealthy } from "../../procedures";

const recorded = (circuit: Circuit, measurement: Pick<Measurement, "red" | "black" | "setup">): number => {
  const window = expectHealthy(buildModel([circuit]), { circuit: circuit.id, meter: "volts-dc", record: "min-max", ...measurement }, "m");
  return window?.high ?? Number.NaN;
};
const CAM: Circuit = { id: "cam", family: "hall-3w", with: { feedV: 12 } };
const MAP: Circuit = { id: "map", family: "pressure-3w" };

describe("how far a sound line goes up and down within a recording", () => {
  it("is some tens of millivolts of a regulated reference, at rest and running", () => {
    for (const key of ["on", "idle"] as const) expect(recorded(MAP, { red: "ref@sensor", black: "bat-", setup: { key } })).toBeLessThan(0.08);
  });
  it("is more of a feed, which wanders with the battery, and most while it charges", () => {
    const feed = (key: "on" | "idle") => recorded(CAM, { red: "feed@sensor", black: "bat-", setup: { key } });
    expect(feed("on")).toBeGreaterThan(0.1);
    // A fan of ten amperes that comes on drops 0.4 V over 40 milliohm of supply line.
    expect(feed("on")).toBeLessThan(0.45);
    expect(feed("idle")).toBeGreaterThan(feed("on"));
    // Lamps and fan on and off: 13.5 to 14.4 V.
    expect(feed("idle")).toBeGreaterThan(0.9);
    expect(feed("idle")).toBeLessThan(1.3);
  });
  it("is what the manifold pulses by at idle, and nothing with the engine off", () => {
    const signal = (key: "on" | "idle") => recorded(MAP, { red: "sig@sensor", black: "bat-", setup: { key } });
    expect(signal("idle")).toBeGreaterThan(2 * signal("on"));
    expect(signal("idle")).toBeLessThan(1);
  });
});
