import { buildModel, type CircuitModel } from "../../circuit";
import type { ElectricalProbe } from "../../instruments";
import type { PredictionTable } from "../predictions/table";
import { BrinkStates } from "./brink-states";
import { learn, usedAt } from "./learn";
import { type Observation, steadyCircumstances } from "./observation";
import { weigh } from "./weigh";

const CIRCUIT = buildModel([{ id: "x", family: "oxygen-narrow" }]).circuits[0] as CircuitModel;
type Key = "on" | "idle";

/** A probe that shows one level where the electronics work and another where they starve. Row 0 is solved, row 1 the other state. */
function table(key: Key, works: number, starves: number, share: number): PredictionTable {
  const probe: ElectricalProbe = {
    kind: "electrical",
    meter: "volts-dc",
    circuit: CIRCUIT,
    red: "bat+",
    black: "bat-",
    setup: { key },
    statistic: "mean",
    ac: "true-rms",
    coupling: "dc",
    range: null,
    fullScale: null,
    reads: null,
    unit: null,
    clamp: null,
  };
  return {
    probe,
    wordNames: [],
    numeric: true,
    slips: "none",
    ends: null,
    used: new Uint8Array(0),
    broad: 1 / 16,
    mean: Float64Array.of(works, starves),
    noise: Float64Array.of(1e-3, 1e-3),
    bent: Float64Array.of(0, 0),
    lasting: Float64Array.of(0, 0),
    jacobian: Float64Array.of(0.02, 0.02),
    words: new Float64Array(0),
    quiet: Int32Array.of(-1),
    slot: Int32Array.of(0),
    brinks: new Map([[0, { slot: 1, share }]]),
    swing: null,
    rows: 2,
  };
}
const read = (id: string, value: number, key: Key, [works, starves]: readonly [number, number], share = 0.35): Observation => ({
  id,
  key: id,
  table: table(key, works, starves, share),
  number: value,
  word: -1,
});
const LOW = [0.12, 0.35] as const;
const HIGH = [0.85, 0.57] as const;

describe("electronics on the brink", () => {
  it("are in one state for all readings of one key, and pay for it once", () => {
    const starved = [read("a", 0.35, "idle", LOW), read("b", 0.57, "idle", HIGH), read("c", 0.36, "idle", LOW)];
    const one = weigh(starved.slice(0, 1), 1, 1).logLikelihood[0] as number;
    const all = weigh(starved, 1, 1).logLikelihood[0] as number;
    const sure = weigh(
      starved.map((reading) => ({ ...reading, table: { ...reading.table, slot: Int32Array.of(1), brinks: null } })),
      1,
      1,
    ).logLikelihood[0] as number;
    expect(all).toBeCloseTo(sure + Math.log(0.35), 2);
    expect(one).toBeLessThan(all);
  });

  it("are never half of each: a low of the one state and a high of the other are no recording of any car", () => {
    const mixed = weigh([read("a", 0.12, "idle", LOW), read("b", 0.57, "idle", HIGH)], 1, 1);
    const whole = weigh([read("a", 0.12, "idle", LOW), read("b", 0.85, "idle", HIGH)], 1, 1);
    expect(whole.logLikelihood[0] as number).toBeGreaterThan((mixed.logLikelihood[0] as number) + 4);
  });

  it("may be in another state with another key", () => {
    const { logLikelihood, absent } = weigh([read("a", 0.12, "on", LOW), read("b", 0.57, "idle", HIGH)], 1, 1);
    expect(logLikelihood[0] as number).toBeGreaterThan(Math.log(0.65 * 0.35));
    expect(Array.from(absent).map((share) => share > 0.5)).toEqual([false, true]);
  });

  it("say nothing where nothing stands on the brink", () => {
    const sure = read("a", 0.12, "idle", LOW);
    const states = new BrinkStates([{ ...sure, table: { ...sure.table, brinks: null } }]);
    expect(
      states.settle(
        () => 0,
        () => 0,
      ),
    ).toBe(0);
    expect(states.otherShare(0)).toBe(0);
  });
});

describe("a fault that shows while something is moved", () => {
  it("teaches nothing by a try that stayed quiet", () => {
    // Row 0 is the fault shown, 5 V; row 1 the sound circuit's 0.6 V, the healthy cell 1.
    const moved = (id: string, value: number): Observation => {
      const { table: made } = read(id, value, "on", [5, 0.6]);
      return { id, key: id, number: value, word: -1, table: { ...made, brinks: null, slot: Int32Array.of(0, 1), quiet: Int32Array.of(1, -1) } };
    };
    const observations = [moved("shown", 5.01), moved("quiet", 0.61)];
    const known = { ...steadyCircumstances(2), sometimes: Uint8Array.of(1, 0) };
    const evidence = weigh(observations, 2, 1, known);
    expect(evidence.absent[0] as number).toBeLessThan(0.01);
    expect(evidence.absent[1] as number).toBeGreaterThan(0.99);
    const used = usedAt(evidence, observations, 0);
    expect(used.map(({ id }) => id)).toEqual(["shown"]);
    expect(Math.abs(learn(used, 0, 1).mean[0] as number)).toBeLessThan(1);
  });
});
