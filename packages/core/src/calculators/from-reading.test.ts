import type { Reading } from "@fox-lamp/language";
import { buildModel, type CircuitModel } from "../circuit";
import { CALCULATORS, calculate, calculatorFor } from "./index";

const opened = (family: string, given: Record<string, number>, reading: Partial<Reading>) => {
  const circuit = buildModel([{ id: "c", family, with: given }]).circuits[0] as CircuitModel;
  const found = calculatorFor(circuit, { circuit: "c", meter: "volts-dc", red: "sig@sensor", black: "bat-", ...reading } as Reading);
  if (found === null) return null;
  const calculator = CALCULATORS.find(({ id }) => id === found.calculator);
  const answer = calculator === undefined ? null : calculate(calculator, found.given);
  return { calculator: found.calculator, answer: answer?.ok ? answer.answer : null };
};

describe("a reading opened in a calculator", () => {
  it("of a pulled-up signal tells the sensor's resistance", () => {
    const found = opened("thermistor-2w", { pullup: 2200, pullupV: 5 }, { value: 3.1 });
    expect(found?.calculator).toBe("divider");
    expect(found?.answer).toMatchObject({ field: "sensor" });
    expect(found?.answer?.value).toBeCloseTo((2200 * 3.1) / 1.9, 6);
  });
  it("of a wheel's rate tells the engine speed", () => {
    const found = opened("hall-3w", { teeth: 60, missing: 2 }, { meter: "hertz", value: 773.33 });
    expect(found).toMatchObject({ calculator: "teeth", answer: { field: "rpm" } });
    expect(found?.answer?.value).toBeCloseTo(800, 1);
  });
  it("of an average while the engine turns tells how long the line is high", () => {
    expect(opened("hall-3w", { pullupV: 5 }, { value: 2.5, setup: { key: "crank" } })).toMatchObject({ calculator: "average", answer: { field: "duty" } });
  });
  it("of a ground drop and of a winding tells what is behind them", () => {
    expect(opened("pressure-3w", {}, { red: "gnd@sensor", value: 0.4 })).toMatchObject({ calculator: "drop", answer: { field: "ohms", value: 20 } });
    expect(opened("solenoid-2w", {}, { meter: "ohms", red: "feed@part", black: "ctl@part", value: 10 })?.answer?.field).toBe("watts");
  });
  it("is none where there is nothing to compute from", () => {
    expect(opened("thermistor-2w", {}, { value: "OL" })).toBeNull();
    expect(opened("thermistor-2w", {}, { value: 7 })).toBeNull();
    expect(opened("thermistor-2w", {}, { value: 5, setup: { open: ["sensor"] } })).toBeNull();
    expect(opened("potentiometer-3w", {}, { value: 2 })).toBeNull();
    expect(opened("hall-3w", {}, { meter: "lamp", value: "lit" })).toBeNull();
  });
});
