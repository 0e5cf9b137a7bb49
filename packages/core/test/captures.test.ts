import type { CaptureFile, Circuit } from "@fox-lamp/language";
import { buildModel, type CircuitModel } from "../src/circuit";
import { analyseCapture, type Capture } from "../src/signals";
import { alternating, between, captureOf, type Instrument, rings, sampled, seededRandom, toothed } from "./waveforms";

// Courses made by hand, outside the virtual car, with the truth known to each: what the analysis has to find, and what it must not.

const circuit = (family: string, given: Circuit["with"] = {}): CircuitModel => buildModel([{ id: "c", family, with: given }]).circuits[0] as CircuitModel;
const analysed = (capture: Capture, of: CircuitModel, known?: CaptureFile): CaptureFile => analyseCapture(capture, { circuitOf: () => of, known }).file;
const first = (file: CaptureFile) => file.channels[0] as CaptureFile["channels"][number];
const near = (value: number | null, wanted: number, within: number): void => {
  expect(Math.abs((value ?? Number.NaN) - wanted)).toBeLessThanOrEqual(within);
};
const quiet = (file: CaptureFile): void => {
  expect(file.findings).toEqual([]);
  for (const { dropouts, glitches } of file.channels) expect([...dropouts, ...glitches]).toEqual([]);
  expect(file.firstToFail).toBeNull();
};

const SEEDS = Array.from({ length: 6 }, (_, index) => index + 1);
const instrumentOf = (seed: number, range = 10): Instrument => {
  const random = seededRandom(seed * 7);
  return { noise: between(random, 0, 0.05), bits: ([8, 12, null] as const)[seed % 3] ?? null, range, offset: between(random, -0.1, 0.1) };
};

