import { countsShare } from "../../instruments";
import { normalCdf } from "../../numeric";
import { SLIP_SHARE } from "../likelihood/slips";
import { type PredictionTable, priorVariance } from "../predictions/table";
import { type Belief, predictAt } from "./belief";
import { type BinAxis, binAxisOf } from "./bins";

// Taken out of Math once: these run millions of times.
const { log, max, min, round, sqrt } = Math;

/** A state's readings are spread this many standard deviations to both sides. */
const REACH = 3.5;

/**
 * P(outcome and unit) of a probe: a row for every unit that still counts, over the bins that any of them reaches and then the
 * words. Rows sum to the units' weights.
 */
export interface Outcomes {
  /** Bins within reach and where they end, on the probe's scale. */
  readonly axis: Pick<BinAxis, "bins" | "edge">;
  readonly width: number;
  /** The unit of each row. */
  readonly members: readonly number[];
  readonly mass: Float64Array;
}

/**
 * The states active cells may be in for one probe (its own, starved, or its fault not there): where they would read, and how likely
 * each is.
 */
class States {
  count = 0;
  row = new Int32Array(0);
  slot = new Int32Array(0);
  share = new Float64Array(0);
  mean = new Float64Array(0);
  sigma = new Float64Array(0);
  /** How likely the first word is, by what the readings say of how large the signal is; NaN where the table says it. */
  counts = new Float64Array(0);
  /** First and last bin within reach. */
  from = new Int32Array(0);
  to = new Int32Array(0);

  constructor(most: number) {
    for (const field of ["row", "slot", "from", "to"] as const) this[field] = new Int32Array(most);
    for (const field of ["share", "mean", "sigma", "counts"] as const) this[field] = new Float64Array(most);
  }

  add(row: number, slot: number, share: number, { mean, sigma }: Level, axis: BinAxis, counts = Number.NaN): void {
    const at = this.count;
    this.count = at + 1;
    this.row[at] = row;
    this.slot[at] = slot;
    this.share[at] = share;
    this.counts[at] = counts;
    if (axis.bins === 0) return;
    this.mean[at] = mean;
    this.sigma[at] = sigma;
    this.from[at] = axis.binOf(mean - REACH * sigma);
    this.to[at] = axis.binOf(mean + REACH * sigma);
  }
}

/** Lists the states of all active cells under a probe. */
function statesOf(belief: Belief, table: PredictionTable, axis: BinAxis): States {
  const { active, rowOf, columns } = belief;
  const numeric = axis.bins > 0;
  const { brinks } = table;
  const states = new States(3 * active.length);
  for (const own of active) {
    const { cell, unit, weight } = own;
    const row = rowOf[unit];
    const twin = table.quiet[cell];
    const quiet = twin < 0 ? 0 : belief.quietShare(cell, table.probe);
    if (quiet > 0) {
      const slot = table.slot[twin];
      const sigma = numeric ? sqrt(priorVariance(table, slot, columns.count)) : 1;
      states.add(row, slot, weight * quiet, { mean: numeric ? table.mean[slot] : 0, sigma }, axis);
    }
    let present = weight * (1 - quiet);
    const brink = brinks === null ? undefined : brinks.get(cell);
    if (brink !== undefined) {
      const starved = numeric ? predictAt(belief, table, own, brink.slot) : NOWHERE;
      states.add(row, brink.slot, present * brink.share, starved, axis);
      present *= 1 - brink.share;
    }
    const level = numeric ? predictAt(belief, table, own) : NOWHERE;
    states.add(row, table.slot[cell], present, level, axis, table.swing === null ? Number.NaN : countsAt(predictAt(belief, table.swing, own)));
  }
  return states;
}

/** Where a state reads, on the probe's scale. */
interface Level {
  readonly mean: number;
  readonly sigma: number;
}

const NOWHERE: Level = { mean: 0, sigma: 1 };

/** How likely it counts, by what the readings say of how large the signal is. */
function countsAt({ mean, sigma }: Level): number {
  return countsShare(normalCdf(mean / sigma));
}

