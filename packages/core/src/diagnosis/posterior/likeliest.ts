import type { PlacedFault } from "../../faults";
import { scaleOf } from "../../instruments";
import { type Predicted, predictedInterval, shownOf, storedShare } from "./intervals";
import { logRatios, unitAt, withoutReading } from "./one-reading";
import type { CircuitPosterior } from "./posterior";

/** A fault with what every reading says of it. */
export interface FaultReadings {
  readonly fault: number;
  readonly id: string;
  readonly probability: number;
  /** For every observation, the log of how much better the fault predicted it than all else together. */
  readonly ratios: readonly number[];
  /** The observation that says most, for or against. */
  readonly strongest: number;
}

/** The likeliest faults of a set of circuits, the likeliest first. @param least probability of those that are listed */
export function likeliestFaults({ inference, faults, ...rest }: CircuitPosterior, most: number, least: number): FaultReadings[] {
  const posterior = { inference, faults, ...rest };
  const order = [...faults.keys()]
    .filter((fault) => fault !== 0 && faults[fault] > least)
    .sort((a, b) => faults[b] - faults[a])
    .slice(0, most);
  const all = rest.observations.map((_, index) => logRatios(posterior, index, withoutReading(posterior, index)));
  return order.map((fault): FaultReadings => {
    const ratios = all.map((byFault) => byFault[fault]);
    return {
      fault,
      id: inference.grid.faults[fault]?.id ?? "",
      probability: Math.min(1, faults[fault]),
      ratios,
      strongest: ratios.reduce((best, ratio, index) => (Math.abs(ratio) > Math.abs(ratios[best]) ? index : best), 0),
    };
  });
}

/** What some hypotheses say of one reading: how surely they would have stored it where it is a code, else the interval they predict. */
export interface Said {
  readonly stored: number | null;
  readonly interval: Predicted | null;
}

function saidBy(posterior: CircuitPosterior, observation: number, weightOf: (cell: number) => number): Said {
  const { table } = posterior.observations[observation];
  const stored = storedShare(table, posterior.inference.grid.count, weightOf);
  return { stored, interval: predictedInterval(posterior, table, weightOf) };
}

/** What a fault says of one reading, its cells weighed by all other readings. */
export function saidByFault(posterior: CircuitPosterior, fault: number, observation: number): Said {
  const { grid } = posterior.inference;
  const before = withoutReading(posterior, observation);
  const top = before.reduce((most, weight) => Math.max(most, weight), Number.NEGATIVE_INFINITY);
  return saidBy(posterior, observation, (cell) => (grid.fault[cell] === fault ? Math.exp(before[cell] - top) + 1e-300 : 0));
}

/** What a unit says of one reading, its cells weighed by all other readings. */
export function saidByUnit(posterior: CircuitPosterior, unit: number, observation: number): Said {
  const { grid } = posterior.inference;
  const before = withoutReading(posterior, observation);
  let top = Number.NEGATIVE_INFINITY;
  for (let cell = 0; cell < grid.count; cell += 1) if (unitAt(posterior, cell) === unit) top = Math.max(top, before[cell]);
  return saidBy(posterior, observation, (cell) => (unitAt(posterior, cell) === unit ? Math.exp(before[cell] - top) : 0));
}

/** A hypothesis that remains without a reading: its fault in place, its circuit's quantity where it is the reading's own, and what it expects. */
export interface Remaining {
  readonly placed: readonly PlacedFault[];
  readonly world: number | null;
  /** In the reading's own unit; null where a word is expected. */
  readonly expected: number | null;
}

/** The heaviest cell of each of the likeliest faults without one reading, the likeliest first. */
export function likeliestWithout(posterior: CircuitPosterior, observation: number, most: number): Remaining[] {
  const { grid } = posterior.inference;
  const weights = withoutReading(posterior, observation);
  const best = new Map<number, number>();
  for (let cell = 0; cell < grid.count; cell += 1) {
    const kept = best.get(grid.fault[cell]);
    if (kept === undefined || weights[cell] > weights[kept]) best.set(grid.fault[cell], cell);
  }
  const { circuit } = posterior.observations[observation].table.probe;
  return [...best.values()]
    .sort((a, b) => weights[b] - weights[a])
    .slice(0, most)
    .map((cell): Remaining => {
      const fault = grid.faults[grid.fault[cell]];
      const own = grid.worlds[grid.world[cell]] as (typeof grid.worlds)[number] | undefined;
      return {
        placed: fault === null ? [] : [{ fault, variant: grid.variant[cell], severity: grid.severity[cell] }],
        world: own?.circuit === circuit.id ? own.value : null,
        expected: expectedNumber(posterior, observation, cell),
      };
    });
}

/** Less than this of the posterior takes a doubtful reading as it stands: nothing that is known does. */
const LEAST_TAKEN = 0.03;

/** The unit under which most of what takes a doubtful reading as it stands lies, empty for a sound circuit; null where next to nothing does. */
export function takesAsItStands({ inference: { grid }, evidence, observations, weights }: CircuitPosterior, observation: number): string | null {
  const taken = new Float64Array(grid.units.length);
  for (let cell = 0; cell < grid.count; cell += 1) {
    const unit = grid.unitOfFault[grid.fault[cell]];
    taken[unit] = taken[unit] + weights[cell] * (1 - evidence.slipped[cell * observations.length + observation]);
  }
  const most = taken.reduce((best, share, unit) => (share > taken[best] ? unit : best), 0);
  return taken[most] < LEAST_TAKEN ? null : grid.units[most];
}

/** What a cell predicts for a reading, in the reading's own unit; null where it predicts a word. */
function expectedNumber({ observations }: CircuitPosterior, observation: number, cell: number): number | null {
  const { table } = observations[observation];
  if (!table.numeric) return null;
  const slot = table.slot[cell];
  let words = 0;
  for (let word = 0; word < table.wordNames.length; word += 1) words += table.words[slot * table.wordNames.length + word];
  return words > 0.5 ? null : scaleOf(table.probe).fromScale(shownOf(table, table.mean[slot]));
}

/** The likeliest unit but one. */
export function leaderBeside({ units }: CircuitPosterior, unit: number): number {
  return units.reduce((best, weight, other) => (other !== unit && weight > units[best] ? other : best), unit === 0 ? 1 : 0);
}