describe("a toothed wheel past a hall sensor", () => {
  const made = (seed: number) => {
    const random = seededRandom(seed);
    const [teeth, missing] = (
      [
        [60, 2],
        [36, 1],
        [12, 0],
        [36, 2],
      ] as const
    )[seed % 4] as readonly [number, number];
    const rpm = between(random, 200, 3000);
    const rate = Math.max((20 * teeth * rpm) / 60, 10_000);
    const turn = random.uniform();
    const duty = between(random, 0.3, 0.7);
    const absent = Array.from({ length: missing }, (_, index) => teeth - 1 - index);
    const turns = (seconds: number): number => turn + (seconds * rpm) / 60;
    return { random, teeth, missing, rpm, rate, absent, turns, duty, seconds: 0.8, tooth: 60 / rpm / teeth, of: circuit("hall-3w", { teeth, missing }) };
  };
  const edgesIn = (course: (seconds: number) => number, seconds: number, rate: number): number => {
    let count = 0;
    for (let at = 1; at < seconds * rate; at += 1) if (course(at / rate) > 2.5 !== course((at - 1) / rate) > 2.5) count += 1;
    return count;
  };
  it.each(SEEDS)("is read to within its limits and accused of nothing, seed %i", (seed) => {
    const { random, teeth, missing, rpm, rate, absent, turns, duty, seconds, of } = made(seed);
    const instrument = instrumentOf(seed);
    const course = toothed(turns, teeth, absent, duty, 0.1, 5);
    const samples = sampled(course, seconds, rate, random, instrument);
    const file = analysed(captureOf(rate, { sig: samples }), of);
    const channel = first(file);
    quiet(file);
    expect(channel.kind).toBe("square");
    expect(channel.edges).toBe(edgesIn(course, seconds, rate));
    near((channel.frequencyHz ?? 0) / ((teeth * rpm) / 60), 1, 0.01);
    near(channel.low, 0.1 + instrument.offset, 0.1);
    near(channel.high, 5 + instrument.offset, 0.1);
    const above = Array.from({ length: Math.round(seconds * rate) }, (_, at) => course(at / rate) > 2.5).filter(Boolean).length;
    near(channel.duty, (100 * above) / (seconds * rate), 1.5);
    expect(channel.missing.every(({ count, designed }) => designed && count === missing)).toBe(true);
    if (missing > 0) near(channel.missing.length, (seconds * rpm) / 60, 1);
  });
  it.each(SEEDS)("shows a broken tooth at every turn, told from the gap that belongs to it, seed %i", (seed) => {
    const { random, teeth, rpm, rate, absent, turns, duty, of } = made(seed);
    const broken = 3 + Math.floor(between(random, 0, teeth - 9));
    const seconds = Math.max(0.5, (60 / rpm) * 4);
    const file = analysed(captureOf(rate, { sig: sampled(toothed(turns, teeth, [...absent, broken], duty, 0.1, 5), seconds, rate, random) }), of);
    const found = first(file).missing.filter(({ designed }) => !designed);
    expect(found.length).toBeGreaterThanOrEqual(2);
    expect(found.every(({ count }) => count === 1)).toBe(true);
    expect(first(file).dropouts).toEqual([]);
    expect(file.findings.map(({ code }) => code)).toEqual(["missing-teeth"]);
  });
  it.each(SEEDS)("that stands high, low or between for a while is a dropout with its ends, seed %i", (seed) => {
    const { random, teeth, rate, absent, turns, duty, tooth, of, seconds } = made(seed);
    const [volts, level] = (
      [
        [0.1, "low"],
        [5, "high"],
        [2.4, "mid"],
      ] as const
    )[seed % 3] as readonly [number, string];
    const from = between(random, 0.2, 0.4);
    const to = from + between(random, 0.05, 0.15);
    const clean = toothed(turns, teeth, absent, duty, 0.1, 5);
    const file = analysed(
      captureOf(rate, { sig: sampled((at) => (at >= from && at < to ? volts : clean(at)), seconds, rate, random, instrumentOf(seed)) }),
      of,
    );
    const { dropouts } = first(file);
    expect(dropouts).toHaveLength(1);
    expect(dropouts[0]?.level).toBe(level);
    // Before the first edge that does not come nobody can know: half a level's time at most.
    near(dropouts[0]?.from ?? null, from, Math.max(0.003, 0.4 * tooth));
    near(dropouts[0]?.to ?? null, to, Math.max(0.003, 0.4 * tooth));
  });
  it("is told from an engine that starts and one that stops", () => {
    const [teeth, rate] = [36, 20_000];
    const starting = (seconds: number): number => 0.2 + (seconds < 0.3 ? 0 : 2.5 * (seconds - 0.3) ** 2);
    const stopping = (seconds: number): number => 0.2 + 4 * Math.min(seconds, 0.8) - 2.5 * Math.min(seconds, 0.8) ** 2;
    for (const turns of [starting, stopping]) {
      const file = analysed(
        captureOf(rate, { sig: sampled(toothed(turns, teeth, [35], 0.5, 0.1, 5), 1.6, rate, seededRandom(1)) }),
        circuit("hall-3w", { teeth, missing: 1 }),
      );
      expect(first(file).dropouts).toEqual([]);
    }
  });
});

describe("an inductive sensor", () => {
  it.each(SEEDS)("is read by its crossings, its gap where it belongs, seed %i", (seed) => {
    const random = seededRandom(seed);
    const [teeth, missing] = (
      [
        [60, 2],
        [36, 1],
        [48, 0],
      ] as const
    )[seed % 3] as readonly [number, number];
    const rpm = between(random, 150, 1200);
    const rate = Math.max(20_000, (30 * teeth * rpm) / 60);
    const [peak, rest, turn] = [0.006 * rpm, seed % 2 === 0 ? 0 : 2.5, random.uniform()];
    const absent = Array.from({ length: missing }, (_, index) => teeth - 1 - index);
    const course = alternating((at) => turn + (at * rpm) / 60, teeth, absent, peak, rest);
    const instrument = { ...instrumentOf(seed, Math.max(2, 1.2 * peak + rest)), noise: 0.02 };
    const file = analysed(captureOf(rate, { "sig+": sampled(course, 1, rate, random, instrument) }), circuit("vr-2w", { teeth, missing }));
    const channel = first(file);
    quiet(file);
    expect(channel.kind).toBe("sine");
    near((channel.frequencyHz ?? 0) / ((teeth * rpm) / 60), 1, 0.01);
    near(channel.high, rest + peak + instrument.offset, 0.1);
    near(channel.low, rest - peak + instrument.offset, 0.1);
    expect(channel.missing.every(({ designed }) => designed)).toBe(true);
    if (missing === 0) return;
    near(channel.missing.length, rpm / 60, 1);
    // The middle of the gap, in turns: the last teeth of the wheel.
    const middle = (channel.missing[0]?.t ?? 0) * (rpm / 60) + turn;
    near((((middle - (teeth - missing / 2) / teeth) % 1) + 1.5) % 1, 0.5, 1 / teeth);
  });
});

