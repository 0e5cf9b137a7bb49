import { bentTogether } from "../../instruments";
import { choleskyInPlace, forwardInPlace } from "../../numeric";
import { type PredictionTable, priorVariance } from "../predictions/table";
import { cutOff } from "./cut-off";
import type { Evidence, Observation } from "./observation";

/** What readings taught about the shared variables at a cell; they started as standard normal. */
export interface Learned {
  /** Posterior mean. */
  readonly mean: Float64Array;
  /** Directions that were read, whitened, row-major: the covariance is the identity minus the sum of their outer squares. */
  readonly read: Float64Array;
  readonly count: number;
}

/** Observations of numbers that neither slipped nor show another state at a cell. */
export function usedAt({ slipped, absent }: Pick<Evidence, "slipped" | "absent">, observations: readonly Observation[], cell: number): Observation[] {
  return observations.filter(({ number }, index) => {
    const at = cell * observations.length + index;
    return number !== null && slipped[at] + absent[at] <= 0.5;
  });
}

/** The level a reading speaks of, and its noise: where it is an end of a converter, the level that says the same. */
function shownLevel(table: PredictionTable, slot: number, number: number, d: number): { readonly level: number; readonly noise: number } {
  const noise = table.noise[slot];
  if (table.ends === null) return { level: number, noise };
  const { level, variance } = cutOff(table.ends, number, table.mean[slot], priorVariance(table, slot, d));
  return { level, noise: noise + variance };
}

/** Conditions the shared variables on readings at a cell (the usual normal conditioning, by a Cholesky factor of the readings' covariance). */
export function learn(readings: readonly Observation[], cell: number, d: number): Learned {
  const count = readings.length;
  const read = new Float64Array(count * d);
  const missed = new Float64Array(count);
  /** What the shared variables move each reading by, variance. */
  const moved = new Float64Array(count);
  const mean = new Float64Array(d);
  const spreads = new Float64Array(count * count);
  readings.forEach(({ table, number }, i) => {
    const slot = table.slot[cell];
    const { level, noise } = shownLevel(table, slot, number as number, d);
    missed[i] = level - table.mean[slot];
    read.set(table.jacobian.subarray(slot * d, (slot + 1) * d), i * d);
    const product = (j: number): number => {
      let sum = 0;
      for (let k = 0; k < d; k += 1) sum += read[i * d + k] * read[j * d + k];
      return sum;
    };
    moved[i] = product(i);
    spreads[i * count + i] = noise + moved[i];
    for (let j = 0; j < i; j += 1) {
      const before = readings[j].table;
      const at = before.slot[cell];
      const together = product(j);
      const both = moved[i] * moved[j];
      const likeness = both > 0 ? Math.max(-1, Math.min(1, together / Math.sqrt(both))) : 0;
      const bent = bentTogether(table.bent[slot], table.mean[slot], before.bent[at], before.mean[at], likeness);
      const again = table === before ? Math.sqrt(table.lasting[slot] * before.lasting[at]) : 0;
      spreads[i * count + j] = together + bent + again;
    }
  });
  // Every reading has noise of its own: only a prediction that is no number can bring this about.
  if (choleskyInPlace(spreads, count) === null) throw new Error("the spread of the readings is not positive definite");
  forwardInPlace(spreads, count, missed);
  for (let i = 0; i < count; i += 1) {
    for (let j = 0; j < i; j += 1) {
      const factor = spreads[i * count + j];
      if (factor === 0) continue;
      for (let k = 0; k < d; k += 1) read[i * d + k] = read[i * d + k] - factor * read[j * d + k];
    }
    const scale = 1 / spreads[i * count + i];
    for (let k = 0; k < d; k += 1) {
      const own = read[i * d + k] * scale;
      read[i * d + k] = own;
      mean[k] = mean[k] + own * missed[i];
    }
  }
  return { mean, read, count };
}
