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
  // Every set of faulty circuits, written out: each further one is rarer. Battery and grounds are one and the same in all circuits.
  const against = plain.map(({ joint, healthy, grid }) => joint.map((value, cell) => (grid.fault[cell] === 0 ? 0 : value / healthy / plain.length)));
  const ofCar = plain.map(({ grid }) => [...grid.fault].map((fault) => grid.faults[fault]?.circuit === "car"));
  const own = against.map((values, index) => values.reduce((sum, value, cell) => (ofCar[index]?.[cell] ? sum : sum + value), 0));
  const subsets = Array.from({ length: 2 ** own.length - 1 }, (_, index) => own.map((_value, at) => (((index + 1) >> at) & 1) === 1));
  const weightOf = (chosen: readonly boolean[]): number => {
    const members = own.filter((_, at) => chosen[at]);
    return members.reduce((product, value) => product * value, 1) * 0.04 ** (members.length - 1);
  };
  const keyed = new Map<string, number>();
  plain.forEach(({ grid, joint, healthy }, index) => {
    const soundPrior = [...grid.prior].reduce((sum, prior, cell) => (grid.fault[cell] === 0 ? sum + prior : sum), 0);
    const seen = new Map<string, { joint: number; prior: number }>();
    joint.forEach((value, cell) => {
      if (ofCar[index]?.[cell] !== true) return;
      const key = `${grid.faults[grid.fault[cell]]?.id} ${grid.severity[cell]}`;
      const sum = seen.get(key) ?? { joint: 0, prior: 0 };
      seen.set(key, { joint: sum.joint + value / healthy, prior: sum.prior + grid.prior[cell] / soundPrior });
    });
    for (const [key, { joint: likely, prior }] of seen) keyed.set(key, (keyed.get(key) ?? 1) * (likely / prior));
    for (const [key, { prior }] of seen) if (index === plain.length - 1) keyed.set(key, (keyed.get(key) ?? 0) * (prior / plain.length));
  });
  const car = [...keyed.values()].reduce((sum, value) => sum + value, 0);
  const total = 1 + subsets.reduce((sum, chosen) => sum + weightOf(chosen), 0) + car;

  it("has the probability of the sum over all of them, written out", () => {
    // The prior of battery and grounds is the same in every circuit only nearly: their weights are shares of what each circuit holds.
    expect(Math.log(posterior.healthy * total)).toBeCloseTo(0, 1);
    posterior.circuits.forEach(({ weights, inference: { grid } }, index) => {
      const beside = subsets.filter((chosen) => chosen[index]).reduce((sum, chosen) => sum + weightOf(chosen), 0) / (own[index] ?? 1);
      for (let cell = 0; cell < grid.count; cell += 1) {
        if (grid.fault[cell] === 0 || ofCar[index]?.[cell]) continue;
        expect(weights[cell]).toBeCloseTo((against[index]?.[cell] ?? 0) * beside * posterior.healthy, 10);
      }
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
