import { alternating, captureOf, sampled, seededRandom, toothed } from "../../test/waveforms";
import { buildModel, type CircuitModel } from "../circuit";
import { traceOf } from "../vehicle";
import type { EngineDoes } from "./engine-does";
import { huntingOf } from "./hunting";
import { analyseCapture, type Capture } from "./index";

const RATE = 5000;
const INSTRUMENT = { noise: 0.008, bits: 12, range: 20, offset: 0 } as const;
const model = buildModel([
  { id: "maf", family: "maf-voltage" },
  { id: "tps", family: "potentiometer-3w" },
  { id: "crank", family: "hall-3w", with: { teeth: 60, missing: 2 } },
  { id: "vr", family: "vr-2w", with: { teeth: 60, missing: 2 } },
]);
const taken = (course: (seconds: number) => number, seed: number, seconds = 3, rate = RATE) => sampled(course, seconds, rate, seededRandom(seed), INSTRUMENT);

function facts(capture: Capture, engine: EngineDoes = "runs"): ReadonlyMap<string, string> {
  const circuitOf = (name: string): CircuitModel | null => model.circuits.find(({ id }) => id === name.split(":")[0]) ?? null;
  return new Map((analyseCapture(capture, { circuitOf, engine }).file.facts ?? []).map(({ code, sentence }) => [code, sentence]));
}

/** Stands at 1.00 V, climbs in a straight line to 3.40 V in 100 ms from 0.8 s on, falls back to 2.2 V, and rises to 3.0 V with the engine. */
const flow = (at: number): number => {
  if (at < 0.8) return 1;
  if (at < 0.9) return 1 + 24 * (at - 0.8);
  if (at < 1.1) return 3.4 - 6 * (at - 0.9);
  if (at < 1.5) return 2.2 + 2 * (at - 1.1);
  return Math.max(1, 3 - 2 * (at - 1.5));
};

describe("a throttle that is snapped open", () => {
  it("shows in the air flow: from where to where, how quickly, and the second hump", () => {
    const told = facts(captureOf(RATE, { "maf:sig": taken(flow, 1) })).get("snap") ?? "";
    expect(told).toMatch(
      /^maf:sig goes from 1\.0\d V to 3\.(3[5-9]|4\d) V in (7\d|8\d|9\d)(\.\d)? ms, again to (2\.9\d|3\.0\d) V (5[6-9]|6[0-4])\d(\.\d)? ms later\.$/u,
    );
  });
  it("comes before the engine's speed by as much as the capture says", () => {
    // 800 rev/min until 0.95 s, then 2000 more in each second: half of the way to 2400 at 1.35 s, and flow was half way up at 0.85 s.
    const turns = (at: number): number =>
      at < 0.95 ? (800 * at) / 60 : (800 * at + 1000 * Math.min(at - 0.95, 0.8) ** 2 + 1600 * Math.max(0, at - 1.75)) / 60;
    const crank = taken(toothed(turns, 60, [58, 59], 0.5, 0.1, 5), 2, 3, 50_000);
    const told = facts(captureOf(50_000, { "maf:sig": taken(flow, 3, 3, 50_000), "crank:sig": crank })).get("snap") ?? "";
    const lag = Number(/follows (\d+(?:\.\d+)?) ms after it/u.exec(told)?.[1]);
    expect(lag).toBeGreaterThan(470);
    expect(lag).toBeLessThan(530);
  });
  it("is told of the virtual car's own snap, and of nothing that is pressed slowly or jumps", () => {
    const circuit = model.circuits[0] as CircuitModel;
    const trace = traceOf(model, circuit, { key: "idle", stimulus: { kind: "snap" } }, [], {
      channels: [{ name: "maf:sig", red: "sig@sensor", black: "bat-" }],
      seconds: 2,
      rate: RATE,
      seed: 5,
      bits: 12,
    });
    expect(facts({ start: 0, rate: RATE, channels: trace.channels }).get("snap")).toMatch(/^maf:sig goes from/u);
    const slowly = (at: number): number => 0.6 + 3.4 * Math.min(1, Math.max(0, at - 0.5)) - 3.4 * Math.min(1, Math.max(0, at - 1.7));
    expect(facts(captureOf(RATE, { "tps:sig": taken(slowly, 6) })).has("snap")).toBe(false);
    const spike = (at: number): number => (at > 1 && at < 1.02 ? 4.9 : 1);
    expect(facts(captureOf(RATE, { "maf:sig": taken(spike, 7) })).has("snap")).toBe(false);
  });
});

