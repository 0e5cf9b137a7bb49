import { captureOf, rings, sampled, seededRandom } from "../../test/waveforms";
import { buildModel, type CircuitModel } from "../circuit";
import { analyseCapture, type Capture, togetherOf } from "./index";

const INSTRUMENT = { noise: 0.01, bits: 12, range: 20, offset: 0 } as const;
const models = buildModel([
  { id: "tps", family: "dual-track", with: { wires: 4 } },
  { id: "inj1", family: "solenoid-2w" },
  { id: "inj2", family: "solenoid-2w" },
  { id: "map", family: "pressure-3w" },
]);

function told(capture: Capture) {
  const circuitOf = (name: string): CircuitModel | null => models.circuits.find(({ id }) => id === name.split(":")[0]) ?? null;
  const { file } = analyseCapture(capture, { circuitOf, engine: "cranks" });
  return {
    facts: new Map((file.facts ?? []).map(({ code, sentence }) => [code, sentence])),
    codes: file.findings.map(({ code }) => code),
    findings: file.findings,
  };
}

const taken = (course: (seconds: number) => number, seed: number, seconds = 4, rate = 5000) => sampled(course, seconds, rate, seededRandom(seed), INSTRUMENT);
const sweep = (seconds: number): number => (seconds < 2 ? seconds / 2 : 2 - seconds / 2);

describe("two tracks of one sensor", () => {
  it("that are opposed make one sum, and one at half slope a ratio", () => {
    const one = taken((at) => 0.8 + 3.4 * sweep(at), 1);
    const opposed = told(captureOf(5000, { "tps:sig1": one, "tps:sig2": taken((at) => 4.2 - 3.4 * sweep(at), 2) }));
    expect(opposed.facts.get("tracks")).toMatch(/^tps:sig1 and tps:sig2 make (4\.99|5\.00|5\.01) V together, to 0\.0\d V, all the way\.$/u);
    const half = told(captureOf(5000, { "tps:sig1": one, "tps:sig2": taken((at) => 0.4 + 1.7 * sweep(at), 3) }));
    expect(half.facts.get("tracks")).toMatch(/^tps:sig2 is (0\.49\d|0\.50\d) times tps:sig1, to 0\.0\d V, all the way\.$/u);
    expect([opposed.codes, half.codes]).toEqual([[], []]);
  });
  it("that part where one is worn are found with their stretch", () => {
    // Worn at 55 to 60 % of the way up: the second track reads a fifth of a volt too little there.
    const worn = (at: number): number => {
      const place = sweep(at);
      return 0.4 + 1.7 * place - (place > 0.55 && place < 0.6 ? 0.2 : 0);
    };
    const { findings } = told(captureOf(5000, { "tps:sig1": taken((at) => 0.8 + 3.4 * sweep(at), 4), "tps:sig2": taken(worn, 5) }));
    const parted = findings.find(({ code }) => code === "tracks-part");
    expect(parted?.from).toBeGreaterThan(1.08);
    expect(parted?.from).toBeLessThan(1.12);
    expect((parted?.to ?? 0) - (parted?.from ?? 0)).toBeGreaterThan(0.08);
  });
  it("say nothing together where nobody moves them", () => {
    expect(
      togetherOf(
        taken(() => 0.8, 6),
        taken(() => 4.2, 7),
      ),
    ).toBeNull();
  });
});

