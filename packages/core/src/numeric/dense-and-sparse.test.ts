import fc from "fast-check";
import { analysePattern, entryOf, invertInPlace, logistic, logNormalDensity, logSumExp, normalCdf, SparseFactor } from "./index";

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
  it("names the row that is not determined", () => {
    const singular = Float64Array.of(1, 2, 2, 4);
    expect(invertInPlace(singular.slice(), 2)).toEqual({ row: 1 });
  });
});

/** A conductance network on some nodes: pairs with siemens, what leaks from each node, and one-way couplings. */
const conductances = fc.record({
  pairs: fc.array(fc.tuple(fc.nat(8), fc.nat(8), fc.double({ min: -9, max: 3, noNaN: true })), { minLength: 4, maxLength: 20 }),
  leaks: fc.array(fc.double({ min: -9, max: 0, noNaN: true }), { minLength: 9, maxLength: 9 }),
  // A share of the row's own leak: couplings that feed back with a gain of one have no solution at all.
  oneWay: fc.array(fc.tuple(fc.nat(8), fc.nat(8), fc.double({ min: 0.01, max: 0.4, noNaN: true })), { maxLength: 2 }),
});

function factored(
  n: number,
  pairs: readonly (readonly [number, number, number])[],
  leaks: readonly number[],
  oneWay: readonly (readonly [number, number, number])[],
) {
  const pattern = analysePattern(
    n,
    [...pairs, ...oneWay].map(([a, b]) => [a, b] as const),
  );
  const factor = new SparseFactor(pattern);
  const dense = new Float64Array(n * n);
  const put = (row: number, column: number, value: number): void => {
    if (row === column) return;
    const at = entryOf(pattern, row, column);
    factor.values[at] = (factor.values[at] as number) + value;
    dense[row * n + column] = (dense[row * n + column] as number) + value;
  };
  leaks.forEach((siemens, row) => {
    factor.sums[row] = siemens;
    dense[row * n + row] = siemens;
  });
  for (const [a, b, siemens] of pairs) {
    if (a === b) continue;
    put(a, b, -siemens);
    put(b, a, -siemens);
    for (const row of [a, b]) dense[row * n + row] = (dense[row * n + row] as number) + siemens;
  }
  for (const [a, b, gain] of oneWay) {
    if (a === b) continue;
    put(a, b, -gain);
    factor.sums[a] = (factor.sums[a] as number) - gain;
  }
  return { factor, dense };
}

describe("sparse algebra", () => {
  it("columns and rows of the inverse are those of the dense inverse, one-way couplings included", () => {
    fc.assert(
      fc.property(conductances, ({ pairs, leaks, oneWay }) => {
        const n = leaks.length;
        const power = ([a, b, exponent]: readonly [number, number, number]): [number, number, number] => [a, b, 10 ** (exponent / 3)];
        const { factor, dense } = factored(
          n,
          pairs.map(power),
          leaks.map((exponent) => 10 ** (exponent / 3)),
          oneWay.map(([a, b, share]) => [a, b, share * 10 ** ((leaks[a] as number) / 3)] as const),
        );
        expect(factor.factor()).toBe(true);
        expect(invertInPlace(dense, n)).toBeNull();
        const out = new Float64Array(n);
        for (let at = 0; at < n; at += 1) {
          factor.inverseColumn(at, out);
          for (let row = 0; row < n; row += 1)
            expect(out[row]).toBeCloseTo(dense[row * n + at] as number, 6 - Math.ceil(Math.log10(Math.abs(dense[row * n + at] as number) + 1)));
          factor.inverseRow(at, out);
          for (let column = 0; column < n; column += 1)
            expect(out[column]).toBeCloseTo(dense[at * n + column] as number, 6 - Math.ceil(Math.log10(Math.abs(dense[at * n + column] as number) + 1)));
        }
      }),
    );
  });
  it("a node that hangs on the rest by a leak of a billionth of a millionth keeps all its digits", () => {
    const leak = 1e-12;
    const { factor } = factored(
      3,
      [
        [0, 1, 1e3],
        [1, 2, 1e3],
      ],
      [leak, 0, 0],
      [],
    );
    expect(factor.factor()).toBe(true);
    const out = new Float64Array(3);
    factor.inverseColumn(2, out);
    expect((out[0] as number) * leak).toBeCloseTo(1, 12);
    expect(((out[2] as number) - 2e-3) * leak).toBeCloseTo(1, 12);
    factor.solve(Float64Array.of(0, 0, 1), out);
    expect((out[1] as number) * leak).toBeCloseTo(1, 12);
  });
  it("refuses a pivot that is only rounding error", () => {
    const { factor } = factored(2, [[0, 1, 1]], [0, 0], []);
    expect(factor.factor()).toBe(false);
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
