import fc from "fast-check";
import { BoundedCache } from "./bounded-cache";

const ten = () => 10;

describe("what is kept", () => {
  it("is made once and is the same thing after", () => {
    const cache = new BoundedCache(100);
    let made = 0;
    const make = () => {
      made += 1;
      return { made };
    };
    const first = cache.keep("a", make, ten);
    expect(cache.keep("a", make, ten)).toBe(first);
    expect([made, cache.count, cache.bytes]).toEqual([1, 1, 10]);
  });
  it("is forgotten by age of use, not of making: the hot entry stays", () => {
    const cache = new BoundedCache(40);
    for (const key of ["hot", "b", "c", "d"]) cache.keep(key, () => key, ten);
    cache.keep("hot", () => "made anew", ten);
    cache.keep("e", () => "e", ten);
    expect(cache.has("hot")).toBe(true);
    expect(cache.has("b")).toBe(false);
    expect(cache.bytes).toBeLessThanOrEqual(40);
  });
  it("is not made hot by being asked whether it is there", () => {
    const cache = new BoundedCache(30);
    for (const key of ["a", "b", "c"]) cache.keep(key, () => key, ten);
    expect(cache.has("a")).toBe(true);
    cache.keep("d", () => "d", ten);
    expect(cache.has("a")).toBe(false);
  });
  it("is held however large it is while it is the latest, and gone with the next", () => {
    const cache = new BoundedCache(20);
    cache.keep(
      "huge",
      () => "huge",
      () => 1000,
    );
    expect([cache.has("huge"), cache.bytes]).toEqual([true, 1000]);
    cache.keep("small", () => "small", ten);
    expect([cache.has("huge"), cache.bytes]).toEqual([false, 10]);
  });
  it("is weighed anew when it is used: what grows in the hand counts as it is now", () => {
    const cache = new BoundedCache(100);
    const table: number[] = [];
    cache.keep(
      "table",
      () => table,
      (rows) => rows.length,
    );
    cache.keep("other", () => "other", ten);
    for (let row = 0; row < 95; row += 1) table.push(row);
    cache.keep(
      "table",
      () => [],
      (rows) => rows.length,
    );
    expect(cache.has("other")).toBe(false);
    expect(cache.bytes).toBe(95);
  });
  it("may be made by a value that keeps others on the way", () => {
    const cache = new BoundedCache(100);
    const outer = cache.keep("outer", () => [cache.keep("inner", () => 1, ten), cache.keep("outer", () => [7, 7], ten)], ten);
    expect(outer).toEqual([1, [7, 7]]);
    expect([cache.count, cache.bytes]).toEqual([2, 20]);
  });
  it("never passes the budget by more than the latest, whatever is asked, and never answers wrongly", () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(30), fc.integer({ min: 1, max: 60 })), { maxLength: 200 }), (asked) => {
        const cache = new BoundedCache(100);
        for (const [key, size] of asked) {
          expect(
            cache.keep(
              `${key}`,
              () => key,
              () => size,
            ),
          ).toBe(key);
          expect(cache.bytes).toBeLessThanOrEqual(100 + size);
        }
      }),
    );
  });
});
