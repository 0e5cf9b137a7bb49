import type { Circuit, Setup, Value } from "@fox-lamp/language";
import fc from "fast-check";
import { buildModel } from "../../circuit";
import { faultsOf, placeFault } from "../../faults";
import { expectHealthy } from "../../procedures";
import { simulateReading } from "../simulate";

const BY_HAND: Setup = { stimulus: { kind: "hand-turn" } };
const wheel = (given: Record<string, number>): Circuit => ({ id: "crk", family: "hall-3w", with: given });
const counted = (circuit: Circuit, fault: string | null = null, setup: Setup = BY_HAND): Value | null => {
  const model = buildModel([circuit]);
  const faults = fault === null ? [] : [placeFault(model, faultsOf(model), { id: fault }, "faults[0]")];
  return simulateReading(model, { circuit: "crk", meter: "count", red: "sig@sensor", black: "bat-", setup }, faults, "m");
};

describe("changes counted in one turn of the crank", () => {
  it("are two for every tooth that is there", () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 120 }), fc.integer({ min: 0, max: 1 }), (teeth, missing) =>
        expect(counted(wheel({ teeth, missing }))).toBe(2 * (teeth - missing)),
      ),
    );
  });
  it("are what the sheet says of one turn", () => {
    expect(counted(wheel({ perRev: 4 }))).toBe(4);
    expect(counted(wheel({ perRev: 4 }), null, { key: "crank" })).toBe(4);
  });
  it("are none of a dead sensor, of one without feed, and of a standing engine", () => {
    expect(counted(wheel({ perRev: 4 }), "crk/sensor/dead")).toBe(0);
    expect(counted(wheel({ perRev: 4 }), "crk/contact:feed@sensor/open")).toBe(0);
    expect(counted(wheel({ perRev: 4 }), null, {})).toBe(0);
  });
  it("have a window as wide as people miscount, and a wide one where nobody knows the wheel", () => {
    const window = (circuit: Circuit) =>
      expectHealthy(buildModel([circuit]), { circuit: "crk", meter: "count", red: "sig@sensor", black: "bat-", setup: BY_HAND }, "m");
    const [known, unknown] = [window(wheel({ teeth: 36, missing: 1 })), window(wheel({}))];
    expect(known).toMatchObject({ unit: "" });
    expect(known?.low).toBeGreaterThan(60);
    expect(known?.high).toBeLessThan(80);
    expect((unknown?.high ?? 0) / (unknown?.low ?? 1)).toBeGreaterThan(5);
  });
});

describe("volts of a signal that is turned by hand", () => {
  it("lie between its two levels, wherever they are caught", () => {
    const window = expectHealthy(
      buildModel([wheel({ feedV: 12, pullupV: 5, perRev: 4 })]),
      { circuit: "crk", meter: "volts-dc", red: "sig@sensor", black: "bat-", setup: BY_HAND },
      "m",
    );
    expect(window?.low).toBeGreaterThan(-0.2);
    expect(window?.low).toBeLessThan(0.1);
    expect(window?.high).toBeGreaterThan(5);
    expect(window?.high).toBeLessThan(5.6);
  });
});
