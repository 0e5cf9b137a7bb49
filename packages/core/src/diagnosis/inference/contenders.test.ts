import type { Circuit, Reading } from "@fox-lamp/language";
import { logSumExp } from "../../numeric";
import { circumstancesOf } from "./circumstances";
import type { WeighedCluster } from "./cluster";
import { contenders } from "./contenders";
import { type Inference, inferenceOf } from "./inference";

/** A coolant sensor of which some readings say the temperature and some do not, on a module with the pull-up given. */
const kind = (pullup: number): Circuit => ({ id: "ect", family: "thermistor-2w", with: { pullup } });
const conditions = { ect: { temperature: 20 } };
const warm = { truth: { temperature: 20 } };
const unplugged = { open: ["sensor"] };
const readings: Reading[] = [
  { circuit: "ect", meter: "scan", red: "sig@module", unit: "degC", setup: warm, value: -37 },
  { circuit: "ect", meter: "volts-dc", red: "sig@sensor", black: "bat-", value: 4.97 },
  { circuit: "ect", meter: "ohms", red: "sig@part", black: "gnd@part", setup: { ...warm, ...unplugged, key: "off" }, value: 2480 },
  { circuit: "ect", meter: "volts-dc", red: "gnd@sensor", black: "bat-", setup: unplugged, value: 0.43 },
  { circuit: "ect", meter: "volts-dc", red: "sig@sensor", black: "bat-", setup: unplugged, value: 4.99 },
];
const own = readings.map((reading, index) => ({ reading, id: `r${index}`, where: `readings[${index}]` }));

function weighed(inference: Inference): WeighedCluster {
  const observations = inference.observe(own);
  const known = circumstancesOf(inference, own, observations, "ect", false);
  return { inference, own, observations, codes: [], matched: () => [], known, evidence: inference.weigh(observations, known) };
}

function sharesOf({ inference: { grid }, evidence }: WeighedCluster): { readonly log: number; readonly units: readonly number[] } {
  const weights = Array.from(grid.logPrior, (prior, cell) => prior + (evidence.logLikelihood[cell] as number));
  const log = logSumExp(weights);
  const units = grid.units.map((_, unit) =>
    Math.exp(logSumExp(weights.filter((_weight, cell) => grid.unitOfFault[grid.fault[cell] as number] === unit)) - log),
  );
  return { log, units };
}

describe("the hypotheses that could count under another kind of circuit", () => {
  const taken = weighed(inferenceOf([kind(2200)], { conditions }));
  /** The other kind weighed on its contenders, and on everything. */
  const both = (pullup: number): readonly [readonly number[], WeighedCluster, WeighedCluster] => {
    const other = inferenceOf([kind(pullup)], { conditions, open: new Set(["ect"]) });
    const asked = other.observe(own, []);
    const known = circumstancesOf(other, own, asked, "ect", false);
    const cells = contenders(other, asked, known, taken, 0);
    other.complete(asked, cells);
    const among: WeighedCluster = { ...taken, inference: other, observations: asked, known, evidence: other.weighAmong(asked, known, cells) };
    return [cells, among, weighed(inferenceOf([kind(pullup)], { conditions, open: new Set(["ect"]) }))];
  };
  it.each([2400, 1000, 4700])("weigh together what all of them weigh, with %d ohm in the module", (pullup) => {
    const [cells, among, all] = both(pullup);
    expect(cells.length).toBeLessThan(all.inference.grid.count / 2);
    const [few, every] = [sharesOf(among), sharesOf(all)];
    expect(few.log).toBeCloseTo(every.log, 2);
    few.units.forEach((share, unit) => {
      expect(share).toBeCloseTo(every.units[unit] as number, 2);
    });
  });
  it("are predicted one state of the car after another: whoever falls behind needs no further rows", () => {
    const [cells, among, all] = both(2400);
    const rows = ({ observations }: WeighedCluster): number => [...new Set(observations.map(({ table }) => table))].reduce((sum, table) => sum + table.rows, 0);
    expect(cells.length).toBeGreaterThan(0);
    expect(rows(among)).toBeLessThan(rows(all));
  });
  it("hold the sound circuit whatever was read", () => {
    const [cells, { inference }] = both(1000);
    expect(cells.some((cell) => inference.grid.fault[cell] === 0)).toBe(true);
  });
});
