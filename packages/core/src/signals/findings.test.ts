import { type Circuit, captureFileSchema, jsonSchemaOf } from "@fox-lamp/language";
import { buildModel, type CircuitModel } from "../circuit";
import { seededRandom } from "../numeric";
import { analyseCapture } from "./analyse";
import type { Capture } from "./capture";

const circuit = (family: string, given: Circuit["with"] = {}): CircuitModel => buildModel([{ id: "c", family, with: given }]).circuits[0] as CircuitModel;
const RATE = 10_000;

/** One second of a course with a little noise. */
function second(course: (at: number) => number, seed = 1, seconds = 1): Float32Array {
  const random = seededRandom(seed);
  return Float32Array.from({ length: RATE * seconds }, (_, at) => course(at / RATE) + 0.003 * random.normal());
}
const capture = (channels: Readonly<Record<string, Float32Array>>): Capture => ({
  start: 0,
  rate: RATE,
  channels: Object.entries(channels).map(([name, samples]) => ({ name, unit: "V", samples })),
});
const told = (of: Capture, family: CircuitModel, engine?: "stands" | "cranks" | "runs"): string[] =>
  analyseCapture(of, { circuitOf: () => family, engine }).file.findings.map(({ code, sentence }) => `${code}: ${sentence}`);
const square = (hertz: number) => (at: number) => ((at * hertz) % 1 < 0.5 ? 5 : 0.1);

describe("what stands out, in words", () => {
  it("of a wave sampled too seldom is that alone, whatever seems to stick out of it", () => {
    const wave = (at: number): number => 5 * Math.sin(2 * Math.PI * 1973 * at) * ((at * 55) % 1 < 0.03 ? 1.2 : 1);
    expect(told(capture({ "sig+": second(wave, 3) }), circuit("vr-2w", { teeth: 36, missing: 1 }), "runs")).toEqual([expect.stringMatching(/^too-slow: /u)]);
  });
  it("a signal that stands while the engine turns; while it stands nothing is said", () => {
    const still = capture({ sig: second(() => 5) });
    expect(told(still, circuit("hall-3w"), "runs")).toEqual(["stuck: sig stands at 5 V while the engine turns."]);
    expect(told(still, circuit("hall-3w"), "cranks")).toHaveLength(1);
    expect(told(still, circuit("hall-3w"), "stands")).toEqual([]);
    expect(told(still, circuit("hall-3w"))).toEqual([]);
  });
  it("a sensor that should ring or switch on a running engine, and not while it is cranked", () => {
    const quiet = capture({ sig: second(() => 2.5) });
    expect(told(quiet, circuit("knock-2w"), "runs")).toEqual(["no-ring: sig shows no ring while the engine runs."]);
    expect(told(quiet, circuit("knock-2w"), "cranks")).toEqual([]);
    const cell = capture({ sig: second(() => 0.1, 1, 5) });
    expect(told(cell, circuit("oxygen-narrow"), "runs")).toEqual([expect.stringMatching(/^no-switching: sig stands at 0\.1 V and does not switch\.$/u)]);
    // A cell may be between two changes for a second.
    expect(told(capture({ sig: second(() => 0.1) }), circuit("oxygen-narrow"), "runs")).toEqual([]);
  });
  it("a twin that is silent beside one that rings, on circuits of their own", () => {
    const tapped = second((at) => 2.5 + (at > 0.3 ? 0.4 * Math.exp((0.3 - at) / 0.002) * Math.sin(2 * Math.PI * 3000 * (at - 0.3)) : 0));
    const knock = circuit("knock-1w");
    expect(told(capture({ "a:sig": tapped, "b:sig": second(() => 2.5, 2) }), knock)).toEqual(["silent-twin: b:sig shows no ring while a:sig rings 1 times."]);
    expect(told(capture({ "a:sig": tapped, "b:sig": tapped }), knock)).toEqual([]);
  });
  it("a ground that lifts, a reference that falls, a feed that rises: by what they do", () => {
    const lost = (usual: number, away: number) => second((at) => (at > 0.4 && at < 0.6 ? away : usual));
    expect(told(capture({ gnd: lost(0.03, 3.2) }), circuit("hall-3w"))).toEqual([
      expect.stringMatching(/^dropout: gnd lifts to 3\.2 V for 200 ms, from 0\.400\d s\.$/u),
    ]);
    expect(told(capture({ ref: lost(5, 3.1) }), circuit("potentiometer-3w"))).toEqual([expect.stringMatching(/^dropout: ref falls to 3\.1 V for 200 ms/u)]);
    expect(told(capture({ feed: lost(5, 12.4) }), circuit("hall-3w"))).toEqual([expect.stringMatching(/^dropout: feed rises to 12\.4 V for 200 ms/u)]);
  });
  it("gone for longer than it was there, a ground is still the lower level and a reference the higher", () => {
    const late = (usual: number, away: number) => second((at) => (at > 0.3 ? away : usual));
    const [gnd] = told(capture({ gnd: late(0.03, 10) }), circuit("hall-3w"));
    expect(gnd).toMatch(/^dropout: gnd lifts to 10 V for 700 ms, from 0\.300\d s/u);
    const [ref] = told(capture({ ref: late(5, 0.2) }), circuit("potentiometer-3w"));
    expect(ref).toMatch(/^dropout: ref falls to 0\.2 V for 700 ms, from 0\.300\d s/u);
  });
  it("a rate too low to judge is all that is said of it", () => {
    expect(told(capture({ sig: second(square(2300)) }), circuit("maf-freq"), "runs")).toEqual([
      expect.stringMatching(/^too-slow: sig has only 4\.\d samples a pulse/u),
    ]);
  });
  it("a spike and how often", () => {
    const spiked = second((at) => 2 + at);
    for (const at of [2000, 5000, 8000]) spiked[at] = 0.1;
    expect(told(capture({ sig: spiked }), circuit("potentiometer-3w"))).toEqual([
      expect.stringMatching(/^glitch: sig: 3 spikes away from its course, the first to 0\.1 V at 0\.200\d s\.$/u),
    ]);
  });
  it("a sound capture says nothing", () => {
    const sound = capture({ sig: second(square(100)), feed: second(() => 5, 2), gnd: second(() => 0.02, 3) });
    expect(told(sound, circuit("hall-3w"), "runs")).toEqual([]);
  });
});

