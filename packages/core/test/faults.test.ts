import type { Measurement } from "@fox-lamp/language";
import fc from "fast-check";
import { buildModel, type CircuitModel, completeSheets, FAMILIES, situationOf, type World } from "../src/circuit";
import { effectIn, type Fault, faultsOf, PLAIN_VARIANT, placeFault, priorWeight, showsIn } from "../src/faults";
import { lampWord, logOhms, METER_OHMS, shownOhms, shownVolts, simulateReading } from "../src/instruments";
import { beepProbability, shownContinuity } from "../src/instruments/records/continuity";
import { lampProbabilities } from "../src/instruments/records/lamp";
import { logOhmsSigma, logOhmsSlope } from "../src/instruments/records/ohms";
import { voltsSigma } from "../src/instruments/records/volts-dc";
import { OHMS } from "../src/instruments/scale";
import { seededRandom } from "../src/numeric";
import { drawSeverity } from "../src/practice";
import { expectHealthy, generateTests, measurementOf } from "../src/procedures";
import { leavesWindow } from "./leaves-window";

const CONDITIONS = { temperature: 20, pressure: 100 };

describe.each(FAMILIES.map(({ id }) => id))("every fault of %s", (family) => {
  const model = buildModel(completeSheets([{ id: "x", family }]));
  const circuit = model.circuits[0] as CircuitModel;
  const faults = faultsOf(model);
  const mattering = faults.filter(({ matters, kind }) => matters && kind !== "true-value");
  const measurements = generateTests(model, circuit, CONDITIONS)
    .filter(({ meter }) => meter !== "look")
    .map(measurementOf);

  it("that matters leaves the healthy window in some test, at the middle of its range", () => {
    const unseen = mattering.filter((fault) => {
      const { noticedFrom, severity } = fault;
      // A line that is off by little is what engines differ by.
      const share = fault.kind === "skewed" && severity?.key === "severity" ? { severity: 0.95 * severity.high } : {};
      const ohms = noticedFrom !== null && severity?.key === "ohms" ? { ohms: Math.sqrt(noticedFrom * severity.high) } : {};
      const placed = [placeFault(model, faults, { id: fault.id, ...ohms, ...share }, "f")];
      return !measurements.some((measurement) => leavesWindow(simulateReading(model, measurement, placed, "m"), expectHealthy(model, measurement, "m")));
    });
    expect(unseen.map(({ id }) => id)).toEqual([]);
  });

  it("has every contact and wire of every pin", () => {
    const units = new Set(faults.map(({ unit }) => unit));
    for (const { pin, steps } of circuit.paths) {
      if (steps.some(({ kind }) => kind === "wire")) {
        expect(units).toContain(`x/wire:${pin}`);
        for (const kind of ["open", "resistance", "short-ground", "short-battery"]) expect(faults.some(({ id }) => id === `x/wire:${pin}/${kind}`)).toBe(true);
      }
      for (const step of steps) {
        if (step.kind !== "contact") continue;
        for (const kind of ["open", "corroded", "loose"]) expect(faults.some(({ id }) => id === `x/contact:${pin}@${step.place}/${kind}`)).toBe(true);
      }
    }
  });

  it("draws severities inside its range", () => {
    fc.assert(
      fc.property(fc.constantFrom(...mattering), fc.nat(1e6), (fault, seed) => {
        const severity = drawSeverity(fault, seededRandom(seed));
        if (fault.severity === null) return;
        expect(severity).toBeGreaterThanOrEqual(fault.severity.low);
        expect(severity).toBeLessThanOrEqual(fault.severity.high);
      }),
    );
  });

  it("grows with its resistance: more ohms in series never pull the reading back to health", () => {
    const series = mattering.filter(({ kind }) => kind === "resistance" || kind === "corroded");
    const [main] = circuit.built.reads;
    if (main?.by !== "volts" || family.startsWith("knock") || family.startsWith("oxygen")) return;
    const scan: Measurement = { meter: "scan", red: `${main.pin}@module` };
    const healthy = simulateReading(model, scan, [], "m") as number;
    for (const fault of series) {
      const { low, high } = fault.severity ?? { low: 1, high: 1 };
      const effect = (ohms: number): number =>
        Math.abs((simulateReading(model, scan, [placeFault(model, faults, { id: fault.id, ohms }, "f")], "m") as number) - healthy);
      const middle = effect(Math.sqrt(low * high));
      expect(effect(high)).toBeGreaterThanOrEqual(middle - 1e-3);
      expect(middle).toBeGreaterThanOrEqual(effect(low) - 1e-3);
    }
  });
});

