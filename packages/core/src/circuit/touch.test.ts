import type { Circuit, Setup } from "@fox-lamp/language";
import { faultsOf, placeFault } from "../faults";
import { simulateReading } from "../instruments";
import { generateTests } from "../procedures";
import { buildModel, circuitOf } from "./model";
import { applySetup } from "./setup";

const CAM: Circuit = { id: "cam", family: "hall-3w", with: { feedV: 12, pullupV: 5, perRev: 4 } };
const TOUCH: Setup = { open: ["sensor"], add: [{ kind: "lamp", from: "sig@sensor", to: "bat-" }], stimulus: { kind: "touch" } };

function counted(setup: Setup, fault: string | null = null, circuit = CAM) {
  const model = buildModel([circuit]);
  const faults = fault === null ? [] : [placeFault(model, faultsOf(model), { id: fault }, "faults[0]")];
  return simulateReading(model, { circuit: "cam", meter: "scan", red: "sig@module", unit: "rpm", setup }, faults, "m");
}

describe("a lamp touched on and off", () => {
  it("switches the open signal between its supply and ground", () => {
    const { moments, drive, net } = applySetup(buildModel([CAM]), TOUCH, "cam");
    const tip = net.elementIndex.get("added/touch#0") ?? -1;
    expect(drive.hertz).toBeGreaterThan(0);
    expect(moments).toHaveLength(2);
    expect(moments[1]?.values.ohms[tip]).toBeGreaterThan(1e5 * (moments[0]?.values.ohms[tip] ?? 0));
  });
  it("is counted by a module that hears its input, and by no other", () => {
    expect(counted(TOUCH)).toBeGreaterThan(0);
    expect(counted(TOUCH, "cam/wire:sig/open")).toBe(0);
    expect(counted(TOUCH, "cam/module:input/blind")).toBe(0);
    expect(counted(TOUCH, "cam/sensor/dead")).toBeGreaterThan(0);
  });
  it("does nothing where nothing was put in", () => {
    expect(counted({ open: ["sensor"], stimulus: { kind: "touch" } })).toBe(0);
  });
  it("leaves a sensor that switches by itself as it is", () => {
    const { drive } = applySetup(buildModel([CAM]), { ...TOUCH, open: [], key: "idle" }, "cam");
    expect(drive.hertz).toBeCloseTo((2 * 800) / 60, 6);
  });
});

describe("what is offered in place of a sensor", () => {
  const offered = (circuit: Circuit): string[] => {
    const model = buildModel([circuit]);
    return generateTests(model, circuitOf(model, circuit.id, "circuit"))
      .filter(({ technique }) => technique === "T6")
      .map(({ title }) => title);
  };
  it("is a lamp to ground where the sensor grounds its signal, to the feed where it raises it", () => {
    expect(offered(CAM)).toEqual(["Speed in the module's data while a test lamp to battery negative is touched on and off the signal"]);
    expect(offered({ ...CAM, with: { feedV: 5, output: "source" } })).toEqual([
      "Speed in the module's data while a test lamp to feed is touched on and off the signal",
    ]);
  });
  it("is a fused wire or a resistor to either end of a track, as the shop has it", () => {
    const titles = offered({ id: "tps", family: "potentiometer-3w" });
    expect(titles).toContain("What the module reads with a fused jumper from signal to reference");
    expect(titles).toContain("What the module reads with 4.7 kΩ from signal to reference");
  });
  it("is nothing for a pair that makes its own voltage", () => {
    expect(offered({ id: "crk", family: "vr-2w" })).toEqual([]);
  });
});