describe("an idle that hunts", () => {
  it("shows with its ends and how often", () => {
    const course = (at: number): number => 1.1 + 0.1 * Math.sin((2 * Math.PI * at) / 1.25) + 0.02 * Math.sin(2 * Math.PI * 27 * at);
    expect(facts(captureOf(RATE, { "maf:sig": taken(course, 8, 10) })).get("hunts")).toMatch(
      /^maf:sig goes up and down between 1\.0\d and 1\.(19|2\d) V, once in 1\.[23] s\.$/u,
    );
    // The same while the engine stands is no idle.
    expect(facts(captureOf(RATE, { "maf:sig": taken(course, 8, 10) }), "stands").has("hunts")).toBe(false);
  });
  it("is not told of noise, of single strokes, of one push, or of what wanders", () => {
    for (let seed = 10; seed < 40; seed += 1) {
      const random = seededRandom(seed);
      let level = 1.1;
      const walk = Float64Array.from({ length: 10 * 500 }, () => {
        level += 0.0025 * random.normal() - 0.0005 * (level - 1.1);
        return level;
      });
      const strokes = Float64Array.from({ length: 10 * 500 }, (_, at) => 1.1 + 0.1 * Math.sin(at * 0.33) + 0.01 * random.normal());
      const noise = Float64Array.from({ length: 10 * 500 }, () => 1.1 + 0.05 * random.normal());
      const push = Float64Array.from({ length: 10 * 500 }, (_, at) => (at > 2000 && at < 3000 ? 1.4 : 1.1) + 0.01 * random.normal());
      expect([walk, strokes, noise, push].map((samples, at) => huntingOf(samples, 500, [0.003, 0.01, 0.05, 0.01][at] as number))).toEqual([
        null,
        null,
        null,
        null,
      ]);
    }
  });
});

describe("an inductive sensor's wave", () => {
  /** Volts grow with the speed, as a winding's do; one side of the wheel runs farther away. */
  const wave = (from: number, to: number, runout: number) => {
    const turns = (at: number): number => (from * at + ((to - from) * at * at) / 4) / 60;
    const rpm = (at: number): number => from + ((to - from) * at) / 2;
    const shape = alternating(turns, 60, [58, 59], 1);
    return taken((at) => shape(at) * 0.004 * rpm(at) * (1 + runout * Math.sin(2 * Math.PI * turns(at))), 50, 2, 50_000);
  };
  it("is told with its size at both ends of the speeds", () => {
    const told = facts(captureOf(50_000, { "vr:sig+": wave(300, 900, 0) })).get("amplitude") ?? "";
    const [, slow, at, fast, to] = /makes ([\d.]+) V peak to peak at (\d+) rev\/min and ([\d.]+) V at (\d+)\.$/u.exec(told) ?? [];
    expect(Number(slow) / Number(at)).toBeGreaterThan(0.0074);
    expect(Number(slow) / Number(at)).toBeLessThan(0.0086);
    expect(Number(fast) / Number(to)).toBeGreaterThan(0.0074);
    expect(Number(fast) / Number(to)).toBeLessThan(0.0086);
    expect(Number(to) / Number(at)).toBeGreaterThan(1.6);
  });
  it("is told with how its teeth differ where the gap is not the same all round", () => {
    expect(facts(captureOf(50_000, { "vr:sig+": wave(800, 800, 0.2) })).get("amplitude")).toMatch(
      /^vr:sig\+ makes [\d.]+ V peak to peak at (79|80)\d rev\/min; its teeth differ by (3[0-9]|4[0-4]) %\.$/u,
    );
    expect(facts(captureOf(50_000, { "vr:sig+": wave(800, 800, 0.02) })).get("amplitude")).toMatch(/ at (79|80)\d rev\/min\.$/u);
  });
});
