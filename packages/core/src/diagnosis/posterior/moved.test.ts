import type { Reading } from "@fox-lamp/language";
import { showsWhileMoved, withSymptoms } from "./moved";

const at = (value: Reading["value"], moved?: string, meter: Reading["meter"] = "volts-dc"): Reading => ({
  circuit: "tps",
  meter,
  red: "sig@sensor",
  black: "bat-",
  setup: { key: "on", ...(moved === undefined ? {} : { stimulus: { kind: "wiggle", at: moved } }) },
  value,
});

describe("a reading that becomes another while the loom is moved", () => {
  it("tells that the fault comes and goes", () => {
    expect(showsWhileMoved([at(0.62), at(4.97, "loom")])).toBe(true);
    expect(showsWhileMoved([at(4.97, "loom"), at(0.62, "loom"), at(0.62)])).toBe(true);
    expect(showsWhileMoved([at("lit", undefined, "lamp"), at("out", "loom", "lamp")])).toBe(true);
    expect(showsWhileMoved([at({ min: 0.6, max: 0.63 }), at({ min: 0.6, max: 4.9 }, "loom")])).toBe(true);
  });
  it("tells nothing where it stays, where something else was measured, or at a connector, whose contacts are known to be loose", () => {
    expect(showsWhileMoved([at(0.62), at(0.66, "loom")])).toBe(false);
    expect(showsWhileMoved([at(12.4), at(12.1, "loom")])).toBe(false);
    expect(showsWhileMoved([{ ...at(0.62), red: "gnd@sensor" }, at(4.97, "loom")])).toBe(false);
    expect(showsWhileMoved([{ ...at(0.62), setup: { key: "idle" } }, at(4.97, "loom")])).toBe(false);
    expect(showsWhileMoved([at(0.62), at(4.97, "sensor")])).toBe(false);
    expect(showsWhileMoved([])).toBe(false);
  });
});

describe("what readings say of a complaint that comes and goes", () => {
  const symptoms = (...readings: Reading[]): (boolean | undefined)[] =>
    withSymptoms(readings.map((reading) => ({ reading }))).map(({ reading }) => reading.symptom);
  it("is there where a place is moved and the reading changes, not where it is as it always is", () => {
    expect(symptoms(at(4.4), at(4.4, "sensor"), at(0.02, "module"), at(4.41))).toEqual([false, false, true, false]);
    expect(symptoms(at(0.02, "loom"), at(4.4))).toEqual([true, false]);
  });
  it("is nothing where the fault shows unmoved as well, where nothing changes, and where nothing was read unmoved", () => {
    expect(symptoms(at(4.4), at(0.02), at(0.02, "module"))).toEqual([undefined, undefined, undefined]);
    expect(symptoms(at(4.4), at(4.38, "module"))).toEqual([undefined, undefined]);
    expect(symptoms(at(4.4, "sensor"), at(0.02, "module"))).toEqual([undefined, undefined]);
  });
  it("is away where moving changes what was read while the complaint was there", () => {
    expect(symptoms({ ...at(4.4), symptom: true }, at(0.02, "module"), at(4.4, "sensor"))).toEqual([true, false, true]);
  });
  it("is not told by numbers that are the same with the complaint and without it", () => {
    expect(symptoms({ ...at(4.4), symptom: true }, { ...at(4.4), symptom: false }, at(0.02, "module"))).toEqual([true, false, undefined]);
  });
  it("is what somebody said of it, where somebody did", () => {
    expect(symptoms(at(4.4), { ...at(0.02, "module"), symptom: false }, at(0.02, "sensor"))).toEqual([false, false, true]);
  });
});