describe("faults that show at times", () => {
  const faults = faultsOf(buildModel([{ id: "x", family: "potentiometer-3w" }]));
  const find = (id: string): Fault => faults.find((fault) => fault.id === id) as Fault;
  const loose = find("x/contact:sig@sensor/loose");
  it("need their stimulus, at their place", () => {
    expect(showsIn(loose, {})).toBe(false);
    expect(showsIn(loose, { stimulus: { kind: "wiggle", at: "module" } })).toBe(false);
    expect(showsIn(loose, { stimulus: { kind: "wiggle", at: "sensor" } })).toBe(true);
    expect(showsIn(loose, { stimulus: { kind: "wiggle" } })).toBe(true);
    // A place of another circuit is named with it.
    expect(showsIn(loose, { stimulus: { kind: "wiggle", at: "x:sensor" } })).toBe(true);
    expect(showsIn(loose, { stimulus: { kind: "wiggle", at: "y:sensor" } })).toBe(false);
    expect(showsIn(find("x/sensor/noisy"), { stimulus: { kind: "sweep" } })).toBe(true);
    expect(showsIn(find("x/sensor/open"), {})).toBe(true);
  });
  it("do nothing otherwise", () => {
    const world = buildModel([{ id: "x", family: "potentiometer-3w" }]).circuits[0]?.built.world as World;
    const placed = { fault: loose, severity: 1e6, variant: PLAIN_VARIANT };
    expect(effectIn(placed, situationOf(world, {}, 0), 0)).toEqual([]);
    expect(effectIn(placed, situationOf(world, { stimulus: { kind: "wiggle", at: "sensor" } }, 0), 0)).toEqual([
      { element: "contact:sig@sensor", field: "ohms", value: 1e6 },
    ]);
  });
});

describe("priors and looks", () => {
  it("contacts and chafed wires are common, modules rare", () => {
    expect(priorWeight("contact:sig@sensor", "corroded")).toBeGreaterThan(priorWeight("contact:sig@module", "corroded"));
    expect(priorWeight("wire:sig", "short-ground")).toBeGreaterThan(priorWeight("wire:sig", "short-battery"));
    expect(priorWeight("module:ref", "missing")).toBeLessThan(priorWeight("wire:sig", "open"));
    expect(priorWeight("wire:sig", "short-to:gnd")).toBe(priorWeight("wire:ref", "short-to:sig"));
    expect(priorWeight("contact:sig@C1", "open")).toBeGreaterThan(priorWeight("contact:sig@module", "open"));
  });
});

describe("instruments", () => {
  const ohms = fc.double({ min: 0.01, max: 1e8, noNaN: true });
  it("load the line with their own ten megohms", () => {
    expect(shownVolts({ openVolts: 5, ohms: METER_OHMS })).toBeCloseTo(2.5, 9);
    expect(shownVolts({ openVolts: 5, ohms: 10_000 })).toBeCloseTo(4.995, 3);
  });
  it("show live, overload, or ohms", () => {
    expect(shownOhms({ openVolts: 1, ohms: 100 })).toBe("live");
    expect(shownOhms({ openVolts: 0, ohms: 1e8 })).toBe("OL");
    expect(shownOhms({ openVolts: 0.05, ohms: 470 })).toBe(470);
    expect(shownContinuity({ openVolts: 1, ohms: 1 })).toBe("open");
  });
  it("weigh ohms on a scale that can be undone", () => {
    fc.assert(fc.property(ohms, (value) => expect(Math.abs(OHMS.fromScale(logOhms(value)) - value)).toBeLessThan(1e-6 * value + 1e-9)));
    fc.assert(
      fc.property(ohms, (value) => {
        const slope = (logOhms(value * 1.001) - logOhms(value / 1.001)) / (2 * Math.log(1.001));
        expect(Math.abs(slope - logOhmsSlope(value))).toBeLessThan(1e-3);
      }),
    );
    expect(logOhmsSigma(0.05)).toBeGreaterThan(10 * logOhmsSigma(1000));
    expect(voltsSigma(5)).toBeGreaterThan(voltsSigma(0.05));
  });
  it("call a lamp lit, dim or out with probabilities that sum to one", () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1.2, noNaN: true }), (share) => {
        const [lit, dim, dark] = lampProbabilities(share);
        expect(lit + dim + dark).toBeCloseTo(1, 2);
        const likeliest = (["lit", "dim", "out"] as const)[[lit, dim, dark].indexOf(Math.max(lit, dim, dark))];
        if (Math.abs(share - 0.75) > 0.01 && Math.abs(share - 0.3) > 0.01) expect(likeliest).toBe(lampWord(share));
      }),
    );
  });
  it("beep the surer the fewer the ohms", () => {
    fc.assert(
      fc.property(ohms, fc.double({ min: 1.01, max: 10, noNaN: true }), (value, factor) =>
        expect(beepProbability(value)).toBeGreaterThanOrEqual(beepProbability(value * factor)),
      ),
    );
    expect(beepProbability(3)).toBeGreaterThan(0.99);
    expect(beepProbability(300)).toBeLessThan(0.01);
  });
});
