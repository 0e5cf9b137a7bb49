import type { Circuit } from "@fox-lamp/language";
import fc from "fast-check";
import { buildModel, type CircuitModel } from "../circuit";
import { camDegrees, crankCourse, degreesAt, shiftBetween } from "./angles";
import { readChannel } from "./channel";
import { expectedOf } from "./expected";

const circuit = (teeth: number, missing: number): CircuitModel =>
  buildModel([{ id: "crank", family: "hall-3w", with: { teeth, missing } } satisfies Circuit]).circuits[0] as CircuitModel;

/** A wheel at a steady speed: its samples, and the degrees it has turned since its first tooth at a place. */
function wheel(teeth: number, missing: number, rpm: number, turn: number, rate = 50_000, seconds = 0.6) {
  const samples = Float32Array.from({ length: rate * seconds }, (_, at) => {
    const place = turn + (at / rate) * (rpm / 60);
    const tooth = Math.floor((place % 1) * teeth);
    return tooth < teeth - missing && (place % 1) * teeth - tooth < 0.5 ? 5 : 0;
  });
  const channel = readChannel({ name: "crank", unit: "V", samples }, rate, expectedOf(circuit(teeth, missing), "crank", "V"));
  return { channel, rate, degreesOf: (at: number): number => 360 * (turn + (at / rate) * (rpm / 60)) };
}

describe("the angle of a crank", () => {
  it("counts from the first tooth after the first gap, to within half a degree", () => {
    fc.assert(
      fc.property(
        fc.constantFrom([60, 2] as const, [36, 1] as const, [36, 2] as const),
        fc.double({ min: 300, max: 3000, noNaN: true }),
        fc.double({ min: 0.02, max: 0.9, noNaN: true }),
        ([teeth, missing], rpm, turn) => {
          const { channel, degreesOf } = wheel(teeth, missing, rpm, turn);
          const course = crankCourse(channel);
          expect(course?.teeth).toBe(teeth);
          if (course === null) return;
          for (const share of [0.35, 0.6, 0.85]) {
            const at = share * 30_000;
            const seen = degreesAt(course, at) ?? Number.NaN;
            const true360 = (((degreesOf(at) - seen) % 360) + 540) % 360;
            expect(Math.abs(true360 - 180)).toBeLessThan(0.5);
          }
        },
      ),
      { numRuns: 25 },
    );
  });
  it("is not known without a gap, nor outside of what was seen", () => {
    expect(crankCourse(wheel(36, 0, 800, 0.1).channel)).toBeNull();
    const course = crankCourse(wheel(60, 2, 800, 0.1).channel);
    expect(course && degreesAt(course, -5)).toBeNull();
    expect(course && degreesAt(course, 1e9)).toBeNull();
  });
  it("of a wheel whose teeth the sheet does not name is counted from gap to gap", () => {
    const { channel } = wheel(36, 1, 900, 0.3);
    const unnamed = { ...channel, expected: { ...channel.expected, wheel: { teeth: null, missing: 0 } } };
    expect(crankCourse(unnamed)?.teeth).toBe(36);
  });
  it("has no cam edges where a cam shows none", () => {
    const { channel } = wheel(60, 2, 800, 0.1);
    const course = crankCourse(channel);
    expect(course && camDegrees(course, { ...channel, edges: { ...channel.edges, at: new Float64Array(0) } })).toEqual([]);
  });
});

describe("a cam against a known pattern", () => {
  const PATTERN = [30, 75, 210, 260, 400, 470, 560, 690];
  const turned = (by: number): number[] => PATTERN.map((degrees) => (((degrees + by) % 720) + 720) % 720).sort((a, b) => a - b);
  it("has moved by what it was moved, forth and back the same", () => {
    fc.assert(
      fc.property(fc.double({ min: -100, max: 100, noNaN: true }), (by) => {
        const [forth, back] = [shiftBetween(turned(by), PATTERN), shiftBetween(PATTERN, turned(by))];
        expect(Math.abs((forth ?? 999) - by)).toBeLessThan(0.01);
        expect(Math.abs((back ?? 999) + by)).toBeLessThan(0.01);
      }),
      { numRuns: 80 },
    );
  });
  it("is the same where the capture began in the other turn", () => {
    expect(Math.abs(shiftBetween(turned(360), PATTERN) ?? 999)).toBeLessThan(0.01);
    expect(Math.abs((shiftBetween(turned(367), PATTERN) ?? 999) - 7)).toBeLessThan(0.01);
  });
  it("is no shift at all where the patterns are not alike, or one is empty", () => {
    expect(shiftBetween([10, 20], PATTERN)).toBeNull();
    expect(shiftBetween([], PATTERN)).toBeNull();
    expect(shiftBetween(PATTERN, [])).toBeNull();
  });
});
