import fc from "fast-check";
import { buildModel } from "../../circuit";
import { type ConverterEnds, type ElectricalProbe, probeOf } from "../../instruments";
import { logNormalDensity, normalCdf } from "../../numeric";
import { emptyTable, type PredictionTable } from "../predictions/table";
import { cutOff } from "./cut-off";
import { learn } from "./learn";
import type { Observation } from "./observation";
import { ANY_NUMBER, SLIP_SHARE } from "./slips";
import { weigh } from "./weigh";

const MODEL = buildModel([{ id: "x", family: "maf-voltage" }]);
const probe = probeOf(MODEL, { circuit: "x", meter: "scan", red: "sig@module" }, "m") as ElectricalProbe;
const ENDS: ConverterEnds = { low: 0.02, high: 4.98, sigma: 0.015 };
const BROAD = 1 / 5.5;
/** The noise of a reading, volts squared, and of a level behind a converter. */
const NOISE = 0.0004;

function observation(id: string, mean: number, slope: number, shown: number, ends: ConverterEnds | null): Observation {
  const table: PredictionTable = {
    ...emptyTable(probe, 1),
    broad: BROAD,
    ends,
    mean: Float64Array.of(mean),
    noise: Float64Array.of(NOISE),
    jacobian: Float64Array.of(slope),
    used: Uint8Array.of(1),
    rows: 1,
  };
  table.slot[0] = 0;
  return { id, key: id, table, number: shown, word: -1 };
}

/** What was read: a level, and whether an end of the converter or the level itself is shown. */
interface Read {
  readonly shown: number;
  readonly ended: boolean;
}

/** log P(readings) of one shared level by adding over it in small steps; every reading may be slipped. */
function byAdding(mean: number, slope: number, reads: readonly Read[]): number {
  const step = 0.002;
  let sum = 0;
  for (let z = -9; z <= 9; z += step) {
    const level = mean + slope * z;
    const product = reads.reduce((so, { shown, ended }) => {
      const beyond = normalCdf((shown > 2.5 ? level - ENDS.high : ENDS.low - level) / Math.sqrt(NOISE)) / (ENDS.sigma * Math.sqrt(2 * Math.PI));
      const density = ended ? beyond : Math.exp(logNormalDensity(shown, level, NOISE));
      return so * ((1 - SLIP_SHARE) * density + SLIP_SHARE * ANY_NUMBER * BROAD);
    }, 1);
    sum += step * Math.exp(logNormalDensity(z, 0, 1)) * product;
  }
  return Math.log(sum);
}

function weighed(mean: number, slope: number, reads: readonly Read[]): number {
  const all = reads.map(({ shown, ended }, at) => observation(`r${at}`, mean, slope, shown, ended ? ENDS : null));
  return weigh(all, 1, 1).logLikelihood[0] ?? Number.NaN;
}

const TOP: Read = { shown: 5, ended: true };
const BOTTOM: Read = { shown: 0, ended: true };

describe("a reading at an end of the converter", () => {
  it("is as likely as the level is to lie there or beyond, however wide it is: 5 V from a return that floats at 3.7 V, give or take four", () => {
    expect(weighed(3.7, 3.9, [TOP])).toBeCloseTo(byAdding(3.7, 3.9, [TOP]), 1);
    expect(weighed(9, 0.4, [TOP])).toBeCloseTo(byAdding(9, 0.4, [TOP]), 1);
    expect(weighed(-0.3, 0.5, [BOTTOM])).toBeCloseTo(byAdding(-0.3, 0.5, [BOTTOM]), 1);
  });
  it("read twice of one level costs hardly more than once, beside the level itself nothing", () => {
    const [once, twice] = [weighed(3.7, 3.9, [TOP]), weighed(3.7, 3.9, [TOP, TOP])];
    expect(twice - once).toBeGreaterThan(2.5);
    expect(twice).toBeCloseTo(byAdding(3.7, 3.9, [TOP, TOP]), 0);
    const beside: readonly Read[] = [TOP, TOP, { shown: 9.1, ended: false }];
    expect(Math.abs(weighed(3.7, 3.9, beside) - byAdding(3.7, 3.9, beside))).toBeLessThan(0.8);
  });
  it("that cannot be is a slip, and bends nothing else", () => {
    const reads: readonly Read[] = [TOP, TOP, { shown: 0.21, ended: false }, { shown: 0.2, ended: false }];
    expect(Math.abs(weighed(0.2, 0.05, reads) - byAdding(0.2, 0.05, reads))).toBeLessThan(0.3);
  });
  it("is weighed as adding over every level would, within a factor of six at worst, slips allowed for", () => {
    const finite = (min: number, max: number) => fc.double({ min, max, noNaN: true });
    const inside = fc.record({ shown: finite(0.4, 4.6), ended: fc.constant(false) });
    const reads = fc.constantFrom(TOP, BOTTOM).chain((end) => fc.array(fc.oneof(fc.constant(end), inside), { minLength: 1, maxLength: 3 }));
    fc.assert(
      fc.property(finite(0, 6), finite(1, 4), reads, (mean, slope, read) => {
        const [found, exact] = [weighed(mean, slope, read), byAdding(mean, slope, read)];
        expect(Math.abs(found - exact)).toBeLessThan(Math.log(6));
      }),
    );
  });
  it("moves what is believed of the level over the end, and no further", () => {
    const learned = learn([observation("r0", 3.7, 3.9, 5, ENDS)], 0, 1);
    const level = 3.7 + 3.9 * (learned.mean[0] ?? 0);
    const tail = cutOff(ENDS, 5, 3.7, 3.9 ** 2 + NOISE);
    expect(level).toBeGreaterThan(5);
    expect(level).toBeCloseTo(3.7 + ((tail.level - 3.7) * 3.9 ** 2) / (3.9 ** 2 + NOISE + tail.variance), 3);
  });
});
