import type { Circuit, Measurement } from "@fox-lamp/language";
import { buildModel } from "../../circuit";
import { expectHealthy } from "../../procedures";

const found = (circuit: Circuit, red: string, black: string, open: readonly string[]) => {
  const measurement: Measurement = { circuit: circuit.id, meter: "ohms", red, black, setup: { key: "off", open: [...open] } };
  return expectHealthy(buildModel([circuit]), measurement, "m");
};
const window = (...of: Parameters<typeof found>) => {
  const expected = found(...of);
  return [expected?.low ?? Number.NaN, expected?.high ?? Number.POSITIVE_INFINITY] as const;
};
const MAP: Circuit = { id: "map", family: "pressure-3w" };
const PURGE: Circuit = { id: "pur", family: "solenoid-2w", with: { coil: [22, 30] } };
const ECT: Circuit = {
  id: "ect",
  family: "thermistor-2w",
  with: {
    curve: [
      [0, 5900],
      [20, 2450],
      [80, 320],
    ],
  },
};
const holds = ([low, high]: readonly [number, number], ...ohms: readonly number[]): boolean => ohms.every((value) => value >= low && value <= high);

describe("what an ohmmeter finds of electronics without their supply", () => {
  it("is anything from some hundred ohms to OL between a pressure sensor's pins", () => {
    expect(holds(window(MAP, "ref@part", "gnd@part", ["sensor"]), 4100, 150_000)).toBe(true);
    expect(holds(window(MAP, "sig@part", "gnd@part", ["sensor"]), 205_000, Number.POSITIVE_INFINITY)).toBe(true);
  });
  it("is kilo-ohms either way at the module's half of a plug", () => {
    expect(holds(window(MAP, "ref@sensor", "gnd@sensor", ["sensor"]), 1500, 6800, 60_000)).toBe(true);
    expect(holds(window(ECT, "sig@sensor", "gnd@sensor", ["sensor"]), 4100)).toBe(true);
  });
  it("takes nothing from what is no electronics: a wire end to end, a wire to ground, a winding by itself", () => {
    const [, wire] = window(MAP, "sig@sensor", "sig@module", ["sensor", "module"]);
    expect(wire).toBeLessThan(2);
    expect(found(MAP, "sig@sensor", "bat-", ["sensor", "module"])).toEqual({ low: null, high: null, unit: "ohm", word: "OL" });
    const [low, high] = window(PURGE, "feed@part", "ctl@part", ["sensor"]);
    expect(high / low).toBeLessThan(2);
  });
});