describe("the file of an analysis", () => {
  it("is what its schema says, and the schema is published", () => {
    const { file } = analyseCapture(capture({ sig: second(square(100)), gnd: second(() => 0.02) }), { circuitOf: () => circuit("hall-3w") });
    expect(captureFileSchema.parse(JSON.parse(JSON.stringify(file)))).toEqual(JSON.parse(JSON.stringify(file)));
    expect(jsonSchemaOf("capture")).toMatchObject({ title: "fox-lamp/capture@1" });
    expect(captureFileSchema.safeParse({ ...file, format: "fox-lamp/capture@9" }).success).toBe(false);
  });
  it("has the numbers of each channel under the words of the language", () => {
    const { file } = analyseCapture(capture({ sig: second(square(100)) }), { circuitOf: () => circuit("hall-3w") });
    expect(file).toMatchObject({ rate: RATE, seconds: 1, firstToFail: null, camCrank: { degrees: [], shiftDegrees: null } });
    const [sig] = file.channels;
    expect(sig).toMatchObject({ name: "sig", kind: "square", missing: [], dropouts: [], glitches: [], bursts: [], peaks: [] });
    expect(sig?.frequencyHz).toBeCloseTo(100, 0);
    expect(sig?.duty).toBeCloseTo(50, 0);
    expect(sig?.meterDc).toBeCloseTo(2.55, 1);
    expect(sig?.edges).toBeGreaterThanOrEqual(198);
  });
});
