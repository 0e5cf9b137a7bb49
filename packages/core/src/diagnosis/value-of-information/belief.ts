import { QUIET_SHARE } from "../../faults";
import type { Columns, Probe } from "../../instruments";
import type { HypothesisGrid } from "../hypotheses/grid";
import { type Complaint, presenceNext } from "../inference/presence";
import { type Learned, learn, usedAt } from "../likelihood/learn";
import type { Evidence, Observation } from "../likelihood/observation";
import type { PredictionTable } from "../predictions/table";

// Taken out of Math once: these run millions of times.
const { max, min, round, sqrt } = Math;

/** Cells lighter than this share of the heaviest one no longer move any advice ... */
const LEAST_SHARE = 5e-4;
/** ... unless their unit is not refuted: then its own heaviest cells stay, so that tests against it can be judged. */
const LEAST_SHARE_ALIVE = 0.05;

/** A hypothesis cell that still counts, with what the readings taught about its tolerances. */
export interface ActiveCell {
  readonly cell: number;
  readonly unit: number;
  readonly weight: number;
  readonly learned: Learned | null;
}

/** The active cells under weights, ready to predict any further probe. */
export interface Belief {
  readonly grid: HypothesisGrid;
  readonly columns: Columns;
  readonly active: readonly ActiveCell[];
  /** Units of the active cells, and for every unit its place among them (-1 where none of its cells counts). */
  readonly members: readonly number[];
  readonly rowOf: Int32Array;
  /** How likely a cell's fault is not there in the next reading. */
  readonly quietShare: (cell: number, probe: Probe) => number;
  readonly scratch: SlopeScratch;
}

/** Working storage for the slopes of one row that are not zero, and where they stand; what it holds is gone at the next call. */
interface SlopeScratch {
  readonly slopes: Float64Array;
  readonly places: Int32Array;
}

/** From this many cells on, advice is judged by the heaviest cells of every unit alone: so many in all, most of them for the likeliest units. */
const MANY_CELLS = 300;
const KEPT_CELLS = 280;
const LEAST_PER_UNIT = 6;

/** Weights with only the heaviest cells of every unit left, which carry their unit's whole weight; as they are on small grids. */
function thinned(grid: HypothesisGrid, weights: Float64Array): Float64Array {
  if (grid.count < MANY_CELLS) return weights;
  const byUnit: number[][] = grid.units.map(() => []);
  for (let cell = 0; cell < grid.count; cell += 1) byUnit[grid.unitOfFault[grid.fault[cell]]].push(cell);
  const totals = byUnit.map((own) => own.reduce((sum, cell) => sum + weights[cell], 0));
  const roots = totals.reduce((sum, total) => sum + sqrt(total), 0);
  const out = new Float64Array(grid.count);
  byUnit.forEach((own, unit) => {
    const total = totals[unit];
    const most = max(LEAST_PER_UNIT, round((KEPT_CELLS * sqrt(total)) / roots));
    own.sort((a, b) => weights[b] - weights[a]);
    // Alike weights are spread over the unit's range instead of taken from one end.
    const flat = weights[own[0] ?? 0] < 1.5 * weights[own[Math.floor(own.length / 2)] ?? 0];
    const stride = flat ? max(1, Math.floor(own.length / most)) : 1;
    const kept = own.filter((_, index) => index % stride === 0).slice(0, most);
    const share = kept.reduce((sum, cell) => sum + weights[cell], 0);
    for (const cell of kept) out[cell] = share === 0 ? 0 : (weights[cell] * total) / share;
  });
  return out;
}

/**
 * Learns the tolerances at every cell that still counts (one Kalman update per cell over all readings that did not slip and
 * were taken while its fault was there).
 *
 * @param weights posterior of every cell, any scale
 * @param alive which units the readings have not refuted
 * @param complaint how the complaint stands now, where the fault comes and goes; null where it stays
 */
