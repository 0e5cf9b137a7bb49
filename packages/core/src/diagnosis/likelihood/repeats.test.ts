import type { PredictionTable } from "../predictions/table";
import type { Observation } from "./observation";
import { type RepeatedNumbers, Repeats } from "./repeats";

const ohms = { slips: "unit" } as PredictionTable;
const volts = { slips: "sign" } as PredictionTable;
const read = (table: PredictionTable, number: number): Observation => ({ id: "r", key: "k", number, word: -1, table }) as Observation;
/** Three numbers: a slip of any kind has e^-8, one that lasts e^-6, and a noise of a hundredth. */
const NUMBERS: RepeatedNumbers = {
  otherwise: Float64Array.of(-5.9, -5.9, -5.9),
  lasting: Float64Array.of(-6, -6, -6),
  logNoise: new Float64Array(3).fill(Math.log(1e-4)),
};

describe("one slip made again", () => {
  it("is looked for among numbers of one probe that may be of another unit and say the same", () => {
    expect(new Repeats([read(ohms, 6.9), read(ohms, 6.91), read(ohms, 9.2)]).groups).toEqual([[0, 1]]);
    expect(new Repeats([read(volts, 5), read(volts, 5)]).groups).toEqual([]);
    expect(new Repeats([read(ohms, 6.9), read({ ...ohms }, 6.9)]).groups).toEqual([]);
  });
  it("is far likelier than two slips that happen to agree", () => {
    const twice = new Repeats([read(ohms, 6.9), read(ohms, 6.9), read(ohms, 9)]);
    const lift = twice.lift(Int32Array.of(0, 1), 2, NUMBERS);
    // One slip, made again in three of ten, and the second figure stands beside the first one within a hundredth.
    expect(lift).toBeCloseTo(-6 + Math.log(0.3) - 0.5 * Math.log(2 * Math.PI * 1e-4) + 2 * 5.9, 9);
    expect(lift).toBeGreaterThan(5);
  });
  it("is asked of the slipped ones alone, whatever their order", () => {
    const twice = new Repeats([read(ohms, 6.9), read(ohms, 9), read(ohms, 6.91)]);
    expect(twice.lift(Int32Array.of(0, 1), 2, NUMBERS)).toBe(0);
    expect(twice.lift(Int32Array.of(2, 0), 2, NUMBERS)).toBeCloseTo(twice.lift(Int32Array.of(0, 2), 2, NUMBERS), 12);
  });
});
