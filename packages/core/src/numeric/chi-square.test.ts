import { chiSquareTail } from "./index";

describe("the sum of squared standard normal numbers", () => {
  it.each([
    // Published table: count, squares, probability of more.
    [1, 3.841, 0.05],
    [3, 7.815, 0.05],
    [7, 14.067, 0.05],
    [12, 32.909, 0.001],
    [20, 45.315, 0.001],
    [30, 43.773, 0.05],
  ])("of %d numbers is above %d as often as the table says", (count, squares, wanted) => {
    expect(chiSquareTail(squares, count)).toBeGreaterThan(0.9 * wanted);
    expect(chiSquareTail(squares, count)).toBeLessThan(1.1 * wanted);
  });
  it("of none is never too large", () => {
    expect(chiSquareTail(0, 0)).toBe(1);
  });
});
