import type { Circuit, Measurement } from "@fox-lamp/language";
import { buildModel } from "../../circuit";
import { expectHealthy } from "../../procedures";

const swing = (circuit: Circuit, measurement: Partial<Measurement>): readonly [number, number] => {
  const expect = expectHealthy(
    buildModel([circuit]),
    { circuit: circuit.id, meter: "volts-dc", red: "bat+", black: "bat-", record: "min-max", setup: { key: "crank" }, ...measurement },
    "m",
  );
  return [expect?.low ?? Number.NaN, expect?.high ?? Number.NaN];
};
const holds = ([low, high]: readonly [number, number], volts: number): boolean => low <= volts && volts <= high;
const BATTERY: Circuit = { id: "bat", family: "battery-crank" };
const CRANK: Circuit = { id: "crk", family: "hall-3w", with: { feedV: 12, pullupV: 5, teeth: 60, missing: 2 } };

describe("a recording while the engine is cranked", () => {
  it("begins and ends without the starter: from 12.6 to 9.4 V of a battery is sound", () => {
    expect(holds(swing(BATTERY, {}), 3.2)).toBe(true);
    expect(holds(swing(BATTERY, {}), 1.6)).toBe(true);
  });
  it("shows a ground that rises with the block by less than a fifth of a volt", () => {
    expect(holds(swing(CRANK, { red: "gnd@sensor" }), 0.17)).toBe(true);
    expect(holds(swing(CRANK, { red: "gnd@sensor" }), 1.2)).toBe(false);
  });
  it("shows both levels of a signal or hardly any change: who knows whether the meter holds peaks", () => {
    for (const volts of [4.9, 2, 0.4]) expect(holds(swing(CRANK, { red: "sig@sensor" }), volts)).toBe(true);
  });
});

describe("what a counter shows of a line that stands still", () => {
  it("is nought", () => {
    const expected = expectHealthy(
      buildModel([{ id: "tps", family: "potentiometer-3w" }]),
      { circuit: "tps", meter: "hertz", red: "sig@sensor", black: "bat-" },
      "m",
    );
    expect(expected).toEqual({ low: 0, high: 0, unit: "Hz", word: "none" });
  });
});

describe("a duty nobody states", () => {
  const duty = (circuit: Circuit): readonly [number, number] => {
    const expected = expectHealthy(buildModel([circuit]), { circuit: "vvt", meter: "duty", red: "ctl@sensor", black: "bat-", setup: { key: "idle" } }, "m");
    return [expected?.low ?? Number.NaN, expected?.high ?? Number.NaN];
  };
  it("may be a third or two thirds; one that is stated is what it says", () => {
    const silent = duty({ id: "vvt", family: "solenoid-2w" });
    expect(holds(silent, 33) && holds(silent, 67)).toBe(true);
    const stated = duty({ id: "vvt", family: "solenoid-2w", with: { duty: 60 } });
    expect(holds(stated, 60)).toBe(true);
    expect(holds(stated, 33)).toBe(false);
  });
});
