import { openCase } from "../decision/open-case";
import { Session } from "../inference/session";
import { SLIP_SHARE } from "../likelihood/slips";
import { believe, onlyUnits, predictAt } from "./belief";
import { informationBits, outcomesOf } from "./outcomes";

const opened = openCase(
  {
    circuits: [{ id: "ect", family: "thermistor-2w" }],
    readings: [{ id: "r1", circuit: "ect", meter: "scan", red: "sig@module", unit: "degC", value: -38 }],
  } as never,
  new Session(),
);
const [posterior] = opened.joint.circuits as unknown as [(typeof opened.joint.circuits)[number]];
const { inference, observations, evidence, weights } = posterior;
const belief = believe(inference.grid, inference.columns, observations, evidence, weights, () => true);
const tests = inference.tests().slice(0, 25);
const tables = inference.testTables(
  tests,
  belief.active.map(({ cell }) => cell),
);
const ones = new Float64Array(inference.grid.units.length).fill(1);
const erf = (x: number): number => {
  // Abramowitz and Stegun 7.1.26
  const t = 1 / (1 + 0.3275911 * Math.abs(x));
  const y = 1 - ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) * t * Math.exp(-x * x);
  return x < 0 ? -y : y;
};
const cdf = (z: number): number => 0.5 * (1 + erf(z / Math.SQRT2));
const plainLog = (value: number): number => (value > 0 ? Math.log2(value) : 0);

/** Information from a table of P(outcome, unit) by its definition: H(unit) + H(outcome) - H(both). */
function mutualBits(joint: readonly (readonly number[])[]): number {
  const total = joint.flat().reduce((sum, value) => sum + value, 0);
  const entropy = (list: readonly number[]): number => -list.reduce((sum, value) => sum + (value / total) * plainLog(value / total), 0);
  const columns = (joint[0] ?? []).map((_, k) => joint.reduce((sum, row) => sum + (row[k] ?? 0), 0));
  return entropy(joint.map((row) => row.reduce((sum, value) => sum + value, 0))) + entropy(columns) - entropy(joint.flat());
}

describe("what a test may show", () => {
  it("adds up to what is believed of each unit", () => {
    for (const table of tables) {
      const { members, mass, width } = outcomesOf(belief, table);
      members.forEach((unit, row) => {
        const believed = belief.active.reduce((sum, own) => (own.unit === unit ? sum + own.weight : sum), 0);
        const spread = mass.subarray(row * width, (row + 1) * width).reduce((sum, value) => sum + value, 0);
        expect(spread).toBeCloseTo(believed, 9);
      });
    }
  });
  it("is every hypothesis spread as it predicts, with a small share anywhere", () => {
    const numeric = tables.filter(({ numeric, wordNames }) => numeric && wordNames.length === 0);
    expect(numeric.length).toBeGreaterThan(4);
    let compared = 0;
    for (const table of numeric.slice(0, 12)) {
      const { axis, members, mass, width } = outcomesOf(belief, table);
      members.forEach((unit, row) => {
        const own = belief.active.filter((active) => active.unit === unit);
        // Hypotheses of two states (a fault that is away at times, electronics that starve) are another matter.
        if (own.some(({ cell }) => table.quiet[cell] >= 0 || table.brinks?.has(cell))) return;
        compared += 1;
        const total = own.reduce((sum, { weight }) => sum + weight, 0);
        for (let bin = 0; bin < width; bin += 1) {
          const clean = own.reduce((sum, active) => {
            const { mean, sigma } = predictAt(belief, table, active);
            const low = bin === 0 ? 0 : cdf((axis.edge(bin) - mean) / sigma);
            const high = bin === width - 1 ? 1 : cdf((axis.edge(bin + 1) - mean) / sigma);
            return sum + active.weight * (high - low);
          }, 0);
          const expected = (1 - SLIP_SHARE) * clean + (SLIP_SHARE * total) / width;
          expect(Math.abs(mass[row * width + bin] - expected)).toBeLessThan(0.006 * total);
        }
      });
    }
    expect(compared).toBeGreaterThan(20);
  });
});

describe("information", () => {
  it("is what its definition says of the spread outcomes", () => {
    for (const table of tables) {
      const outcomes = outcomesOf(belief, table);
      const { members, mass, width } = outcomes;
      const joint = members.map((_, row) => [...mass.subarray(row * width, (row + 1) * width)]);
      expect(informationBits(outcomes, ones)).toBeCloseTo(mutualBits(joint), 8);
    }
  });
  it("is never negative, never more than what is open, and none about one unit alone", () => {
    const shares = belief.members.map((unit) => belief.active.reduce((sum, own) => (own.unit === unit ? sum + own.weight : sum), 0));
    const all = shares.reduce((sum, value) => sum + value, 0);
    const open = -shares.reduce((sum, value) => sum + (value / all) * plainLog(value / all), 0);
    for (const table of tables) {
      const bits = informationBits(outcomesOf(belief, table), ones);
      expect(bits).toBeGreaterThanOrEqual(0);
      expect(bits).toBeLessThanOrEqual(open + 1e-9);
      const one = onlyUnits(belief, belief.members.slice(0, 1));
      expect(informationBits(outcomesOf(one, table), ones)).toBeCloseTo(0, 9);
    }
  });
  it("counts two units alone when the others are scaled away", () => {
    const [first, second] = belief.members as [number, number];
    const scale = new Float64Array(ones.length);
    scale[first] = 1;
    scale[second] = 1;
    for (const table of tables.slice(0, 8)) {
      const { members, mass, width } = outcomesOf(belief, table);
      const rows = members.flatMap((unit, row) => (scale[unit] === 1 ? [[...mass.subarray(row * width, (row + 1) * width)]] : []));
      expect(informationBits(outcomesOf(belief, table), scale)).toBeCloseTo(mutualBits(rows), 8);
    }
  });
});
