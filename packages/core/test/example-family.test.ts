import type { Setup } from "@fox-lamp/language";
import { buildModel, type CircuitModel } from "../src/circuit";
import { diagnoseJob } from "../src/diagnosis";
import { faultsOf, placeFault } from "../src/faults";
import { simulateReading } from "../src/instruments";
import { expectHealthy, generateTests, measurementOf } from "../src/procedures";
import { leavesWindow } from "./leaves-window";

// The family stands in the list as its line in families/index.ts would put it there.
jest.mock("../src/circuit/families", () => ({
  get FAMILIES() {
    return [...jest.requireActual("../src/circuit/families").FAMILIES, jest.requireActual("./example-family").thermocouple];
  },
}));

const volts = (red: string, black: string, setup: Setup = {}) => ({ meter: "volts-dc", red, black, setup });

describe("the example family, of millivolts", () => {
  const model = buildModel([{ id: "egt", family: "thermocouple-2w" }]);
  const circuit = model.circuits[0] as CircuitModel;
  const faults = faultsOf(model);
  const tests = generateTests(model, circuit, { temperature: 250 })
    .filter(({ meter }) => meter !== "look")
    .map(measurementOf);
  const hot: Setup = { truth: { temperature: 300 } };

  it("reads as its metals say: 41 microvolts a degree above the cold end", () => {
    const shown = simulateReading(model, { meter: "scan", red: "sig@module", unit: "degC", setup: hot }, [], "m");
    expect(shown).toBeGreaterThan(298);
    expect(shown).toBeLessThan(303);
    expect(simulateReading(model, volts("sig@sensor", "ret@sensor", hot) as never, [], "m")).toBeCloseTo(41e-6 * 275, 4);
  });
  it("has a window as narrow as its signal asks", () => {
    const window = expectHealthy(model, volts("sig@sensor", "ret@sensor", hot) as never, "m");
    expect(window?.low).toBeGreaterThan(0.0102);
    expect(window?.high).toBeLessThan(0.0124);
  });
  it("is measured against its own return, not across a ground that drops more than it makes", () => {
    const signals = tests.filter(({ red, setup }) => red === "sig@sensor" && setup?.open === undefined);
    expect(signals.map(({ black }) => black)).toContain("ret@sensor");
    expect(signals.filter(({ meter }) => meter === "volts-dc").map(({ black }) => black)).not.toContain("bat-");
  });
  it("has the faults of its wires and contacts by itself, and each that matters shows in some test", () => {
    expect(faults.map(({ id }) => id)).toEqual(
      expect.arrayContaining([
        "egt/wire:sig/open",
        "egt/contact:ret@sensor/corroded",
        "egt/contact:sig@sensor/swapped:ret",
        "egt/sensor/open",
        "egt/sensor/weak",
      ]),
    );
    const mattering = faults.filter(({ matters, kind }) => matters && kind !== "true-value");
    expect(mattering.length).toBeGreaterThan(20);
    const unseen = mattering.filter((fault) => {
      const placed = [placeFault(model, faults, { id: fault.id }, "f")];
      return !tests.some((test) => leavesWindow(simulateReading(model, test, placed, "m"), expectHealthy(model, test, "m")));
    });
    expect(unseen.map(({ id }) => id)).toEqual([]);
  });
  it("is diagnosed: a swapped pair by its sign, a break by what the weak pull-up makes of it", () => {
    const job = (...readings: object[]) => diagnoseJob({ circuits: [{ id: "egt", family: "thermocouple-2w" }], readings: readings as never });
    const reversed = job(
      { id: "r1", ...volts("sig@sensor", "ret@sensor", hot), value: -0.0112 },
      { id: "r2", ...volts("sig@part", "ret@part", { ...hot, open: ["sensor"] }), value: 0.0113 },
      { id: "r3", meter: "ohms", red: "sig@sensor", black: "chassis", setup: { key: "off", open: ["sensor", "module"] }, value: "OL" },
      { id: "r4", ...volts("sig@module", "ret@module", hot), value: -0.0113 },
    );
    expect(reversed.units[0]?.unit).toBe("egt/contact:sig@sensor");
    expect(reversed.units[0]?.probability).toBeGreaterThan(0.5);
    const open = job(
      { id: "r1", ...volts("sig@module", "ret@module", hot), value: 4.53 },
      { id: "r2", meter: "ohms", red: "sig@part", black: "ret@part", setup: { key: "off", open: ["sensor"] }, value: 6.2 },
      { id: "r3", ...volts("sig@sensor", "ret@sensor", hot), value: 0.0113 },
    );
    expect(open.units[0]?.unit).toMatch(/^egt\/(wire:sig|contact:sig@module|wire:ret|contact:ret@module)$/u);
    expect(open.units.find(({ unit }) => unit === "egt/sensor")?.probability ?? 0).toBeLessThan(0.05);
  });
  it("is sound where every reading is", () => {
    const { units } = diagnoseJob({
      circuits: [{ id: "egt", family: "thermocouple-2w" }],
      symptom: "none",
      readings: [
        { id: "r1", ...volts("sig@sensor", "ret@sensor", hot), value: 0.0112 },
        { id: "r2", meter: "scan", red: "sig@module", unit: "degC", setup: hot, value: 301 },
      ],
    } as never);
    expect(Math.max(0, ...units.map(({ probability }) => probability))).toBeLessThan(0.5);
  });
});
