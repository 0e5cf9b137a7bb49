import fc from "fast-check";
import { circuitsSchema, newEntrySchema, recordingSchema } from "./index";
import { beyondLimits, depthOf, isLikelyMoment, MOST_CIRCUITS } from "./limits";

describe("what is entered", () => {
  it("stays within the limits, wherever in it something is beyond them", () => {
    expect(beyondLimits({ text: "x".repeat(20_000), list: [1, { volts: -12 }] })).toBeNull();
    expect(beyondLimits({ text: "x".repeat(20_001) })).toMatchObject({ path: ["text"] });
    expect(beyondLimits({ a: [{ b: 1e300 }] })).toMatchObject({ path: ["a", 0, "b"] });
    expect(beyondLimits(Array.from({ length: 20_001 }, () => 0))).toMatchObject({ path: [] });
    const deep = Array.from({ length: 5000 }).reduce<unknown>((inner) => [inner], 1);
    expect(beyondLimits(deep)?.message).toMatch(/deeper/u);
  });
  it("is within them whatever it is, as long as it is small", () => {
    fc.assert(
      fc.property(fc.object({ maxDepth: 4 }), (value) => {
        const text = JSON.stringify(value, (_, item: unknown) => (typeof item === "number" && Math.abs(item) > 1e12 ? 1 : item)) ?? "null";
        expect(beyondLimits(JSON.parse(text))).toBeNull();
      }),
    );
  });
  it("happened at a moment that exists", () => {
    for (const good of ["2026-03-02T09:14:00Z", "2026-03-02T09:14:00+02:00"]) expect([good, isLikelyMoment(good)]).toEqual([good, true]);
    for (const bad of ["0000-01-01T00:00:00Z", "2026-13-02T09:14:00Z", "9999-01-01T00:00:00Z"]) expect([bad, isLikelyMoment(bad)]).toEqual([bad, false]);
  });
});

describe("schemas hold the limits", () => {
  const entry = { id: "0195b000-0000-7000-8000-000000000001", at: "2026-03-02T09:14:00Z", by: "Wren", kind: "note", body: { text: "seal" } };
  it("in entries", () => {
    expect(newEntrySchema.safeParse(entry).success).toBe(true);
    for (const wrong of [
      { ...entry, body: { text: "x".repeat(20_001) } },
      { ...entry, at: "0000-01-01T00:00:00Z" },
      { ...entry, by: "x".repeat(30_000) },
    ])
      expect(newEntrySchema.safeParse(wrong).success).toBe(false);
  });
  it("in circuits and recordings", () => {
    const circuits = (count: number) => Array.from({ length: count }, (_, index) => ({ id: `c${index}`, family: "switch" }));
    expect(circuitsSchema.safeParse(circuits(MOST_CIRCUITS)).success).toBe(true);
    expect(circuitsSchema.safeParse(circuits(MOST_CIRCUITS + 1)).success).toBe(false);
    const recording = (name: string, values = [1]) => ({ title: "t", seconds: values, channels: [{ name, circuit: null, unit: "V", values }] });
    expect(recordingSchema.safeParse(recording("Signal, 1 [V]")).success).toBe(true);
    for (const name of ["<img src=x>", 'a"b', "a&b", "x".repeat(81)]) expect([name, recordingSchema.safeParse(recording(name)).success]).toEqual([name, false]);
    expect(
      recordingSchema.safeParse(
        recording(
          "a",
          Array.from({ length: 200_001 }, () => 0),
        ),
      ).success,
    ).toBe(false);
  });
});

it("depth counts brackets outside strings", () => {
  expect(depthOf('{"a":[1,{"b":"]}[["}]}', 100)).toBe(3);
  expect(depthOf('"\\"[["', 100)).toBe(0);
  expect(depthOf("[".repeat(50), 10)).toBe(10);
});
