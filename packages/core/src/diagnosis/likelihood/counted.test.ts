import fc from "fast-check";
import { buildModel, type CircuitModel } from "../../circuit";
import type { ElectricalProbe } from "../../instruments";
import type { PredictionTable } from "../predictions/table";
import { type Circumstances, type Observation, steadyCircumstances } from "./observation";
import { logSlip } from "./slips";
import { WordWeigher } from "./words";

const CIRCUIT = buildModel([{ id: "ks", family: "knock-1w" }]).circuits[0] as CircuitModel;
/** What the module's data says of knock at idle, while a place is moved or not. */
function rings(place: string | null): ElectricalProbe {
  const setup = { key: "idle" as const, ...(place === null ? {} : { stimulus: { kind: "wiggle" as const, at: place } }) };
  return {
    kind: "electrical",
    meter: "scan",
    circuit: CIRCUIT,
    red: "sig@module",
    black: "bat-",
    setup,
    statistic: "mean",
    ac: "true-rms",
    coupling: "dc",
    range: null,
    fullScale: null,
    reads: null,
    unit: "taps",
    clamp: null,
  };
}
const HEARD = 0;
const QUIET = 1;
/** A table of cells that hear a ring with these probabilities. @param twins the sound cell of each; -1 for none */
function table(place: string | null, heard: readonly number[], twins: readonly number[] = heard.map(() => -1)): PredictionTable {
  return {
    probe: rings(place),
    wordNames: ["counts", "none"],
    numeric: false,
    slips: "none",
    ends: null,
    used: new Uint8Array(0),
    broad: 1,
    mean: new Float64Array(heard.length),
    noise: new Float64Array(heard.length),
    bent: new Float64Array(heard.length),
    jacobian: new Float64Array(0),
    words: Float64Array.from(heard.flatMap((share) => [share, 1 - share])),
    quiet: Int32Array.from(twins),
    slot: Int32Array.from(heard.map((_, cell) => cell)),
    brinks: null,
    rows: heard.length,
  };
}
const read = (word: number, of: PredictionTable, index: number): Observation => ({ id: `r${index}`, key: `taps ${index}`, table: of, number: null, word });

function weighed(observations: readonly Observation[], cell = 0, known: Circumstances = steadyCircumstances(2)) {
  const into = {
    slipped: new Float64Array(observations.length),
    absent: new Float64Array(observations.length),
    single: new Float64Array(observations.length),
  };
  return { log: new WordWeigher(observations, known).weigh(cell, null, into), ...into };
}

describe("the same ring asked for several times", () => {
  it("says little more of the part the second time than the first", () => {
    const once = weighed([read(HEARD, table(null, [0.5]), 0)]).log;
    const four = weighed([0, 1, 2, 3].map((index) => read(HEARD, table(null, [0.5]), index))).log;
    expect(four).toBeGreaterThan(once - 0.3);
    expect(four).toBeLessThan(once);
  });

  it("heard, then not, then heard, is seldom one part near what a module hears", () => {
    const words = [HEARD, QUIET, HEARD, QUIET, HEARD];
    const mixed = weighed(words.map((word, index) => read(word, table(null, [0.5]), index))).log;
    const alike = weighed(words.map((_, index) => read(HEARD, table(null, [0.5]), index))).log;
    expect(alike - mixed).toBeGreaterThan(Math.log(20));
  });

  it("a contact that opens when its plug is moved explains what a sound part hardly does", () => {
    // Cell 0 is sound; cell 1 is a contact that opens only while its plug is moved.
    const still = table(null, [0.5, 0.5], [-1, 0]);
    const moved = table("sensor", [0.5, 0], [-1, 0]);
    const readings = [read(HEARD, still, 0), read(HEARD, still, 1), read(QUIET, moved, 2), read(HEARD, still, 3), read(QUIET, moved, 4)];
    const known = { ...steadyCircumstances(2), sometimes: Uint8Array.of(0, 1) };
    expect(weighed(readings, 1, known).log - weighed(readings, 0, known).log).toBeGreaterThan(Math.log(10));
  });

  it("is the same in any order, sums up to what its readings say one after the other, and holds every share between nothing and all", () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(HEARD, QUIET), { minLength: 1, maxLength: 7 }), fc.double({ min: 0.01, max: 0.99, noNaN: true }), (words, heard) => {
        const of = table(null, [heard]);
        const [forward, backward] = [words, [...words].reverse()].map((list) => weighed(list.map((word, index) => read(word, of, index))));
        expect(forward?.log).toBeCloseTo(backward?.log ?? Number.NaN, 9);
        expect(forward?.single.reduce((sum, one) => sum + one, 0)).toBeCloseTo(forward?.log ?? Number.NaN, 9);
        for (const share of forward?.slipped ?? []) {
          expect(share).toBeGreaterThan(0);
          expect(share).toBeLessThan(1);
        }
      }),
    );
  });

  it("is a probability: all that several readings may show, slips apart, sums to one", () => {
    const of = table(null, [0.3]);
    const silentSlips = [HEARD, QUIET].flatMap((one) => [HEARD, QUIET].map((two) => [one, two]));
    const total = silentSlips.reduce((sum, words) => {
      const observations = words.map((word, index) => ({ ...read(word, of, index), slipShare: 1e-12 }));
      return sum + Math.exp(weighed(observations).log);
    }, 0);
    expect(total).toBeCloseTo(1, 6);
    expect(logSlip({ ...read(HEARD, of, 0), slipShare: 1e-12 })).toBeLessThan(-25);
  });

  it("other words are each for themselves", () => {
    const lamp = { ...table(null, [0.4]), probe: { ...rings(null), unit: "%" as const } };
    const two = weighed([0, 1].map((index) => read(HEARD, lamp, index))).log;
    expect(two).toBeCloseTo(2 * weighed([read(HEARD, lamp, 0)]).log, 12);
  });
});
