import fc from "fast-check";
import { buildModel, type CircuitModel } from "../../circuit";
import { COUNTED, type ElectricalProbe } from "../../instruments";
import type { PredictionTable } from "../predictions/table";
import { type Circumstances, type Observation, steadyCircumstances } from "./observation";
import { logSlip } from "./slips";
import { weigh } from "./weigh";

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

/** The one shared variable: how hard this part rings, ln volts, and what each ring brings anew. */
const PART = 1.3;
const ANEW = 0.4;

function plain(cells: number, twins: readonly number[]): PredictionTable {
  return {
    probe: rings(null),
    wordNames: [],
    numeric: true,
    slips: "none",
    ends: null,
    used: Uint8Array.of(1),
    broad: 1 / 8,
    mean: new Float64Array(cells),
    noise: new Float64Array(cells).fill(ANEW ** 2),
    bent: new Float64Array(cells),
    lasting: new Float64Array(cells),
    jacobian: new Float64Array(cells).fill(PART),
    words: new Float64Array(0),
    quiet: Int32Array.from(twins),
    slot: Int32Array.from({ length: cells }, (_, cell) => cell),
    brinks: null,
    swing: null,
    rows: cells,
  };
}

/**
 * Whether each cell's ring is heard.
 * @param above by how much it is larger than wanted, ln volts; null where nothing rings
 * @param twins the sound cell of each; -1 for none
 */
function table(place: string | null, above: readonly (number | null)[], twins: readonly number[] = above.map(() => -1)): PredictionTable {
  const all = plain(above.length, twins);
  const swing: PredictionTable = {
    ...all,
    ends: COUNTED,
    mean: Float64Array.from(above, (level) => level ?? -7),
    jacobian: Float64Array.from(above, (level) => (level === null ? 0 : PART)),
  };
  return { ...all, probe: rings(place), wordNames: ["counts", "none"], numeric: false, words: new Float64Array(2 * above.length).fill(0.5), swing };
}

/** A ring that was measured, ln volts above what a module wants. */
const measured = (level: number, of: PredictionTable, index: number): Observation => ({
  id: `r${index}`,
  key: `volts ${index}`,
  table: of,
  number: level,
  word: -1,
});
const read = (word: number, of: PredictionTable, index: number): Observation => ({ id: `r${index}`, key: "taps", table: of, number: null, word });

function weighed(observations: readonly Observation[], cell = 0, known: Circumstances = steadyCircumstances(observations[0]?.table.rows ?? 1)) {
  const cells = observations[0]?.table.rows ?? 1;
  const { logLikelihood, slipped } = weigh(observations, cells, 1, known);
  return { log: logLikelihood[cell], slipped: [...slipped.slice(cell * observations.length, (cell + 1) * observations.length)] };
}

describe("whether a module counts what hangs on how large it is", () => {
  it("says little more of the part the second time than the first", () => {
    const once = weighed([read(HEARD, table(null, [0]), 0)]).log;
    const four = weighed([0, 1, 2, 3].map((index) => read(HEARD, table(null, [0]), index))).log;
    expect(four).toBeGreaterThan(once - 0.7);
    expect(four).toBeLessThan(once);
  });

  it("heard, then not, then heard, is seldom one part near what a module hears", () => {
    const words = [HEARD, QUIET, HEARD, QUIET, HEARD];
    const mixed = weighed(words.map((word, index) => read(word, table(null, [0]), index))).log;
    const alike = weighed(words.map((_, index) => read(HEARD, table(null, [0]), index))).log;
    expect(alike - mixed).toBeGreaterThan(Math.log(20));
  });

  it("a contact that opens when its plug is moved explains what a sound part hardly does", () => {
    // Cell 0 is sound; cell 1 is a contact that opens only while its plug is moved.
    const still = table(null, [0, 0], [-1, 0]);
    const moved = table("sensor", [0, null], [-1, 0]);
    const readings = [read(HEARD, still, 0), read(HEARD, still, 1), read(QUIET, moved, 2), read(HEARD, still, 3), read(QUIET, moved, 4)];
    const known = { ...steadyCircumstances(2), sometimes: Uint8Array.of(0, 1) };
    expect(weighed(readings, 1, known).log - weighed(readings, 0, known).log).toBeGreaterThan(Math.log(10));
  });

  it("not heard although it was measured well above what is wanted speaks against all that hear; measured below, against none", () => {
    // Cell 0 hears what rings at its pin, cell 1 is deaf.
    const volts = plain(2, [-1, -1]);
    const words = table(null, [0, null]);
    const against = (level: number): number => {
      const readings = [measured(level, volts, 0), measured(level, volts, 1), read(QUIET, words, 2)];
      return weighed(readings, 1).log - weighed(readings, 0).log;
    };
    const alone = weighed([read(QUIET, words, 0)], 1).log - weighed([read(QUIET, words, 0)], 0).log;
    expect(against(2)).toBeGreaterThan(Math.log(20));
    expect(against(2)).toBeGreaterThan(alone + 1.5);
    expect(Math.abs(against(-2))).toBeLessThan(0.1);
  });

  it("what was heard says how large it is: a number far below what is heard is doubted more beside it", () => {
    const volts = plain(1, [-1]);
    const doubtOf = (words: readonly number[]): number =>
      weighed([measured(-2.5, volts, 0), ...words.map((word, index) => read(word, table(null, [0]), index + 1))]).slipped[0] as number;
    expect(doubtOf([HEARD, HEARD, HEARD])).toBeGreaterThan(3 * doubtOf([QUIET, QUIET, QUIET]));
  });

  it("is the same in any order, and holds every share between nothing and all", () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(HEARD, QUIET), { minLength: 1, maxLength: 5 }), fc.double({ min: -2, max: 2, noNaN: true }), (words, above) => {
        const of = table(null, [above]);
        const [forward, backward] = [words, [...words].reverse()].map((list) => weighed(list.map((word, index) => read(word, of, index))));
        expect(forward?.log).toBeCloseTo(backward?.log ?? Number.NaN, 6);
        for (const share of forward?.slipped ?? []) {
          expect(share).toBeGreaterThan(0);
          expect(share).toBeLessThan(1);
        }
      }),
    );
  });

  it("is a probability: all that several readings may show, slips apart, sums to one", () => {
    const of = table(null, [0.7]);
    const total = [HEARD, QUIET]
      .flatMap((one) => [HEARD, QUIET].map((two) => [one, two]))
      .reduce((sum, words) => {
        const observations = words.map((word, index) => ({ ...read(word, of, index), slipShare: 1e-12 }));
        const { log } = weighed(observations);
        return sum + Math.exp(log - 2 * Math.log(0.97));
      }, 0);
    // Sides are taken one beside the other, by their moments: near to exact.
    expect(Math.abs(total - 1)).toBeLessThan(0.03);
    expect(logSlip({ ...read(HEARD, of, 0), slipShare: 1e-12 })).toBeLessThan(-25);
  });

  it("another word is answered once by all readings of the same leads, and by each of other leads for itself", () => {
    const lamp = (red: string) => ({ ...table(null, [0.4]), probe: { ...rings(null), unit: "%" as const, red }, swing: null });
    const one = weighed([read(HEARD, lamp("sig@sensor"), 0)]).log;
    const of = (...leads: string[]): number => weighed(leads.map((red, index) => read(HEARD, lamp(red), index))).log;
    expect(of("sig@sensor", "sig@module")).toBeCloseTo(2 * one, 12);
    // What a slip makes of it is still each one's own.
    expect(of("sig@sensor", "sig@sensor") - of("sig@sensor", "sig@module")).toBeGreaterThan(0.5);
  });
});
