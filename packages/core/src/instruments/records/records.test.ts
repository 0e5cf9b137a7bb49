import { METER_WORDS, METERS, type Meter } from "@fox-lamp/language";
import { buildModel, FAMILIES, fixedWorld } from "../../circuit";
import { faultsOf, placeFault } from "../../faults";
import { expectHealthy, generateTests, measurementOf, predictHealthy } from "../../procedures";
import { columnsOf } from "../columns";
import { scaleOf, wordsOf } from "../predict";
import { probeOf } from "../probe";
import { VOLTS, voltsScale } from "../scale";
import { simulateReading } from "../simulate";
import { DECKED, electricalRecord, meterRecord } from "./index";
import { voltsSigma } from "./volts-dc";

const CONDITIONS = { temperature: 20, pressure: 100, position: 50 };
const electrical = METERS.filter((meter) => METER_WORDS[meter].electrical);

describe("every instrument", () => {
  it.each([...METERS])("%s has what is asked of it when it is chosen", (meter) => {
    const { choosing } = meterRecord(meter);
    expect(choosing.minutes).toBeGreaterThan(0);
    if (METER_WORDS[meter].electrical) expect(choosing.needs.length).toBeGreaterThan(0);
    expect(choosing.proves.length).toBeGreaterThan(10);
  });
  it("that has a working point can be put into a deck", () => {
    expect(new Set(DECKED)).toEqual(new Set(electrical.filter((meter) => electricalRecord(meter as never).deck !== null)));
    expect(DECKED).toContain("volts-dc");
    expect(DECKED).not.toContain("capture");
  });
});

describe.each(FAMILIES.map(({ id }) => id))("on a healthy %s", (family) => {
  const model = buildModel([{ id: "x", family }]);
  const circuit = model.circuits[0] as (typeof model.circuits)[number];
  const columns = columnsOf(model);
  const tests = generateTests(model, circuit, CONDITIONS).map(measurementOf);
  const probed = tests.flatMap((measurement) => {
    const probe = probeOf(model, measurement, "m");
    return probe?.kind === "electrical" ? [{ measurement, probe }] : [];
  });

  it("what an instrument shows is what is predicted of it", () => {
    for (const { measurement, probe } of probed) {
      const shown = simulateReading(model, measurement, [], "m");
      const { world } = circuit.built;
      const { mean, words } = predictHealthy(model, probe, columns, fixedWorld(world, probe.setup)?.value ?? world.nominal, 0);
      const names = wordsOf(probe);
      if (typeof shown === "string") {
        const at = names.indexOf(shown);
        expect([measurement.meter, shown, at >= 0]).toEqual([measurement.meter, shown, true]);
        expect(words[at]).toBeGreaterThan(0.3);
      } else if (typeof shown === "number" && scaleOf(probe).axis !== "none") {
        const scale = scaleOf(probe);
        expect(Math.abs(scale.toScale(shown) - mean)).toBeLessThan(0.02 + 0.03 * Math.abs(mean));
      }
    }
  });

  it("shows no word that its table does not have", () => {
    const faults = faultsOf(model);
    for (const { measurement, probe } of probed)
      for (const fault of faults.filter(({ kind }) => kind === "open").slice(0, 3)) {
        const shown = simulateReading(model, measurement, [placeFault(model, faults, { id: fault.id }, "f")], "m");
        if (typeof shown !== "string") continue;
        expect(METER_WORDS[measurement.meter as Meter].words).toContain(shown as never);
        expect(wordsOf(probe)).toContain(shown);
      }
  });
});

describe("the average of a signal", () => {
  const windowOf = (family: string, red: string, black: string): number => {
    const { low, high } = expectHealthy(buildModel([{ id: "x", family }]), { circuit: "x", meter: "volts-dc", red, black, setup: { key: "crank" } }, "m") ?? {};
    return (high ?? 0) - (low ?? 0);
  };
  it("is nothing for what a winding makes, whatever its form, and open for pulses", () => {
    expect(windowOf("vr-2w", "sig+@sensor", "sig-@sensor")).toBeLessThan(0.2);
    expect(windowOf("hall-3w", "sig@sensor", "bat-")).toBeGreaterThan(1);
  });
});

describe("a voltmeter's accuracy", () => {
  it("is some millivolts on a range it finds itself, and a few counts of a small one", () => {
    expect(voltsSigma(0)).toBeCloseTo(0.005, 6);
    expect(voltsSigma(5)).toBeCloseTo(0.025, 6);
    expect(voltsSigma(0, 0.05)).toBeCloseTo((3 * 0.05) / 4000, 9);
    expect(voltsSigma(0, 20)).toBeCloseTo(0.005, 6);
  });
  it("makes a slip on a small range anything some ranges wide", () => {
    expect(voltsScale(VOLTS, null)).toBe(VOLTS);
    expect(voltsScale(VOLTS, 20)).toBe(VOLTS);
    expect(voltsScale(VOLTS, 0.05).broad).toBeCloseTo(1 / 0.15, 6);
    expect(voltsScale(VOLTS, 0.05).smallVolts).toBe(0.05);
  });
});
