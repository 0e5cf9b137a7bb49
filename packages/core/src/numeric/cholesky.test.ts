import fc from "fast-check";
import { choleskyInPlace, forwardInPlace, inverseFromFactor } from "./cholesky";

const d = 4;
const entries = fc.array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: d * d, maxLength: d * d });

/** B B^T + I: symmetric and positive definite. */
function definite(b: readonly number[]): Float64Array {
  const a = new Float64Array(d * d);
  for (let i = 0; i < d; i += 1)
    for (let j = 0; j < d; j += 1) {
      let sum = i === j ? 1 : 0;
      for (let k = 0; k < d; k += 1) sum += b[i * d + k] * b[j * d + k];
      a[i * d + j] = sum;
    }
  return a;
}

const at = (matrix: ArrayLike<number>, i: number, j: number): number => matrix[i * d + j];

describe("a Cholesky factor", () => {
  it("times itself is the matrix", () => {
    fc.assert(
      fc.property(entries, (b) => {
        const a = definite(b);
        const lower = a.slice();
        expect(choleskyInPlace(lower, d)).not.toBeNull();
        for (let i = 0; i < d; i += 1)
          for (let j = 0; j <= i; j += 1) {
            let sum = 0;
            for (let k = 0; k <= j; k += 1) sum += at(lower, i, k) * at(lower, j, k);
            expect(sum).toBeCloseTo(at(a, i, j), 8);
          }
      }),
    );
  });
  it("gives the logarithm of the determinant", () => {
    const lower = Float64Array.from([4, 0, 2, 3]);
    lower[1] = 2;
    expect(choleskyInPlace(lower, 2)).toBeCloseTo(Math.log(4 * 3 - 2 * 2), 12);
  });
  it("solves by going forward", () => {
    fc.assert(
      fc.property(entries, fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: d, maxLength: d }), (b, z) => {
        const lower = definite(b);
        choleskyInPlace(lower, d);
        const v = Float64Array.from({ length: d }, (_, i) => z.reduce((sum, value, k) => (k <= i ? sum + at(lower, i, k) * value : sum), 0));
        forwardInPlace(lower, d, v);
        for (const [index, value] of v.entries()) expect(value).toBeCloseTo(z[index], 8);
      }),
    );
  });
  it("gives the inverse: the matrix times it is one on the diagonal and nothing beside", () => {
    fc.assert(
      fc.property(entries, (b) => {
        const a = definite(b);
        const lower = a.slice();
        choleskyInPlace(lower, d);
        const inverse = new Float64Array(d * d);
        inverseFromFactor(lower, d, inverse, new Float64Array(d));
        for (let i = 0; i < d; i += 1)
          for (let j = 0; j < d; j += 1) {
            let sum = 0;
            for (let k = 0; k < d; k += 1) sum += at(a, i, k) * at(inverse, k, j);
            expect(sum).toBeCloseTo(i === j ? 1 : 0, 7);
          }
      }),
    );
  });
  it("is refused, not made up, where there is none", () => {
    expect(choleskyInPlace(Float64Array.from([1, 2, 2, 1]), 2)).toBeNull();
    expect(choleskyInPlace(Float64Array.from([1, 1, 1, 1]), 2)).toBeNull();
    expect(choleskyInPlace(Float64Array.from([0]), 1)).toBeNull();
    expect(choleskyInPlace(Float64Array.from([Number.NaN]), 1)).toBeNull();
  });
});
