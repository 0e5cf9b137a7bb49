import type { Circuit } from "@fox-lamp/language";
import { buildModel, completeSheets } from "../circuit";
import { simulateReading } from "../instruments";
import { askedAt, type CavityReading, cavityWords, identifyPins } from "./index";

/** Follows the advice on a connector whose cavities are the pins in some order. */
function follow(circuit: Circuit, order: readonly string[]): { readings: CavityReading[]; result: ReturnType<typeof identifyPins> } {
  const model = buildModel([circuit]);
  const cavities = order.map((_, index) => String.fromCharCode(65 + index));
  const readings: CavityReading[] = [];
  let result = identifyPins(circuit, cavities, readings);
  while (result.next !== null && readings.length < 20) {
    const { cavity, question } = result.next;
    const red = `${order[cavities.indexOf(cavity)]}@sensor`;
    const { title: _title, ...asked } = askedAt(question, red);
    const measurement = { circuit: circuit.id, red, ...asked };
    const value = simulateReading(model, measurement, [], "m");
    readings.push({ cavity, question, value: value === "OL" ? "OL" : Number(value) });
    result = identifyPins(circuit, cavities, readings);
  }
  return { readings, result };
}

describe("identifying unknown pins (T3)", () => {
  it.each([
    ["potentiometer-3w", ["sig", "gnd", "ref"]],
    ["pressure-3w", ["gnd", "ref", "sig"]],
    ["hall-3w", ["sig", "feed", "gnd"]],
    ["thermistor-2w", ["gnd", "sig"]],
    ["maf-freq", ["gnd", "sig", "feed"]],
  ])("finds the cavities of %s in few readings", (family, order) => {
    const { readings, result } = follow(completeSheets([{ id: "x", family }])[0] as Circuit, order);
    expect(result.proven).toEqual(Object.fromEntries(order.map((pin, index) => [String.fromCharCode(65 + index), pin])));
    expect(readings.length).toBeLessThanOrEqual(2 * order.length);
    expect(cavityWords(result)[0]).toContain("A is the");
  });

  it("says that nothing fits when the readings belong to no pin of the family", () => {
    const readings: CavityReading[] = ["A", "B", "C"].map((cavity) => ({ cavity, question: "volts-unplugged", value: 12.4 }));
    const result = identifyPins({ id: "x", family: "potentiometer-3w" }, ["A", "B", "C"], readings);
    expect(result.proven).toBeNull();
    expect(result.misfit).toBeGreaterThan(0.5);
  });

  it("never asks for resistance with the key on", () => {
    const result = identifyPins({ id: "x", family: "thermistor-2w" }, ["1", "2"], []);
    expect(result.next?.question).toBe("volts-unplugged");
    expect(result.cavities.every(({ pins }) => Math.abs(pins.reduce((sum, { probability }) => sum + probability, 0) - 1) < 1e-9)).toBe(true);
  });

  it("refuses another number of cavities, and readings elsewhere", () => {
    expect(() => identifyPins({ id: "x", family: "thermistor-2w" }, ["1", "2", "3"], [])).toThrow("2 pins");
    expect(() => identifyPins({ id: "x", family: "thermistor-2w" }, ["1", "2"], [{ cavity: "9", question: "volts-plugged", value: 1 }])).toThrow('"9"');
  });
});
