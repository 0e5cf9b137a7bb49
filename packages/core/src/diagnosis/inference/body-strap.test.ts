import type { Reading } from "@fox-lamp/language";
import { BODY_STRAP_OHMS, buildModel } from "../../circuit";
import { diagnoseJob } from "..";
import { strapOhmsRead } from "./body-strap";

const model = buildModel([{ id: "x", family: "hall-3w" }]);
const body = (value: Reading["value"], setup: Reading["setup"] = {}): Reading => ({
  circuit: "x",
  meter: "volts-dc",
  red: "chassis",
  black: "bat-",
  setup,
  value,
});

describe("the body strap a reading tells of", () => {
  it("has as many more ohms as the body has volts", () => {
    const [usual, high] = [strapOhmsRead([body(0.045)], model), strapOhmsRead([body(0.09)], model)];
    expect((high as number) / (usual as number)).toBeCloseTo(2, 6);
    // Some four amperes over four milliohms.
    expect(high).toBeGreaterThan(3 * BODY_STRAP_OHMS);
    expect(high).toBeLessThan(10 * BODY_STRAP_OHMS);
  });
  it("is the usual one where nothing was read, where it reads as usual, and where no sound strap does", () => {
    for (const readings of [[], [body(0.016)], [body(0.25)], [body(-0.05)], [body("OL")]]) expect(strapOhmsRead(readings, model)).toBeUndefined();
  });
  it("is told of by the latest reading with the key on and nothing else done", () => {
    expect(strapOhmsRead([body(0.09), body(0.01)], model)).toBeUndefined();
    expect(
      strapOhmsRead([body(0.09, { key: "crank" }), body(0.09, { key: "idle" }), body(0.09, { stimulus: { kind: "wiggle", at: "loom" } })], model),
    ).toBeUndefined();
  });
  it("keeps an accepted body from being condemned, also where the module is grounded on the block", () => {
    const ground: Reading = { circuit: "x", meter: "volts-dc", red: "gnd@sensor", black: "bat-", setup: {}, value: 0.009 };
    const { units, verdict, doubtful } = diagnoseJob({ circuits: [{ id: "x", family: "hall-3w" }], readings: [body(0.091), ground, body(0.09), ground] });
    expect(verdict.status).toBe("narrowing");
    expect(units.find(({ unit }) => unit === "car/ground:chassis")?.probability ?? 0).toBeLessThan(0.25);
    expect(doubtful).toEqual([]);
  });
});
