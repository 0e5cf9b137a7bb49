import fc from "fast-check";
import { choleskyInPlace } from "../numeric";
import { bentTogether } from "./sensitivities";

const level = fc.double({ min: 0, max: 12, noNaN: true });
const moves = fc.double({ min: 0.1, max: 1, noNaN: true }).chain((size) => fc.constantFrom(size, -size));
const size = fc.double({ min: 1e-4, max: 1, noNaN: true });

describe("what a wide spread leaves over of two readings", () => {
  it("is the same for the same quantity read again", () => {
    fc.assert(fc.property(level, size, (volts, left) => expect(bentTogether(left, volts, left, volts, 1)).toBeCloseTo(left, 9)));
  });
  it("is nothing in common for a reading that nothing wide moves, and for levels far apart", () => {
    expect(bentTogether(0, 2, 0.01, 2, 1)).toBe(0);
    expect(bentTogether(0.01, 1, 0.01, 4, 1)).toBeLessThan(1e-6);
  });
  it("is opposite where what lifts one lowers the other", () => {
    expect(bentTogether(0.01, 0.4, 0.01, 0.5, -1)).toBeCloseTo(-bentTogether(0.01, 0.4, 0.01, 0.5, 1), 12);
    expect(bentTogether(0.01, 0.4, 0.01, 0.5, -1)).toBeLessThan(0);
  });
  it("makes a covariance that can be, whatever was read and whatever moves it", () => {
    const movedBy = fc.tuple(moves, moves);
    fc.assert(
      fc.property(fc.array(fc.tuple(level, size, movedBy), { minLength: 2, maxLength: 8 }), (readings) => {
        const n = readings.length;
        const spread = new Float64Array(n * n);
        readings.forEach(([volts, left, [x, y]], i) => {
          readings.forEach(([otherVolts, otherLeft, [otherX, otherY]], j) => {
            const likeness = (x * otherX + y * otherY) / (Math.hypot(x, y) * Math.hypot(otherX, otherY));
            spread[i * n + j] = bentTogether(left, volts, otherLeft, otherVolts, likeness) + (i === j ? 1e-6 : 0);
          });
        });
        expect(choleskyInPlace(spread, n)).not.toBeNull();
      }),
    );
  });
});
