import { seededRandom } from "../../numeric";
import { inferenceOf } from "../inference/inference";
import type { Evidence } from "../likelihood/observation";
import { combine } from "./posterior";
import { faultWeights, unitBest, unitEvidence, unitWeights } from "./unit-evidence";

const OPTIONS = { open: new Set<string>(), hints: [], conditions: {} } as never;
const inference = (id: string, family: string) => inferenceOf([{ id, family }], OPTIONS, "circuits");

/** Evidence that says something different of every cell. */
function drawnEvidence(count: number, seed: number): Evidence {
  const random = seededRandom(seed);
  const logLikelihood = Float64Array.from({ length: count }, () => 3 * random.normal());
  const none = new Float64Array(0);
  return { logLikelihood, slipped: none, absent: none, single: none, cured: new Float64Array(count) };
}

const parts = [
  { inference: inference("ect", "thermistor-2w"), observations: [], seed: 1 },
  { inference: inference("tps", "potentiometer-3w"), observations: [], seed: 2 },
  { inference: inference("purge", "solenoid-2w"), observations: [], seed: 3 },
].map(({ seed, ...rest }) => ({ ...rest, evidence: drawnEvidence(rest.inference.grid.count, seed) }));

/** P(readings of one circuit, cell), and their sums over healthy and faulty cells: by the definition, without logarithms. */
const plain = parts.map(({ inference: { grid }, evidence }) => {
  const joint = [...grid.prior].map((prior, cell) => prior * Math.exp(evidence.logLikelihood[cell]));
  const healthy = joint.reduce((sum, value, cell) => sum + (grid.fault[cell] === 0 ? value : 0), 0);
  return { joint, healthy, grid };
});

describe("one fault in one of several circuits", () => {
  const posterior = combine(parts);
  // All healthy; or cell c of circuit i faulty and the others healthy, each circuit being the guilty one with the same share.
  const allHealthy = plain.reduce((product, { healthy }) => product * healthy, 1);
  const guilty = plain.map(({ joint, grid }, own) => {
    const rest = plain.reduce((product, { healthy }, other) => (other === own ? product : product * healthy), 1);
    return joint.map((value, cell) => (grid.fault[cell] === 0 ? 0 : (value * rest) / plain.length));
  });
  const total = allHealthy + guilty.flat().reduce((sum, value) => sum + value, 0);

  it("has the probability of the sum over all of them, written out", () => {
    expect(posterior.healthy).toBeCloseTo(allHealthy / total, 10);
    posterior.circuits.forEach(({ weights, inference: { grid } }, own) => {
      for (let cell = 0; cell < grid.count; cell += 1) if (grid.fault[cell] !== 0) expect(weights[cell]).toBeCloseTo(guilty[own]?.[cell] / total, 10);
    });
  });
  it("is one whole for each circuit, healthy cells carrying what lies elsewhere", () => {
    for (const { weights, units, faults } of posterior.circuits) {
      const sum = (list: Float64Array): number => list.reduce((all, value) => all + value, 0);
      expect([sum(weights), sum(units), sum(faults)].map((value) => Number(value.toFixed(9)))).toEqual([1, 1, 1]);
    }
  });
  it("stands as it is when another circuit joins of which nothing is known but its priors", () => {
    const [first] = parts;
    const other = inference("iat", "thermistor-2w");
    const silent = {
      inference: other,
      observations: [],
      evidence: { ...drawnEvidence(other.grid.count, 9), logLikelihood: new Float64Array(other.grid.count) },
    };
    const [alone, beside] = [combine([first as never]), combine([first as never, silent])];
    const ratio = (posterior: typeof alone, a: number, b: number) => {
      const { units } = posterior.circuits[0] as (typeof posterior.circuits)[number];
      return units[a] / units[b];
    };
    expect(ratio(beside, 1, 2)).toBeCloseTo(ratio(alone, 1, 2), 9);
  });
});

describe("what the readings say of a unit", () => {
  const [{ inference: own, evidence }] = parts as unknown as [(typeof parts)[number]];
  const { grid } = own;
  const cells = Array.from({ length: grid.count }, (_, cell) => cell);
  const likelihood = (cell: number): number => Math.exp(evidence.logLikelihood[cell]);
  const prior = (cell: number): number => grid.prior[cell];

  it("is that of its best fault, severities averaged", () => {
    const out = unitEvidence(grid, evidence.logLikelihood);
    grid.units.forEach((_, unit) => {
      const each = grid.faults.flatMap((_fault, index) => {
        if (grid.unitOfFault[index] !== unit) return [];
        const members = cells.filter((cell) => grid.fault[cell] === index);
        const weight = members.reduce((sum, cell) => sum + prior(cell), 0);
        return [members.reduce((sum, cell) => sum + prior(cell) * likelihood(cell), 0) / weight];
      });
      expect(out[unit]).toBeCloseTo(Math.log(Math.max(...each)), 9);
    });
  });
  it("at its best severity is never less", () => {
    const [average, best] = [unitEvidence(grid, evidence.logLikelihood), unitBest(grid, evidence.logLikelihood)];
    average.forEach((value, unit) => {
      expect(best[unit]).toBeGreaterThanOrEqual(value - 1e-9);
    });
  });
  it("adds up alike by units and by faults", () => {
    const weights = Float64Array.from(cells, prior);
    const [units, faults] = [unitWeights(grid, weights), faultWeights(grid, weights)];
    grid.units.forEach((_, unit) => {
      const sum = [...faults].reduce((all, value, index) => (grid.unitOfFault[index] === unit ? all + value : all), 0);
      expect(units[unit]).toBeCloseTo(sum, 12);
    });
  });
});
