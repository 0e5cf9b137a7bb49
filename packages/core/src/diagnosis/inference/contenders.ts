import { fixedWorld } from "../../circuit";
import { CellWeigher } from "../likelihood/cell-weigher";
import { type Circumstances, circumstancesOf, type Observation } from "../likelihood/observation";
import { logSlip } from "../likelihood/slips";
import type { WeighedCluster } from "./cluster";
import type { Inference } from "./inference";
import { apartAt, type Stretch, stretchesOf } from "./stretches";

/** Under another kind of circuit a number may be explained a little better than by anything under the one that was taken, logarithm. */
const SLACK = 1;
/** A cell that stays this far behind the best one, each reading by itself, logarithm, carries no weight. */
const HOPELESS = 10;
/** And so does one that far behind whoever explains the readings best under the kind that was taken: so much rarer a kind changes nothing. */
const MOST_BEHIND = 15;
/** So many of the best cells go ahead: what they reach is what the others have to come near. */
const AHEAD = 24;

/** Whether what the circuit senses is fixed in a stretch: its cells need few rows. */
function isFixed({ observations: [first] }: Stretch): boolean {
  const probe = first?.table.probe;
  return probe !== undefined && (probe.kind === "look" || fixedWorld(probe.circuit.built.world, probe.setup) !== null);
}

/** A number that is explained well has about this density at most, logarithm; one that nobody explains under the kind that was taken may be under another. */
const WELL_EXPLAINED = 3.5;
/** So much likelier than a slip a number is at least that anybody explains, logarithm. */
const EXPLAINED = 3;

/** What any cell of another kind may make of one reading at most, logarithm. @param best what the best one makes of it under the kind that was taken */
function mostOf(observation: Observation, best: number): number {
  // A word is at best certain, whatever the kind.
  if (observation.number === null) return 0;
  return best < logSlip(observation) + EXPLAINED ? Math.max(best, WELL_EXPLAINED) : best + SLACK;
}

/** By reading, the best that any cell of a cluster makes of it alone, logarithm. @param readings how many of its observations are readings */
function bestOfEach({ inference: { grid }, observations, evidence: { single } }: WeighedCluster, readings: number): Float64Array {
  const best = new Float64Array(readings).fill(Number.NEGATIVE_INFINITY);
  for (let cell = 0; cell < grid.count; cell += 1)
    for (let index = 0; index < readings; index += 1) best[index] = Math.max(best[index], single[cell * observations.length + index]);
  return best;
}

/** The best that any cell of a cluster makes of its readings, each by itself, logarithm. @param readings how many of its observations are readings */
function bestApart(like: WeighedCluster, readings: number): number {
  let best = Number.NEGATIVE_INFINITY;
  for (let cell = 0; cell < like.inference.grid.count; cell += 1) best = Math.max(best, apartAt(like, cell, readings));
  return best;
}

/**
 * The cells that explain readings best, and all that could come near them: the readings of one setup after another are predicted for the cells still
 * in question alone. Each reading is weighed by itself, which is enough to see who is out of it.
 *
 * @param observations the readings, without rows; `known` their circumstances
 * @param like the same readings weighed on another kind of the circuits
 * @param besides what is weighed besides may change a cell's share by, logarithm
 */
export function contenders(inference: Inference, observations: readonly Observation[], known: Circumstances, like: WeighedCluster, besides: number): number[] {
  const { grid, columns } = inference;
  const place = new Map(observations.map((observation, index) => [observation, index]));
  const stretches = stretchesOf(like, observations);
  const ordered = [...stretches.filter(isFixed), ...stretches.filter((stretch) => !isFixed(stretch))];
  const best = bestOfEach(like, observations.length);
  const mostIn = (stretch: Stretch): number =>
    stretch.observations.reduce((sum, observation) => sum + mostOf(observation, best[place.get(observation) ?? 0]), 0);
  const sum = new Float64Array(grid.count);
  const weighOn = (stretch: Stretch, cells: readonly number[]): void => {
    const tables = stretch.observations.map(({ table }) => table);
    inference.fill(tables, cells);
    for (const observation of stretch.observations) {
      const own = circumstancesOf(known, [place.get(observation) ?? 0]);
      const weigher = new CellWeigher([observation], columns.count, own);
      for (const cell of cells) {
        const alone = weigher.apart(cell);
        // A contact that unplugging cured looks sound from then on.
        const after = own.after[own.disturbedBy[cell]];
        sum[cell] = sum[cell] + (after === undefined ? alone : Math.max(alone, weigher.apart(cell, after)));
      }
    }
  };
  const [first, ...further] = ordered;
  let cells = Array.from({ length: grid.count }, (_, cell) => cell);
  if (first === undefined) return cells;
  weighOn(first, cells);
  const ahead = [...cells].sort((a, b) => sum[b] - sum[a]).slice(0, AHEAD);
  for (const stretch of further) weighOn(stretch, ahead);
  const least = Math.max(Math.max(...ahead.map((cell) => sum[cell])) - HOPELESS, bestApart(like, observations.length) - MOST_BEHIND) - besides;
  const leads = new Set(ahead);
  cells = cells.filter((cell) => !leads.has(cell));
  for (const [at, stretch] of further.entries()) {
    const left = further.slice(at).reduce((all, later) => all + mostIn(later), 0);
    cells = cells.filter((cell) => grid.fault[cell] === 0 || sum[cell] + left >= least);
    weighOn(stretch, cells);
  }
  return [...ahead, ...cells.filter((cell) => grid.fault[cell] === 0 || sum[cell] >= least)].sort((a, b) => a - b);
}