describe("a knock sensor", () => {
  it.each(SEEDS)("rings as often and as fast as it was tapped, seed %i", (seed) => {
    const random = seededRandom(seed);
    const hertz = between(random, 4500, 15_000);
    const rate = between(random, 8, 25) * hertz;
    const starts = [0.06, 0.31, 0.55].map((at) => at + between(random, 0, 0.05));
    const course = rings(starts, hertz, between(random, 0.15, 1.2), between(random, 0.0008, 0.003), seed % 2 === 0 ? 0 : 2.5);
    const file = analysed(captureOf(rate, { sig: sampled(course, 0.75, rate, random, { noise: 0.008, bits: 12, range: 5, offset: 0 }) }), circuit("knock-2w"));
    const { bursts, kind } = first(file);
    expect(kind).toBe("ringing");
    expect(bursts).toHaveLength(3);
    bursts.forEach((burst, index) => {
      near((burst.hz ?? 0) / hertz, 1, 0.03);
      near(burst.t, starts[index] as number, 0.001);
    });
  });
  it("at rest is steady", () => {
    const file = analysed(
      captureOf(50_000, { sig: sampled(() => 2.5, 0.5, 50_000, seededRandom(3), { noise: 0.01, bits: 8, range: 5, offset: 0 }) }),
      circuit("knock-2w"),
    );
    expect(first(file)).toMatchObject({ kind: "steady", bursts: [] });
  });
});

describe("a slow signal", () => {
  const triangle = (period: number) => (at: number) => {
    const share = at / period - Math.floor(at / period);
    return 0.6 + 3.8 * (share < 0.5 ? 2 * share : 2 - 2 * share);
  };
  it.each(SEEDS)("is smooth, or shows where its track is worn, seed %i", (seed) => {
    const random = seededRandom(seed);
    const rate = 10 ** between(random, 3, 4.2);
    const course = triangle(between(random, 1, 2));
    const of = circuit("potentiometer-3w");
    const clean = analysed(captureOf(rate, { sig: sampled(course, 4, rate, random, instrumentOf(seed)) }), of);
    quiet(clean);
    expect(first(clean).kind).toBe("sweep");
    near(first(clean).low, 0.6 + instrumentOf(seed).offset, 0.1);
    near(first(clean).high, 4.4 + instrumentOf(seed).offset, 0.1);
    const from = between(random, 1, 2);
    const to = from + between(random, 0.01, 0.06);
    const volts = course(from) > 2.5 ? 0.02 : 4.98;
    const worn = analysed(captureOf(rate, { sig: sampled((at) => (at >= from && at < to ? volts : course(at)), 4, rate, random, instrumentOf(seed)) }), of);
    expect(first(worn).dropouts).toHaveLength(1);
    near(first(worn).dropouts[0]?.from ?? null, from, 0.003);
    near(first(worn).dropouts[0]?.to ?? null, to, 0.003);
    expect(first(worn).dropouts[0]?.level).toBe(volts > 2.5 ? "high" : "low");
    const spiked = analysed(captureOf(rate, { sig: sampled((at) => course(at) - (at >= from && at < from + 1.5 / rate ? 0.9 : 0), 4, rate, random) }), of);
    expect(first(spiked).glitches).toHaveLength(1);
  });
  it("of an air-flow meter has the humps of a snap, first and second", () => {
    const course = (at: number): number => 1 + 2.2 * Math.exp(-(((at - 0.6) / 0.05) ** 2)) + 3 * Math.exp(-(((at - 1.1) / 0.2) ** 2));
    const { peaks } = first(analysed(captureOf(5000, { sig: sampled(course, 2, 5000, seededRandom(1), instrumentOf(2)) }), circuit("maf-voltage")));
    expect(peaks).toHaveLength(2);
    near(peaks[0]?.t ?? null, 0.6, 0.01);
    near(peaks[1]?.t ?? null, 1.1, 0.02);
    near(peaks[1]?.volts ?? null, 4 + instrumentOf(2).offset, 0.1);
  });
});

