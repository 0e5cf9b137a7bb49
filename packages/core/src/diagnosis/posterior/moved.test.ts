import type { Reading } from "@fox-lamp/language";
import { showsWhileMoved } from "./moved";

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