export function believe(
  grid: HypothesisGrid,
  columns: Columns,
  observations: readonly Observation[],
  evidence: Evidence,
  weights: Float64Array,
  alive: (unit: number) => boolean,
  complaint: Complaint | null = null,
): Belief {
  const { cured } = evidence;
  const d = columns.count;
  let heaviest = 0;
  for (const weight of weights) heaviest = max(heaviest, weight);
  const least = new Float64Array(grid.units.length).fill(LEAST_SHARE * heaviest);
  const own = new Float64Array(grid.units.length);
  for (let cell = 0; cell < grid.count; cell += 1) {
    const unit = grid.unitOfFault[grid.fault[cell]];
    own[unit] = max(own[unit], weights[cell]);
  }
  for (let unit = 0; unit < least.length; unit += 1) if (alive(unit)) least[unit] = min(least[unit], LEAST_SHARE_ALIVE * own[unit]);
  const active: ActiveCell[] = [];
  const counted = thinned(grid, weights);
  const learnable = observations.some(({ number }) => number !== null);
  for (let cell = 0; cell < grid.count; cell += 1) {
    const weight = counted[cell];
    const unit = grid.unitOfFault[grid.fault[cell]];
    if (weight === 0 || weights[cell] < least[unit]) continue;
    if (!learnable) {
      active.push({ cell, unit, weight, learned: null });
      continue;
    }
    active.push({ cell, unit, weight, learned: learn(usedAt(evidence, observations, cell), cell, d) });
  }
  const presence = complaint === null ? null : presenceNext(grid, complaint);
  const quietShare = (cell: number, probe: Probe): number => {
    const absent = presence === null ? 0 : 1 - presence(probe)[grid.unitOfFault[grid.fault[cell]]];
    return 1 - (1 - (cured[cell] ?? 0)) * (1 - Math.max(absent, grid.sometimes[cell] === 1 ? QUIET_SHARE : 0));
  };
  const scratch = { slopes: new Float64Array(d), places: new Int32Array(d) };
  return { grid, columns, ...placed(grid, active), quietShare, scratch };
}

/** What is believed of some units alone. */
export function onlyUnits(belief: Belief, units: readonly number[]): Belief {
  const active = belief.active.filter(({ unit }) => units.includes(unit));
  return { ...belief, ...placed(belief.grid, active) };
}

/** Active cells with the units they belong to. */
function placed(grid: HypothesisGrid, active: readonly ActiveCell[]): Pick<Belief, "active" | "members" | "rowOf"> {
  const members = [...new Set(active.map(({ unit }) => unit))].sort((first, second) => first - second);
  const rowOf = new Int32Array(grid.units.length).fill(-1);
  members.forEach((unit, row) => {
    rowOf[unit] = row;
  });
  return { active, members, rowOf };
}

/** Mean and standard deviation of a probe at an active cell, volts or log ohms. @param slot another state of the cell than its usual one */
export function predictAt(belief: Belief, table: PredictionTable, active: ActiveCell, slot?: number): { mean: number; sigma: number } {
  return predictSlot(belief, table, active.learned, slot ?? table.slot[active.cell]);
}

function predictSlot(belief: Belief, table: PredictionTable, learned: Learned | null, slot: number): { mean: number; sigma: number } {
  const d = belief.columns.count;
  const { slopes: slopeOf, places: placeOf } = belief.scratch;
  const start = slot * d;
  const noise = table.noise[slot];
  let mean = table.mean[slot];
  let variance = noise;
  let slopes = 0;
  for (let k = 0; k < d; k += 1) {
    const slope = table.jacobian[start + k];
    if (slope === 0) continue;
    slopeOf[slopes] = slope;
    placeOf[slopes] = k;
    slopes += 1;
    variance += slope * slope;
  }
  if (learned === null) return { mean, sigma: sqrt(variance) };
  for (let at = 0; at < slopes; at += 1) mean += slopeOf[at] * learned.mean[placeOf[at]];
  for (let i = 0; i < learned.count; i += 1) {
    let known = 0;
    for (let at = 0; at < slopes; at += 1) known += slopeOf[at] * learned.read[i * d + placeOf[at]];
    variance -= known * known;
  }
  return { mean, sigma: sqrt(max(variance, noise)) };
}
