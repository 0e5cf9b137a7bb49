import fc from "fast-check";
import { invertInPlace, logistic, logNormalDensity, logSumExp, luInPlace, luSolveInPlace, normalCdf } from "../src/numeric";

const size = 6;
const matrix = fc
  .array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: size * size, maxLength: size * size })
  .map((values) => Float64Array.from(values, (value, index) => value + (index % (size + 1) === 0 ? 8 : 0)));

function times(a: Float64Array, b: Float64Array): number[] {
  return Array.from({ length: size * size }, (_, index) => {
    const [row, column] = [Math.floor(index / size), index % size];
    let sum = 0;
    for (let k = 0; k < size; k += 1) sum += (a[row * size + k] as number) * (b[k * size + column] as number);
    return sum;
  });
}

describe("dense algebra", () => {
  it("a matrix times its inverse is one", () => {
    fc.assert(
      fc.property(matrix, (given) => {
        const inverse = given.slice();
        expect(invertInPlace(inverse, size)).toBeNull();
        times(given, inverse).forEach((value, index) => {
          expect(Math.abs(value - (index % (size + 1) === 0 ? 1 : 0))).toBeLessThan(1e-9);
        });
      }),
    );
  });
  it("factors solve what the inverse solves", () => {
    fc.assert(
      fc.property(matrix, fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: size, maxLength: size }), (given, right) => {
        const lu = given.slice();
        const pivots = new Int32Array(size);
        expect(luInPlace(lu, size, pivots)).toBeNull();
        const solution = Float64Array.from(right);
        luSolveInPlace(lu, size, pivots, solution);
        for (let row = 0; row < size; row += 1) {
          let sum = 0;
          for (let k = 0; k < size; k += 1) sum += (given[row * size + k] as number) * (solution[k] as number);
          expect(Math.abs(sum - (right[row] as number))).toBeLessThan(1e-9);
        }
      }),
    );
  });
  it("names the row that is not determined", () => {
    const singular = Float64Array.of(1, 2, 2, 4);
    expect(invertInPlace(singular.slice(), 2)).toEqual({ row: 1 });
    expect(luInPlace(singular.slice(), 2, new Int32Array(2))).toEqual({ row: 1 });
  });
});

describe("statistics", () => {
  it("the normal distribution function is right to seven digits at known points", () => {
    for (const [z, share] of [
      [0, 0.5],
      [1, 0.8413447],
      [-1.96, 0.0249979],
      [3, 0.9986501],
    ] as const) {
      expect(Math.abs(normalCdf(z) - share)).toBeLessThan(2e-7);
    }
  });
  it("the normal density integrates to its distribution", () => {
    let sum = 0;
    for (let x = -6; x < 1; x += 0.001) sum += 0.001 * Math.exp(logNormalDensity(x + 0.0005, 0, 1));
    expect(sum).toBeCloseTo(normalCdf(1), 5);
  });
  it("sums of exponentials neither overflow nor vanish", () => {
    expect(logSumExp([1000, 1000])).toBeCloseTo(1000 + Math.log(2), 9);
    expect(logSumExp([-1000, -1000])).toBeCloseTo(-1000 + Math.log(2), 9);
    expect(logSumExp([])).toBe(Number.NEGATIVE_INFINITY);
    expect(logistic(0)).toBe(0.5);
  });
});
