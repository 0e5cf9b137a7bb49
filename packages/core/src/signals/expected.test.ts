import { BadInput, type Circuit } from "@fox-lamp/language";
import { buildModel, type CircuitModel } from "../circuit";
import { assertChannels, expectedOf, isCam, pinOf } from "./expected";

const circuit = (family: string, given: Circuit["with"] = {}): CircuitModel => buildModel([{ id: "c", family, with: given }]).circuits[0] as CircuitModel;

describe("what a channel should look like", () => {
  it.each([
    ["hall-3w", "sig", "signal", "square"],
    ["hall-3w", "feed", "feed", "level"],
    ["hall-3w", "gnd", "ground", "level"],
    ["vr-2w", "sig+", "signal", "sine"],
    ["knock-2w", "sig", "signal", "ring"],
    ["oxygen-narrow", "sig", "signal", "switching"],
    ["oxygen-narrow", "htr-ctl", "control", "unknown"],
    ["potentiometer-3w", "sig", "signal", "slow"],
    ["potentiometer-3w", "ref", "reference", "level"],
    ["maf-freq", "sig", "signal", "square"],
    ["maf-voltage", "sig", "signal", "slow"],
    ["thermistor-2w", "sig", "signal", "slow"],
    ["solenoid-2w", "ctl", "control", "square"],
    ["switch", "sig", "signal", "contact"],
  ])("on %s %s: a %s that is %s", (family, pin, role, shape) => {
    expect(expectedOf(circuit(family), pin, "V")).toMatchObject({ role, shape });
    expect(expectedOf(circuit(family), `c:${pin}@module`, "V")).toMatchObject({ role, shape });
  });
  it("knows the wheel of the crank, and of a cam that there is one", () => {
    const crank = circuit("hall-3w", { teeth: 60, missing: 2 });
    expect(expectedOf(crank, "crank", "V").wheel).toEqual({ teeth: 60, missing: 2 });
    expect(expectedOf(crank, "cam-intake", "V").wheel).toEqual({ teeth: null, missing: 0 });
    expect(expectedOf(circuit("hall-3w", { perRev: 8 }), "sig", "V").wheel).toEqual({ teeth: 4, missing: 0 });
    expect(expectedOf(circuit("potentiometer-3w"), "sig", "V").wheel).toBeNull();
  });
  it("has a threshold where the module switches", () => {
    expect(expectedOf(circuit("oxygen-narrow"), "sig", "V").threshold).toBe(0.45);
    expect(expectedOf(circuit("hall-3w"), "sig", "V").threshold).toBeCloseTo(2.5, 1);
    expect(expectedOf(circuit("thermistor-2w"), "sig", "V").threshold).toBeNull();
  });
  it("of a clamp is a current, of the battery a level, of what nobody knows nothing", () => {
    expect(expectedOf(circuit("solenoid-2w"), "ctl", "A")).toMatchObject({ role: "current", shape: "current" });
    expect(expectedOf(null, "bat+", "V")).toMatchObject({ role: "battery", shape: "level" });
    expect(expectedOf(circuit("hall-3w"), "Channel A", "V")).toMatchObject({ role: "other", shape: "unknown" });
    expect(expectedOf(null, "sig", "V")).toMatchObject({ role: "other", shape: "unknown" });
  });
  it("is named by pin, circuit and place", () => {
    expect(["sig", "cam:sig", "cam:sig@module"].map(pinOf)).toEqual(["sig", "sig", "sig"]);
    expect(["cam", "cam-exhaust", "cam:sig", "crank", "camera"].map(isCam)).toEqual([true, true, true, false, false]);
    expect(() => assertChannels(circuit("hall-3w"), ["sig", "c:gnd"])).not.toThrow();
    expect(() => assertChannels(circuit("hall-3w"), ["other:sig"])).toThrow(BadInput);
  });
});
