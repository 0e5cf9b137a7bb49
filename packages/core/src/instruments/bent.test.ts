import fc from "fast-check";
import { choleskyInPlace } from "../numeric";
import { bentTogether } from "./sensitivities";

const level = fc.double({ min: 0, max: 12, noNaN: true });
const size = fc.double({ min: 1e-4, max: 1, noNaN: true });

describe("what a wide spread leaves over of two readings", () => {
  it("is the same for the same quantity read again", () => {
    fc.assert(fc.property(level, size, (volts, left) => expect(bentTogether(left, volts, left, volts)).toBeCloseTo(left, 9)));
  });
  it("is nothing in common for a reading that nothing wide moves, and for levels far apart", () => {
    expect(bentTogether(0, 2, 0.01, 2)).toBe(0);
    expect(bentTogether(0.01, 1, 0.01, 4)).toBeLessThan(1e-6);
  });
  it("makes a covariance that can be, whatever was read", () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(level, size), { minLength: 2, maxLength: 8 }), (readings) => {
        const n = readings.length;
        const spread = new Float64Array(n * n);
        readings.forEach(([volts, left], i) => {
          readings.forEach(([otherVolts, otherLeft], j) => {
            spread[i * n + j] = bentTogether(left, volts, otherLeft, otherVolts) + (i === j ? 1e-6 : 0);
          });
        });
        expect(choleskyInPlace(spread, n)).not.toBeNull();
      }),
    );
  });
});
