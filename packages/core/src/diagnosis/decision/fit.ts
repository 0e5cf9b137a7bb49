import { chiSquareTail } from "../../numeric";
import { CellWeigher } from "../likelihood/cell-weigher";
import { circumstancesOf } from "../likelihood/observation";
import { membersOf } from "../posterior/involved";
import type { CircuitPosterior } from "../posterior/posterior";
import { comesAndGoes, type WeighedJob } from "../posterior/weighed-job";
import type { Standing } from "./standing";

/** How well the readings together fit whoever leads. */
export interface Fit {
  /**
   * Predictive p-value: how often readings of such a car would lie as far from what is predicted, slips and the one farthest off left out: one odd
   * reading that speaks of nobody is no reason to doubt a proof.
   */
  readonly probability: number;
  /** The readings that lie farthest from what all others make of them, the farthest first. */
  readonly worst: readonly string[];
}

/** A leader whose readings lie so far from what it predicts is proven by nothing: it is merely the least bad of those that are known. */
const LEAST_FIT = 1e-5;
/** Where they lie so far the one farthest off is better read once more before anything is replaced. */
const ODD_FIT = 0.01;
/** A reading lies far from what the others make of it from here, standard deviations. */
const FAR = 2;
/** Fewer numbers than this are fitted by almost anything. */
const LEAST_NUMBERS = 3;
const MOST_WORST = 3;

/** Whether the readings fit the leader so badly that it is proven by nothing. */
export function isMisfit(fit: Fit | null): fit is Fit {
  return fit !== null && fit.probability < LEAST_FIT;
}

/** The reading to take once more because the leader fits badly; null where it fits as such cars do. */
export function oddReading(fit: Fit | null): string | null {
  return fit !== null && fit.probability < ODD_FIT ? (fit.worst[0] ?? null) : null;
}

/** The heaviest cell of a group of units. */
function heaviestOf({ inference: { grid }, weights }: CircuitPosterior, group: readonly string[]): number {
  let best = -1;
  for (let cell = 0; cell < grid.count; cell += 1) {
    const unit = grid.units[grid.unitOfFault[grid.fault[cell]]] ?? "";
    if (membersOf(unit).some((member) => group.includes(member)) && (best < 0 || weights[cell] > weights[best])) best = cell;
  }
  return best;
}

/** How well the readings fit the leader at its likeliest; null where nobody leads, where the fault comes and goes, and where little was read. */
export function fitOf({ job }: WeighedJob, { posterior, group }: Standing): Fit | null {
  if (posterior === null || comesAndGoes(job)) return null;
  const cell = heaviestOf(posterior, group);
  if (cell < 0) return null;
  const { evidence, observations, inference, known } = posterior;
  const used = [...observations.keys()].filter((index) => {
    return observations[index].number !== null && evidence.slipped[cell * observations.length + index] <= 0.5;
  });
  if (used.length < LEAST_NUMBERS) return null;
  const weigher = new CellWeigher(
    used.map((index) => observations[index]),
    inference.columns.count,
    circumstancesOf(known, used),
  );
  const { squares, count, far } = weigher.misfit(cell, evidence.cured[cell] > 0.5);
  const farthest = far.reduce((most, { sigmas }) => Math.max(most, sigmas), 0);
  return {
    probability: chiSquareTail(Math.max(0, squares - farthest ** 2), count - 1),
    // Lowest and highest of one recording are one reading.
    worst: [
      ...new Set(
        far
          .filter(({ sigmas }) => sigmas >= FAR)
          .sort((one, other) => other.sigmas - one.sigmas)
          .map(({ id }) => id),
      ),
    ].slice(0, MOST_WORST),
  };
}
