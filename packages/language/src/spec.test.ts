import { jsonSchemaOf, specCurveSchema, specFileSchema, specLimitSchema } from "./index";

const LIMIT = {
  family: "hall-3w",
  meter: "volts-dc",
  red: "feed@sensor",
  unit: "V",
  low: 11,
  source: { kind: "document", title: "Workshop book", edition: "3" },
};

describe("a specification", () => {
  it("says of what, in which state, how much and from where; its vehicles may be left open", () => {
    expect(specLimitSchema.parse(LIMIT).vehicle).toEqual({});
    expect(
      specLimitSchema.parse({ ...LIMIT, vehicle: { make: "Veldane", years: [2010, 2014] }, setup: { key: "on" }, date: "2026-03-01", confidence: 0.8 })
        .confidence,
    ).toBe(0.8);
  });
  it.each([
    ["nothing to compare with", { low: undefined }, "expected a low, a high or a nominal value"],
    ["no source", { source: undefined }, undefined],
    ["a source of a kind nobody knows", { source: { kind: "hearsay", title: "x" } }, undefined],
    ["a confidence above one", { confidence: 2 }, undefined],
    ["a date that is none", { date: "last spring" }, undefined],
  ])("is refused with %s", (_what, over, message) => {
    const parsed = specLimitSchema.safeParse({ ...LIMIT, ...over });
    expect(parsed.success).toBe(false);
    if (message !== undefined) expect(parsed.error?.issues[0]?.message).toBe(message);
  });
  it("may be a curve of two points or more", () => {
    const curve = { family: "thermistor-2w", kind: "temperature-ohms", points: [[0, 5900]], source: LIMIT.source };
    expect(specCurveSchema.safeParse(curve).error?.issues[0]?.message).toBe("expected two points at least");
    expect(specCurveSchema.safeParse({ ...curve, points: [...curve.points, [20, 2500]] }).success).toBe(true);
  });
  it("stands in a file with others, whose schema is published", () => {
    expect(specFileSchema.parse({ format: "fox-lamp/spec@1", limits: [LIMIT] })).toMatchObject({ curves: [] });
    expect(specFileSchema.safeParse({ format: "fox-lamp/spec@2" }).success).toBe(false);
    expect(jsonSchemaOf("spec")?.["title"]).toBe("fox-lamp/spec@1");
  });
});
