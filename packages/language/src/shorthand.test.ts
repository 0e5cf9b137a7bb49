import fc from "fast-check";
import { parseShorthand, parseSpan, parseTyped, printShorthand } from "./shorthand";

const read = (text: string): number | "OL" | null => {
  const result = parseShorthand(text);
  return result.ok ? result.value : null;
};

describe("shorthand", () => {
  it.each([
    ["4.98", 4.98],
    ["180m", 0.18],
    ["103k", 103_000],
    ["2.7M", 2_700_000],
    ["4,98", 4.98],
    ["4k7", 4700],
    ["-0.02", -0.02],
    ["\u22120.02", -0.02],
    [".5", 0.5],
    ["12 V", 12],
    ["250 mV", 0.25],
    ["8.5 kohm", 8500],
    ["1.2e3", 1200],
    ["ol", "OL"],
    ["OL", "OL"],
    ["O.L.", "OL"],
  ])("reads %s", (text, value) => {
    expect(read(text)).toBe(value);
  });

  it("tells units apart from multipliers", () => {
    expect(parseShorthand("-10 degC")).toEqual({ ok: true, value: -10, unit: "degC" });
    expect(parseShorthand("99.8kPa")).toEqual({ ok: true, value: 99.8, unit: "kPa" });
    expect(parseShorthand("5 mV")).toEqual({ ok: true, value: 0.005, unit: "V" });
    expect(parseShorthand("5m")).toEqual({ ok: true, value: 0.005, unit: null });
  });

  it.each(["", "abc", "4.9.8", "12 furlongs", "--3", "1e999"])("says what is wrong with %j", (text) => {
    const result = parseShorthand(text);
    expect(result.ok).toBe(false);
    if (!result.ok) expect(result.message).toMatch(/[.]$/u);
  });

  it("reads back what it prints", () => {
    fc.assert(
      fc.property(fc.double({ min: 1e-6, max: 9e8, noNaN: true }), fc.boolean(), (size, negative) => {
        const value = negative ? -size : size;
        const back = read(printShorthand(value, 6));
        expect(typeof back).toBe("number");
        expect(Math.abs((back as number) - value)).toBeLessThanOrEqual(1e-5 * size);
      }),
    );
    expect(printShorthand("OL")).toBe("OL");
    expect(printShorthand(0)).toBe("0");
    expect(printShorthand(0.18)).toBe("180m");
  });
});

describe("recordings", () => {
  it.each([
    ["0.11 to 0.83", 0.11, 0.83],
    ["110m 830m", 0.11, 0.83],
    ["0.83..0.11", 0.11, 0.83],
    ["0,1 / 0,9", 0.1, 0.9],
    ["-0.2 to 4", -0.2, 4],
  ])("%s", (text, min, max) => {
    expect(parseSpan(text)).toMatchObject({ ok: true, value: { min, max } });
  });
  it.each([
    ["90k, 120k", { min: 90_000, max: 120_000 }, null],
    ["-250m to 250m", { min: -0.25, max: 0.25 }, null],
    ["0.7 V to 4.1 V", { min: 0.7, max: 4.1 }, "V"],
    ["4.1 V 0.7 V", { min: 0.7, max: 4.1 }, "V"],
    ["0.7 to 4.1 avg 2.2", { min: 0.7, max: 4.1, avg: 2.2 }, null],
    ["0,7..4,1; mean: 2,2 V", { min: 0.7, max: 4.1, avg: 2.2 }, "V"],
  ])("%s", (text, value, unit) => {
    expect(parseSpan(text)).toEqual({ ok: true, value, unit });
  });
  it.each(["1 V to 3 Hz", "1 to 3 avg 9"])("refuses %j in one sentence", (text) => {
    expect(parseSpan(text)).toMatchObject({ ok: false, message: expect.stringMatching(/expected/u) });
  });
  it("and single values are told apart wherever something is typed", () => {
    expect(parseTyped("4.9 V")).toEqual({ ok: true, value: 4.9, unit: "V" });
    expect(parseTyped("4,9")).toEqual({ ok: true, value: 4.9, unit: null });
    expect(parseTyped("OL")).toEqual({ ok: true, value: "OL", unit: null });
    expect(parseTyped("0.7 to 4.1")).toEqual({ ok: true, value: { min: 0.7, max: 4.1 }, unit: null });
    expect(parseTyped("twelve")).toMatchObject({ ok: false, message: expect.stringContaining("such as 4.98") });
    expect(parseTyped("0.7 to much")).toMatchObject({ ok: false, message: expect.stringContaining('"much"') });
  });
  it.each(["0.4", "", "1 2 3", "a to b", "OL to 3"])("refuses %j in one sentence", (text) => {
    const answer = parseSpan(text);
    expect(answer.ok).toBe(false);
    if (!answer.ok) expect(answer.message).toMatch(/expected/u);
  });
});