describe("an oxygen sensor", () => {
  it.each(SEEDS)("switches as often as it crosses 0.45 V, seed %i", (seed) => {
    const random = seededRandom(seed);
    const [rate, hertz] = [10 ** between(random, 2.7, 4), between(random, 0.5, 2.5)];
    const soft = between(random, 0.02, 0.12);
    const course = (at: number): number => {
      const phase = (at * hertz + 0.9) % 1;
      const up = 1 / (1 + Math.exp((-8 * (phase - 0.15)) / soft));
      return 0.1 + 0.75 * (up - 1 / (1 + Math.exp((-8 * (phase - 0.65)) / soft)));
    };
    let crossings = 0;
    for (let at = 1; at < 6 * rate; at += 1) if (course(at / rate) > 0.45 !== course((at - 1) / rate) > 0.45) crossings += 1;
    const file = analysed(captureOf(rate, { sig: sampled(course, 6, rate, random, { noise: 0.01, bits: 12, range: 2, offset: 0 }) }), circuit("oxygen-narrow"));
    quiet(file);
    expect(first(file).switches).toBe(crossings);
  });
});

describe("several channels", () => {
  it.each(SEEDS)("say which went first, seed %i", (seed) => {
    const random = seededRandom(seed);
    const rate = 10 ** between(random, 3, 4.3);
    const [from, to] = [between(random, 0.4, 0.8), between(random, 0.9, 1.2)];
    const lost = (at: number, lag: number): boolean => at >= from + lag && at < to;
    const file = analysed(
      captureOf(rate, {
        sig: sampled((at) => (lost(at, 0.001) ? 0.5 : 2.3), 2, rate, random, instrumentOf(seed)),
        gnd: sampled(() => 0.03, 2, rate, random, instrumentOf(seed)),
        ref: sampled((at) => (lost(at, 0) ? 1.2 : 5), 2, rate, random, instrumentOf(seed)),
      }),
      circuit("potentiometer-3w"),
    );
    expect(file.firstToFail).toBe("ref");
    near(file.channels[2]?.dropouts[0]?.from ?? null, from, 0.003);
    near(file.channels[2]?.dropouts[0]?.to ?? null, to, 0.003);
    expect(file.channels[1]?.dropouts).toEqual([]);
  });
  it.each(SEEDS)("of cam and crank give the cam's degrees, and how far it has moved, seed %i", (seed) => {
    const random = seededRandom(seed);
    const rpm = between(random, 200, 2500);
    const [rate, seconds] = [50_000, Math.max(0.4, 600 / rpm)];
    const turn = Math.floor(2 * random.uniform()) + between(random, 0.05, 0.9);
    const pattern = [30, 75, 210, 260, 400, 470, 560, 690];
    const shift = between(random, -15, 15);
    const cam = (moved: number) => (at: number) => {
      const degrees = (((360 * (turn + (at * rpm) / 60) - moved) % 720) + 720) % 720;
      return pattern.filter((edge) => edge <= degrees).length % 2 === 1 ? 5 : 0.1;
    };
    const of = circuit("hall-3w", { teeth: 60, missing: 2 });
    const crank = toothed((at) => turn + (at * rpm) / 60, 60, [58, 59], 0.5, 0.1, 5);
    const captured = (moved: number, known?: CaptureFile): CaptureFile =>
      analysed(
        captureOf(rate, {
          crank: sampled(crank, seconds, rate, random, instrumentOf(seed)),
          cam: sampled(cam(moved), seconds, rate, random, instrumentOf(seed + 1)),
        }),
        of,
        known,
      );
    const known = captured(0);
    const began = (Math.ceil(turn) % 2) * 360;
    const wanted = pattern.map((edge) => (edge + began) % 720).sort((a, b) => a - b);
    expect(known.camCrank.degrees).toHaveLength(8);
    known.camCrank.degrees.forEach((degrees, index) => {
      near(degrees, wanted[index] as number, 1.5);
    });
    expect(known.camCrank.shiftDegrees).toBeNull();
    near(captured(shift, known).camCrank.shiftDegrees, shift, 1.5);
  });
});
