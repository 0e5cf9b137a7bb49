import { type Circuit, readingSchema } from "@fox-lamp/language";
import { buildModel, completeSheets } from "../circuit";
import { diagnoseJob } from "../diagnosis";
import { simulateReading } from "../instruments";
import { askedAt, type CavityReading, cavityQuestions, cavityWords, identifyPins, readingsAtPins } from "./index";

/** Follows the advice on a connector whose cavities are the pins in some order. */
function follow(circuit: Circuit, order: readonly string[]): { readings: CavityReading[]; result: ReturnType<typeof identifyPins> } {
  const model = buildModel([circuit]);
  const cavities = order.map((_, index) => String.fromCharCode(65 + index));
  const readings: CavityReading[] = [];
  let result = identifyPins(circuit, cavities, readings);
  while (result.next !== null && readings.length < 20) {
    const { cavity, question } = result.next;
    const red = `${order[cavities.indexOf(cavity)]}@sensor`;
    const { title: _title, ...asked } = askedAt(question, red, model.circuits[0]?.built.world.quantity);
    const value = simulateReading(model, { circuit: circuit.id, red, ...asked }, [], "m");
    if (value === null || (typeof value === "string" && value !== "OL")) throw new Error(`${question} shows ${String(value)}`);
    readings.push({ cavity, question, value: typeof value === "string" ? "OL" : value });
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

  it("takes what was measured in any order, and settles only what that settles", () => {
    // A throttle's middle wire found first, by moving it; which of the two others is ground is not known by that.
    const circuit = { id: "x", family: "potentiometer-3w" };
    const moved: CavityReading = { cavity: "2", question: "moves", value: { min: 0.62, max: 4.31 } };
    const first = identifyPins(circuit, ["1", "2", "3"], [moved]);
    expect(first.found).toEqual({ "2": "sig" });
    expect(cavityWords(first)).toEqual([
      expect.stringMatching(/^1 is the (reference|ground) .* or the (reference|ground) /u),
      expect.stringMatching(/^2 is the signal \(9\d %\)$/u),
      expect.stringMatching(/^3 is the (reference|ground) .* or the (reference|ground) /u),
    ]);
    expect(cavityWords(identifyPins(circuit, ["1", "2", "3"], []))).toEqual(["1 can be any of them", "2 can be any of them", "3 can be any of them"]);
    expect(first.proven).toBeNull();
    // Resistance to battery negative with the key off comes next: under an ohm is the ground, the rest follows.
    const second = identifyPins(circuit, ["1", "2", "3"], [moved, { cavity: "3", question: "ohms-to-ground", value: 0.3 }]);
    expect(second.proven).toEqual({ "1": "ref", "2": "sig", "3": "gnd" });
    const other = identifyPins(circuit, ["1", "2", "3"], [{ cavity: "3", question: "ohms-to-ground", value: 0.3 }, moved]);
    expect(other.proven).toEqual(second.proven);
  });

  it("does not call a wire that stands the signal", () => {
    const still: CavityReading = { cavity: "1", question: "moves", value: { min: 4.99, max: 5.01 } };
    const { cavities, found } = identifyPins({ id: "x", family: "pressure-3w" }, ["1", "2", "3"], [still]);
    expect(found).toEqual({});
    expect(cavities[0]?.pins.find(({ pin }) => pin === "sig")?.probability).toBeLessThan(0.05);
  });

  it("offers every question at every cavity; nobody moves a temperature by hand", () => {
    expect(cavityQuestions({ id: "x", family: "potentiometer-3w" }, "B").map(({ question }) => question)).toContain("moves");
    expect(cavityQuestions({ id: "x", family: "thermistor-2w" }, "B").map(({ question }) => question)).not.toContain("moves");
    expect(cavityQuestions({ id: "x", family: "pressure-3w" }, "B").every(({ title }) => title.startsWith("Cavity B"))).toBe(true);
  });

  it("makes readings of the job of what was measured at settled cavities", () => {
    const circuit = { id: "x", family: "potentiometer-3w" };
    const readings: CavityReading[] = [
      { cavity: "2", question: "moves", value: { min: 0.62, max: 4.31 } },
      { cavity: "3", question: "ohms-to-ground", value: 0.3 },
      { cavity: "1", question: "volts-plugged", value: 5.01 },
    ];
    const { found } = identifyPins(circuit, ["1", "2", "3"], readings);
    const made = readingsAtPins(circuit, found, readings).map((reading) => readingSchema.parse(reading));
    expect(made.map(({ red, meter, value }) => [red, meter, value])).toEqual([
      ["sig@sensor", "volts-dc", { min: 0.62, max: 4.31 }],
      ["gnd@sensor", "ohms", 0.3],
      ["ref@sensor", "volts-dc", 5.01],
    ]);
    const { doubtful, healthy = 0 } = diagnoseJob({ circuits: [circuit], readings: made });
    expect(doubtful).toEqual([]);
    expect(healthy).toBeGreaterThan(0.1);
    expect(readingsAtPins(circuit, {}, readings)).toEqual([]);
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