/** Spreads every active cell over the outcomes of a probe; slips are mixed in evenly over what can be seen. */
export function outcomesOf(belief: Belief, table: PredictionTable): Outcomes {
  const { members } = belief;
  const axis = binAxisOf(table);
  const wordCount = table.wordNames.length;
  const states = statesOf(belief, table, axis);
  let first = axis.bins;
  let last = -1;
  if (axis.bins > 0)
    for (let at = 0; at < states.count; at += 1) {
      first = min(first, states.from[at]);
      last = max(last, states.to[at]);
    }
  const bins = max(0, last - first + 1);
  const width = bins + wordCount;
  const mass = new Float64Array(members.length * width);
  const { edges } = axis;
  const { words } = table;
  for (let at = 0; at < states.count; at += 1) {
    const row = states.row[at] * width;
    const share = states.share[at];
    const slot = states.slot[at] * wordCount;
    let left = share;
    const counts = states.counts[at];
    for (let word = 0; word < wordCount; word += 1) {
      const part = share * (counts >= 0 ? (word === 0 ? counts : 1 - counts) : words[slot + word]);
      mass[row + bins + word] = mass[row + bins + word] + part;
      left -= part;
    }
    if (bins > 0 && left >= 1e-12) spread(states, mass, row - first, edges, at, left);
  }
  for (let row = 0; row < members.length; row += 1) blurRow(mass, row * width, width);
  return { axis: { bins, edge: (bin) => axis.edge(first + bin) }, width, members, mass };
}
/** The normal distribution on a fine grid: adding mass to bins needs it millions of times. */
const CDF_STEPS_PER_SIGMA = 128;
const CDF_REACH = 5;
const CDF = Float64Array.from({ length: 2 * CDF_REACH * CDF_STEPS_PER_SIGMA + 1 }, (_, index) => normalCdf(index / CDF_STEPS_PER_SIGMA - CDF_REACH));

function quickCdf(z: number): number {
  const index = round((z + CDF_REACH) * CDF_STEPS_PER_SIGMA);
  return index <= 0 ? 0 : index >= CDF.length ? 1 : CDF[index];
}

/** Adds a state's normal share of mass to a row's bins. */
function spread(states: States, mass: Float64Array, row: number, edges: Float64Array, state: number, share: number): void {
  const first = states.from[state];
  const last = states.to[state];
  if (first === last) {
    mass[row + first] = mass[row + first] + share;
    return;
  }
  const mean = states.mean[state];
  const inverse = 1 / states.sigma[state];
  let before = 0;
  for (let bin = first; bin <= last; bin += 1) {
    const after = bin === last ? 1 : quickCdf((edges[bin + 1] - mean) * inverse);
    mass[row + bin] = mass[row + bin] + share * (after - before);
    before = after;
  }
}

/** A slipped reading may land anywhere: moves a small share of a row evenly over it. */
function blurRow(mass: Float64Array, start: number, width: number): void {
  let total = 0;
  for (let k = 0; k < width; k += 1) total += mass[start + k];
  if (total === 0) return;
  const floor = (SLIP_SHARE * total) / width;
  for (let k = 0; k < width; k += 1) mass[start + k] = mass[start + k] * (1 - SLIP_SHARE) + floor;
}

/**
 * Expected information about the unit, bits, with every unit's row scaled first.
 * @param scale factor for each unit's row (one for the posterior as it is; zero leaves a unit out)
 */
export function informationBits(outcomes: Outcomes, scale: Float64Array): number {
  const { width, members, mass } = outcomes;
  const column = new Float64Array(width);
  let total = 0;
  let rowsTerm = 0;
  for (let row = 0; row < members.length; row += 1) {
    const factor = scale[members[row]];
    if (factor === 0) continue;
    let sum = 0;
    for (let k = 0; k < width; k += 1) {
      const value = factor * mass[row * width + k];
      if (value === 0) continue;
      sum += value;
      column[k] = column[k] + value;
      rowsTerm += value * log(value);
    }
    if (sum > 0) {
      rowsTerm -= sum * log(sum);
      total += sum;
    }
  }
  if (total === 0) return 0;
  let columnsTerm = 0;
  for (let k = 0; k < width; k += 1) {
    const value = column[k];
    if (value > 0) columnsTerm += value * log(value);
  }
  return max(0, (rowsTerm - columnsTerm + total * log(total)) / total / Math.LN2);
}
