import { alternating, captureOf, sampled, seededRandom, toothed } from "../../test/waveforms";
import { buildModel, type CircuitModel } from "../circuit";
import { analyseCapture, type Capture } from "./index";

const of = (family: string, given: Record<string, number> = {}): CircuitModel => buildModel([{ id: "c", family, with: given }]).circuits[0] as CircuitModel;

function factsOf(capture: Capture, circuit: CircuitModel) {
  const { file } = analyseCapture(capture, { circuitOf: () => circuit, engine: "cranks" });
  return { file, sentences: (file.facts ?? []).map(({ sentence }) => sentence), codes: file.findings.map(({ code }) => code) };
}

/** Turns of a crank that the starter turns at a mean speed, slowed by compression so often a turn. */
function cranked(rpm: number, depth: number, perTurn: number) {
  const turn = (seconds: number): number => (rpm / 60) * seconds;
  return (seconds: number): number => 0.1 + turn(seconds) + (depth / (4 * Math.PI * perTurn)) * Math.sin(2 * Math.PI * perTurn * turn(seconds));
}

describe("the speed of a wheel", () => {
  it.each([
    [60, 2, 180, 0.3, 2],
    [36, 1, 240, 0.2, 3],
    [60, 2, 220, 0.25, 4],
  ])("of %i - %i teeth at %i rev/min is told, with how compression slows it", (teeth, missing, rpm, depth, perTurn) => {
    const absent = Array.from({ length: missing }, (_, index) => teeth - 1 - index);
    const samples = sampled(toothed(cranked(rpm, depth, perTurn), teeth, absent, 0.5, 0.1, 5), 3, 50_000, seededRandom(rpm), {
      noise: 0.02,
      bits: 8,
      range: 10,
      offset: 0,
    });
    const { file, sentences, codes } = factsOf(captureOf(50_000, { sig: samples }), of("hall-3w", { teeth, missing }));
    expect(codes).toEqual([]);
    const { speed } = file.channels[0] ?? {};
    const seen = speed?.rpm ?? [];
    // The speed swings by half the depth to each side of its mean.
    expect(Math.abs(Math.max(...seen) / (rpm * (1 + depth / 2)) - 1)).toBeLessThan(0.03);
    expect(Math.abs(Math.min(...seen) / (rpm * (1 - depth / 2)) - 1)).toBeLessThan(0.03);
    expect(seen.length).toBeLessThanOrEqual(300);
    expect(Math.abs(Number(/turns at (\d+)/u.exec(sentences[0] ?? "")?.[1]) / rpm - 1)).toBeLessThan(0.02);
    expect(Math.abs(Number(/slows it ([\d.]+) times a turn/u.exec(sentences[1] ?? "")?.[1]) - perTurn)).toBeLessThanOrEqual(0.11);
  });
  it("tells when an engine begins to run by itself", () => {
    // 200 rev/min for 1.2 s, then up to 900 within half a second.
    const turns = (seconds: number): number => {
      const since = Math.max(0, seconds - 1.2);
      const rise = Math.min(since, 0.5);
      return 0.3 + (200 / 60) * seconds + ((700 / 60) * rise * rise) / 1 + (since > 0.5 ? (700 / 60) * (since - 0.5) : 0);
    };
    const samples = sampled(toothed(turns, 36, [35], 0.5, 0.1, 5), 3, 50_000, seededRandom(2));
    const { sentences, codes } = factsOf(captureOf(50_000, { sig: samples }), of("hall-3w", { teeth: 36, missing: 1 }));
    expect(codes).toEqual([]);
    expect(sentences[0]).toMatch(/^sig: the engine runs by itself from 1\.[34]\d s: 2\d\d rev\/min before, (89|90)\d at the end\.$/u);
  });
  it("is not told of a wheel nobody knows the teeth of, nor of one that stands", () => {
    const unknown = sampled(
      toothed((seconds) => 4 * seconds, 4, [], 0.5, 0.1, 5),
      1,
      10_000,
      seededRandom(3),
    );
    const still = new Float64Array(10_000).fill(5);
    expect(factsOf(captureOf(10_000, { something: unknown }), of("hall-3w", { teeth: 36, missing: 1 })).sentences).toEqual([]);
    expect(factsOf(captureOf(10_000, { sig: still }), of("hall-3w", { teeth: 36, missing: 1 })).sentences).toEqual([]);
  });
});

describe("an inductive wheel's wires", () => {
  const taken = (way: 1 | -1) =>
    factsOf(
      captureOf(50_000, {
        "sig+": sampled(
          alternating((seconds) => 0.2 + 5 * seconds, 36, [35], way * 3),
          1,
          50_000,
          seededRandom(4),
          { noise: 0.02, bits: 12, range: 10, offset: 0 },
        ),
      }),
      of("vr-2w", { teeth: 36, missing: 1 }),
    );
  it("the other way round are seen in the wave beside its gap, and are no trouble by themselves", () => {
    expect(taken(1).sentences.filter((sentence) => sentence.includes("crosses"))).toEqual([]);
    const turned = taken(-1);
    expect(turned.sentences.find((sentence) => sentence.includes("crosses"))).toMatch(/^sig\+ crosses zero upwards in the middle of each tooth/u);
    expect(turned.codes).toEqual([]);
  });
});
