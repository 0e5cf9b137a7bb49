import type { Reading } from "@fox-lamp/language";
import { buildModel, type CircuitModel } from "../circuit";
import { notesOnLimits } from "./of-reading";

const model = buildModel([{ id: "tps", family: "potentiometer-3w" }]);
const notes = (value: number, limits: Reading["limits"], red = "ref@sensor") =>
  notesOnLimits(model, model.circuits[0] as CircuitModel, {
    circuit: "tps",
    meter: "volts-dc",
    red,
    black: "bat-",
    setup: { key: "on" },
    value,
    ...(limits === undefined ? {} : { limits }),
  });

describe("a book's limits beside a reading", () => {
  it("are silent where both windows say the same, or where there are none", () => {
    expect(notes(5.01, { low: 4.8, high: 5.2 })).toEqual([]);
    expect(notes(2, { low: 4.8, high: 5.2 })).toEqual([]);
    expect(notes(5, undefined)).toEqual([]);
  });
  it("that cannot be are told with the reason", () => {
    expect(notes(5, { low: 5.4, high: 6.2 })).toEqual([
      { code: "above-feed", sentence: "These limits cannot be right: 6.2 V lies above what feeds it: 5.3 V at most." },
    ]);
    expect(notes(5, { low: 4800, high: 5200 })[0]?.code).toBe("unit-slip");
  });
  it("that pass what the circuit fails, or fail what it passes, are told so", () => {
    expect(notes(4.4, { low: 4.3, high: 5.3 })[0]?.sentence).toMatch(/^It passes by the book and fails by the circuit, which makes 4\.[78]/u);
    expect(notes(5.08, { low: 4.95, high: 5.05 })[0]?.sentence).toMatch(/^It fails by the book and passes by the circuit/u);
  });
});
