import { captureOf, sampled, seededRandom } from "../../test/waveforms";
import { buildModel, type CircuitModel } from "../circuit";
import { switchingOf } from "./cells";
import { analyseCapture } from "./index";

const NOISE = { noise: 0.01, bits: 12, range: 2, offset: 0 } as const;

/** A cell between 0.1 and 0.9 V: rich for a time, lean for a time, each change a straight line of its own length. Seconds. */
function cell(richFor: number, leanFor: number, up: number, down: number) {
  return (seconds: number): number => {
    const at = seconds % (richFor + leanFor);
    if (at < up) return 0.1 + (0.8 * at) / up;
    if (at < richFor) return 0.9;
    return at < richFor + down ? 0.9 - (0.8 * (at - richFor)) / down : 0.1;
  };
}

describe("a cell that switches", () => {
  it.each([
    [0.5, 0.5, 0.08, 0.1],
    [0.8, 0.3, 0.05, 0.2],
    [0.4, 0.9, 0.25, 0.06],
  ])("rich for %d s and lean for %d s, up in %d s and down in %d s, is read so", (richFor, leanFor, up, down) => {
    const found = switchingOf(sampled(cell(richFor, leanFor, up, down), 12, 1000, seededRandom(3), NOISE), 1000);
    expect(Math.abs((found?.switches ?? 0) - 24 / (richFor + leanFor))).toBeLessThanOrEqual(1);
    // A change of 0.8 V passes 0.3 V of it between the marks.
    expect(Math.abs((found?.toRichSeconds ?? 0) - 0.375 * up)).toBeLessThan(0.01);
    expect(Math.abs((found?.toLeanSeconds ?? 0) - 0.375 * down)).toBeLessThan(0.01);
    const rich = richFor + 0.75 * down - 0.625 * up;
    expect(Math.abs((found?.richShare ?? 0) - rich / (richFor + leanFor))).toBeLessThan(0.03);
    expect(Math.abs((found?.longestRich ?? 0) - rich)).toBeLessThan(0.02);
  });
  it("that stands says so by its longest time, and one that never leaves the middle says nothing", () => {
    expect(switchingOf(new Float64Array(5000).fill(0.85), 1000)).toMatchObject({ switches: 0, richShare: 1, longestRich: 5, toRichSeconds: null });
    expect(switchingOf(new Float64Array(100).fill(0.45), 1000)).toBeNull();
  });
  it("is told in words with its capture", () => {
    const own = buildModel([{ id: "o2", family: "oxygen-narrow" }]).circuits[0] as CircuitModel;
    const samples = sampled(cell(0.5, 0.5, 0.08, 0.1), 12, 1000, seededRandom(4), NOISE);
    const { facts = [] } = analyseCapture(captureOf(1000, { "o2:sig": samples }), { circuitOf: () => own, engine: "runs" }).file;
    expect(facts.find(({ code }) => code === "switching")?.sentence).toMatch(
      /^o2:sig switches 2[345] times, rich for 5\d % of the time; from lean to rich in (29|3\d) ms, back in (3\d|4\d) ms\.$/u,
    );
  });
});