describe("knock sensors that are tapped beside", () => {
  const KNOCK = buildModel([
    { id: "k1", family: "knock-2w" },
    { id: "k2", family: "knock-2w" },
  ]);
  const rung = (peak: number, seed: number): Float64Array => taken(rings([0.1, 0.35, 0.6], 6500, peak, 0.0012, 2.5), seed, 0.9, 100_000);
  const said = (channels: Readonly<Record<string, Float64Array>>): ReadonlyMap<string, string> => {
    const circuitOf = (name: string): CircuitModel | null => KNOCK.circuits.find(({ id }) => id === name.split(":")[0]) ?? null;
    const { file } = analyseCapture(captureOf(100_000, channels), { circuitOf, engine: "stands" });
    return new Map((file.facts ?? []).map(({ code, sentence }) => [code, sentence]));
  };
  it("ring so often, so far, so fast, and die away so soon", () => {
    const told = said({ "k1:sig": rung(0.8, 21) }).get("ring") ?? "";
    const [, times, peak, hertz, falls] =
      /^k1:sig rings (\d) times, by ([\d.]+) V to either side at (\d+) Hz, and falls to a third in ([\d.]+) ms\.$/u.exec(told) ?? [];
    expect([times, Number(hertz) > 6300, Number(hertz) < 6700]).toEqual(["3", true, true]);
    expect(Number(peak)).toBeGreaterThan(0.68);
    expect(Number(peak)).toBeLessThan(0.84);
    // 1.2 ms times the logarithm of three.
    expect(Number(falls)).toBeGreaterThan(1.1);
    expect(Number(falls)).toBeLessThan(1.6);
  });
  it("are compared where two of them ring", () => {
    const told = said({ "k1:sig": rung(0.4, 22), "k2:sig": rung(1, 23) }).get("rings-compared");
    expect(told).toMatch(/^k2:sig rings 2\.[3-7] times as far as k1:sig\.$/u);
    expect(said({ "k1:sig": rung(0.4, 24), "k2:sig": taken(() => 2.5, 25, 0.9, 100_000) }).has("rings-compared")).toBe(false);
  });
});

describe("a starter's current", () => {
  const dip = (at: number): number => 10.5 - 1.5 * Math.exp(-at / 0.1) + 0.3 * Math.sin(2 * Math.PI * 7 * at);
  it("that lifts the engine is told from a ground that is lost", () => {
    const battery = taken(dip, 8);
    const lifted = told(captureOf(5000, { "bat+": battery, "map:gnd": taken((at) => 0.08 * (12.6 - dip(at)), 9) }));
    expect(lifted.facts.get("block-lift")).toMatch(/^map:gnd rises to 0\.\d\d V as the battery falls/u);
    expect(lifted.facts.get("battery-dip")).toMatch(/^bat\+ falls to 9\.\d\d V, and mostly stands at 10\.\d\d V\.$/u);
    const lost = told(captureOf(5000, { "bat+": battery, "map:gnd": taken((at) => (at > 2 ? 4.6 : 0.03), 10) }));
    expect(lost.facts.has("block-lift")).toBe(false);
    expect(lost.codes).toContain("dropout");
  });
});

describe("windings that are driven", () => {
  /** Pulled low for 4 ms from each of some moments. */
  const pulsed =
    (starts: readonly number[]) =>
    (at: number): number =>
      starts.some((start) => at >= start && at < start + 0.004) ? 0.4 : 12;
  const every = (seconds: number, from: number, to: number): number[] => {
    const starts: number[] = [];
    for (let at = from; at < to; at += seconds) starts.push(at);
    return starts;
  };
  it("together at first and one after the other from then on are told with the moment", () => {
    const first = taken(pulsed(every(0.1, 0.05, 4)), 11, 4, 20_000);
    const second = taken(pulsed([...every(0.1, 0.05, 1.5), ...every(0.1, 1.6, 4)]), 12, 4, 20_000);
    const { facts, codes } = told(captureOf(20_000, { "inj1:ctl": first, "inj2:ctl": second }));
    expect(facts.get("fired-together")).toMatch(/^inj1:ctl and inj2:ctl are switched on at the same moment, until 1\.5\d s, then one after the other\.$/u);
    expect(facts.get("pulse-width")).toMatch(/is pulled low for (3\.9\d|4) ms at a time/u);
    expect(codes).toEqual([]);
  });
  it("one after the other all the time are not said to be together", () => {
    const { facts } = told(
      captureOf(20_000, { "inj1:ctl": taken(pulsed(every(0.1, 0.05, 4)), 13, 4, 20_000), "inj2:ctl": taken(pulsed(every(0.1, 0.1, 4)), 14, 4, 20_000) }),
    );
    expect(facts.has("fired-together")).toBe(false);
  });
});

it("a ring has no facts of its own: what stands out is said once", () => {
  const { facts } = told(captureOf(50_000, { something: sampled(rings([0.1], 6000, 0.5, 0.001, 1), 0.3, 50_000, seededRandom(15)) }));
  expect(facts.size).toBe(0);
});
