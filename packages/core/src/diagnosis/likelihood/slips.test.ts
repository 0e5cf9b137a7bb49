import fc from "fast-check";
import { logOhms, timesOhms } from "../../instruments";
import type { PredictionTable } from "../predictions/table";
import type { Observation } from "./observation";
import { logNamedSlip, meantOhms } from "./slips";

const table = { slips: "unit" } as PredictionTable;
const typed = (ohms: number): Observation => ({ id: "r", key: "k", number: logOhms(ohms), word: -1, table }) as Observation;
/** log P(ohms typed | a slip with a name), where a winding of so many ohms is expected within 4 %. */
const named = (ohms: number, expected: number): number => logNamedSlip(typed(ohms), logOhms(expected), 0.04 ** 2, meantOhms(typed(ohms)));

describe("ohms typed in another unit", () => {
  it("are the same ohms, however near to zero they come to stand", () => {
    fc.assert(
      fc.property(fc.double({ min: 2, max: 1e6, noNaN: true }), (ohms) => {
        const slip = timesOhms(logOhms(ohms / 1000), 1000);
        expect(slip.level).toBeCloseTo(logOhms(ohms), 6);
      }),
    );
  });
  it("move as fast as their scale says", () => {
    fc.assert(
      fc.property(fc.double({ min: 0.05, max: 1e4, noNaN: true }), fc.constantFrom(1000, 10, 0.1, 1e-3), (ohms, factor) => {
        const at = logOhms(ohms);
        const moved = (timesOhms(at + 1e-5, factor).level - timesOhms(at - 1e-5, factor).level) / 2e-5;
        expect(Math.log(moved)).toBeCloseTo(timesOhms(at, factor).logSlope, 4);
      }),
    );
  });
  it("are named whether they are many or few", () => {
    // 910 ohm read in kilo-ohms is 0.91: as plain a slip as 9.1 kilo-ohm read as 9.1.
    expect(named(0.912, 910)).toBeGreaterThan(-2);
    expect(named(9.12, 9100)).toBeGreaterThan(-2);
    expect(named(912_000, 910)).toBeGreaterThan(-2);
    expect(named(0.6, 910)).toBeLessThan(-20);
  });
  it("are nobody's volts", () => {
    expect(meantOhms({ ...typed(5), table: { slips: "sign" } as PredictionTable })).toEqual([]);
  });
});
