import { QUIET_SHARE } from "../faults";
import { normalCdf } from "../numeric";
import type { Columns } from "../tests";
import { type Axis, axisOf, edgesOf } from "./axes";
import { BLUNDER_SHARE, type Evidence, type Observation } from "./evidence";
import { choleskyInPlace, forwardInPlace } from "./gaussian";
import type { Points } from "./points";
import { type PredictionTable, priorVariance } from "./tables";

// Taken out of Math once: these run millions of times.
const { log, max, min, round, sqrt } = Math;

/** Points lighter than this share of the heaviest one no longer move any advice ... */
const LEAST_SHARE = 5e-4;
/** ... unless their unit is not refuted: then its own heaviest points stay, so that tests against it can be judged. */
const LEAST_SHARE_ALIVE = 0.05;
const REACH = 3.5;

/** What readings taught about the shared variables at a point; they started as standard normal. */
export interface Learned {
  /** Posterior mean. */
  readonly mean: Float64Array;
  /** Directions that were read, whitened, row-major: the covariance is the identity minus the sum of their outer squares. */
  readonly read: Float64Array;
  readonly count: number;
}

/** A hypothesis point that still counts, with what the readings taught about its tolerances. */
interface ActivePoint {
  readonly point: number;
  readonly unit: number;
  readonly weight: number;
  readonly learned: Learned | null;
}

/** The active points under weights, ready to predict any further probe. */
export interface Belief {
  readonly points: Points;
  readonly columns: Columns;
  readonly active: readonly ActivePoint[];
  /** Units of the active points, and for every unit its place among them (-1 where none of its points counts). */
  readonly members: readonly number[];
  readonly rowOf: Int32Array;
  /** How likely a point's fault is not there in the next reading. */
  readonly quietShare: (point: number) => number;
}

/** From this many points on, advice is judged by the heaviest points of every unit alone: so many in all, most of them for the likeliest units. */
const MANY_POINTS = 300;
const KEPT_POINTS = 280;
const LEAST_PER_UNIT = 6;

/** Weights with only the heaviest points of every unit left, which carry their unit's whole weight; as they are on small grids. */
function thinned(points: Points, weights: Float64Array): Float64Array {
  if (points.count < MANY_POINTS) return weights;
  const byUnit: number[][] = points.units.map(() => []);
  for (let point = 0; point < points.count; point += 1) (byUnit[points.unitOfFault[points.fault[point] as number] as number] as number[]).push(point);
  const totals = byUnit.map((own) => own.reduce((sum, point) => sum + (weights[point] as number), 0));
  const roots = totals.reduce((sum, total) => sum + sqrt(total), 0);
  const out = new Float64Array(points.count);
  byUnit.forEach((own, unit) => {
    const total = totals[unit] as number;
    const most = max(LEAST_PER_UNIT, round((KEPT_POINTS * sqrt(total)) / roots));
    own.sort((a, b) => (weights[b] as number) - (weights[a] as number));
    // Alike weights are spread over the unit's range instead of taken from one end.
    const flat = (weights[own[0] ?? 0] as number) < 1.5 * (weights[own[Math.floor(own.length / 2)] ?? 0] as number);
    const stride = flat ? max(1, Math.floor(own.length / most)) : 1;
    const kept = own.filter((_, index) => index % stride === 0).slice(0, most);
    const share = kept.reduce((sum, point) => sum + (weights[point] as number), 0);
    for (const point of kept) out[point] = share === 0 ? 0 : ((weights[point] as number) * total) / share;
  });
  return out;
}

/**
 * Learns the tolerances at every point that still counts (one Kalman update per point over all readings that did not slip and
 * were taken while its fault was there).
 *
 * @param weights posterior of every point, any scale
 * @param alive which units the readings have not refuted
 * @param comesAndGoes whether the fault is absent at times
 */
export function believe(
  points: Points,
  columns: Columns,
  observations: readonly Observation[],
  evidence: Evidence,
  weights: Float64Array,
  alive: (unit: number) => boolean,
  comesAndGoes = false,
): Belief {
  const { slipped, absent, cured } = evidence;
  const d = columns.count;
  let heaviest = 0;
  for (const weight of weights) heaviest = max(heaviest, weight);
  const least = new Float64Array(points.units.length).fill(LEAST_SHARE * heaviest);
  const own = new Float64Array(points.units.length);
  for (let point = 0; point < points.count; point += 1) {
    const unit = points.unitOfFault[points.fault[point] as number] as number;
    own[unit] = max(own[unit] as number, weights[point] as number);
  }
  for (let unit = 0; unit < least.length; unit += 1) if (alive(unit)) least[unit] = min(least[unit] as number, LEAST_SHARE_ALIVE * (own[unit] as number));
  const active: ActivePoint[] = [];
  const counted = thinned(points, weights);
  const numeric = observations.flatMap((observation, index) => (observation.number === null ? [] : [{ observation, index }]));
  for (let point = 0; point < points.count; point += 1) {
    const weight = counted[point] as number;
    const unit = points.unitOfFault[points.fault[point] as number] as number;
    if (weight === 0 || (weights[point] as number) < (least[unit] as number)) continue;
    if (numeric.length === 0) {
      active.push({ point, unit, weight, learned: null });
      continue;
    }
    const used = numeric.filter(({ index }) => {
      const at = point * observations.length + index;
      return (slipped[at] as number) + (absent[at] as number) <= 0.5;
    });
    active.push({
      point,
      unit,
      weight,
      learned: learn(
        used.map(({ observation }) => observation),
        point,
        d,
      ),
    });
  }
  const base = comesAndGoes ? ABSENT_SHARE : 0;
  const quietShare = (point: number): number => 1 - (1 - (cured[point] ?? 0)) * (1 - Math.max(base, points.sometimes[point] === 1 ? QUIET_SHARE : 0));
  return { points, columns, ...placed(points, active), quietShare };
}

/** What is believed of some units alone. */
export function onlyUnits(belief: Belief, units: readonly number[]): Belief {
  const active = belief.active.filter(({ unit }) => units.includes(unit));
  return { ...belief, ...placed(belief.points, active) };
}

/** Active points with the units they belong to. */
function placed(points: Points, active: readonly ActivePoint[]): Pick<Belief, "active" | "members" | "rowOf"> {
  const members = [...new Set(active.map(({ unit }) => unit))].sort((first, second) => first - second);
  const rowOf = new Int32Array(points.units.length).fill(-1);
  members.forEach((unit, row) => {
    rowOf[unit] = row;
  });
  return { active, members, rowOf };
}

/** Conditions the shared variables on readings at a point (the usual normal conditioning, by a Cholesky factor of the readings' covariance). */
export function learn(readings: readonly Observation[], point: number, d: number): Learned {
  const count = readings.length;
  const read = new Float64Array(count * d);
  const missed = new Float64Array(count);
  const mean = new Float64Array(d);
  const spreads = new Float64Array(count * count);
  readings.forEach(({ table, number }, i) => {
    const slot = table.slot[point] as number;
    missed[i] = (number as number) - (table.mean[slot] as number);
    read.set(table.jacobian.subarray(slot * d, (slot + 1) * d), i * d);
    for (let j = 0; j <= i; j += 1) {
      let sum = i === j ? (table.noise[slot] as number) : 0;
      for (let k = 0; k < d; k += 1) sum += (read[i * d + k] as number) * (read[j * d + k] as number);
      spreads[i * count + j] = sum;
    }
  });
  choleskyInPlace(spreads, count);
  forwardInPlace(spreads, count, missed);
  for (let i = 0; i < count; i += 1) {
    for (let j = 0; j < i; j += 1) {
      const factor = spreads[i * count + j] as number;
      if (factor === 0) continue;
      for (let k = 0; k < d; k += 1) read[i * d + k] = (read[i * d + k] as number) - factor * (read[j * d + k] as number);
    }
    const scale = 1 / (spreads[i * count + i] as number);
    for (let k = 0; k < d; k += 1) {
      const own = (read[i * d + k] as number) * scale;
      read[i * d + k] = own;
      mean[k] = (mean[k] as number) + own * (missed[i] as number);
    }
  }
  return { mean, read, count };
}

/** Slopes of the row in hand that are not zero, and where they stand. */
const slopeRoom = new Float64Array(256);
const placeRoom = new Int32Array(256);

/** Mean and standard deviation of a probe at an active point, volts or log ohms. @param slot another state of the point than its usual one */
export function predictAt(belief: Belief, table: PredictionTable, active: ActivePoint, slot?: number): { mean: number; sigma: number } {
  return predictSlot(belief, table, active.learned, slot ?? (table.slot[active.point] as number));
}

function predictSlot(belief: Belief, table: PredictionTable, learned: Learned | null, slot: number): { mean: number; sigma: number } {
  const d = belief.columns.count;
  const start = slot * d;
  const noise = table.noise[slot] as number;
  let mean = table.mean[slot] as number;
  let variance = noise;
  let slopes = 0;
  for (let k = 0; k < d; k += 1) {
    const slope = table.jacobian[start + k] as number;
    if (slope === 0) continue;
    slopeRoom[slopes] = slope;
    placeRoom[slopes] = k;
    slopes += 1;
    variance += slope * slope;
  }
  if (learned === null) return { mean, sigma: sqrt(variance) };
  for (let at = 0; at < slopes; at += 1) mean += (slopeRoom[at] as number) * (learned.mean[placeRoom[at] as number] as number);
  for (let i = 0; i < learned.count; i += 1) {
    let known = 0;
    for (let at = 0; at < slopes; at += 1) known += (slopeRoom[at] as number) * (learned.read[i * d + (placeRoom[at] as number)] as number);
    variance -= known * known;
  }
  return { mean, sigma: sqrt(max(variance, noise)) };
}

/** In a job whose fault comes and goes: how likely it is absent while nobody knows. */
export const ABSENT_SHARE = 0.35;

/**
 * P(outcome and unit) of a probe: a row for every unit that still counts, over the bins that any of them reaches and then the
 * words. Rows sum to the units' weights.
 */
export interface Outcomes {
  /** Bins within reach and where they end, on the probe's scale. */
  readonly axis: Pick<Axis, "bins" | "edge">;
  readonly width: number;
  /** The unit of each row. */
  readonly members: readonly number[];
  readonly mass: Float64Array;
}

/**
 * The states active points may be in for one probe (its own, starved, or its fault not there): where they would read, and how likely each
 * is. Reused from call to call, since advice asks for thousands.
 */
class States {
  count = 0;
  row = new Int32Array(0);
  slot = new Int32Array(0);
  share = new Float64Array(0);
  mean = new Float64Array(0);
  sigma = new Float64Array(0);
  /** First and last bin within reach. */
  from = new Int32Array(0);
  to = new Int32Array(0);

  /** Empties the room and makes it large enough. */
  reset(most: number): void {
    this.count = 0;
    if (this.row.length >= most) return;
    const size = 2 * most;
    for (const field of ["row", "slot", "from", "to"] as const) this[field] = new Int32Array(size);
    for (const field of ["share", "mean", "sigma"] as const) this[field] = new Float64Array(size);
  }

  add(row: number, slot: number, share: number, mean: number, sigma: number, axis: Axis): void {
    const at = this.count;
    this.count = at + 1;
    this.row[at] = row;
    this.slot[at] = slot;
    this.share[at] = share;
    if (axis.bins === 0) return;
    this.mean[at] = mean;
    this.sigma[at] = sigma;
    this.from[at] = axis.binOf(mean - REACH * sigma);
    this.to[at] = axis.binOf(mean + REACH * sigma);
  }
}

const states = new States();

/** Lists the states of all active points under a probe. */
function listStates(belief: Belief, table: PredictionTable, axis: Axis): void {
  const { active, rowOf, columns } = belief;
  const numeric = axis.bins > 0;
  const { brinks } = table;
  states.reset(3 * active.length);
  for (const own of active) {
    const { point, unit, weight } = own;
    const row = rowOf[unit] as number;
    const twin = table.quiet[point] as number;
    const quiet = twin < 0 ? 0 : belief.quietShare(point);
    if (quiet > 0) {
      const slot = table.slot[twin] as number;
      const sigma = numeric ? sqrt(priorVariance(table, slot, columns.count)) : 1;
      states.add(row, slot, weight * quiet, numeric ? (table.mean[slot] as number) : 0, sigma, axis);
    }
    let present = weight * (1 - quiet);
    const brink = brinks === null ? undefined : brinks.get(point);
    if (brink !== undefined) {
      const starved = numeric ? predictAt(belief, table, own, brink.slot) : NOWHERE;
      states.add(row, brink.slot, present * brink.share, starved.mean, starved.sigma, axis);
      present *= 1 - brink.share;
    }
    const { mean, sigma } = numeric ? predictAt(belief, table, own) : NOWHERE;
    states.add(row, table.slot[point] as number, present, mean, sigma, axis);
  }
}

const NOWHERE = { mean: 0, sigma: 1 } as const;

/** Spreads every active point over the outcomes of a probe; slips are mixed in evenly over what can be seen. */
export function outcomesOf(belief: Belief, table: PredictionTable): Outcomes {
  const { members } = belief;
  const axis = axisOf(table);
  const wordCount = table.wordNames.length;
  listStates(belief, table, axis);
  let first = axis.bins;
  let last = -1;
  if (axis.bins > 0)
    for (let at = 0; at < states.count; at += 1) {
      first = min(first, states.from[at] as number);
      last = max(last, states.to[at] as number);
    }
  const bins = max(0, last - first + 1);
  const width = bins + wordCount;
  const mass = new Float64Array(members.length * width);
  const edges = edgesOf(axis);
  const { words } = table;
  for (let at = 0; at < states.count; at += 1) {
    const row = (states.row[at] as number) * width;
    const share = states.share[at] as number;
    const slot = (states.slot[at] as number) * wordCount;
    let left = share;
    for (let word = 0; word < wordCount; word += 1) {
      const part = share * (words[slot + word] as number);
      mass[row + bins + word] = (mass[row + bins + word] as number) + part;
      left -= part;
    }
    if (bins > 0 && left >= 1e-12) spread(mass, row - first, edges, at, left);
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
  return index <= 0 ? 0 : index >= CDF.length ? 1 : (CDF[index] as number);
}

/** Adds a state's normal share of mass to a row's bins. */
function spread(mass: Float64Array, row: number, edges: Float64Array, state: number, share: number): void {
  const first = states.from[state] as number;
  const last = states.to[state] as number;
  if (first === last) {
    mass[row + first] = (mass[row + first] as number) + share;
    return;
  }
  const mean = states.mean[state] as number;
  const inverse = 1 / (states.sigma[state] as number);
  let before = 0;
  for (let bin = first; bin <= last; bin += 1) {
    const after = bin === last ? 1 : quickCdf(((edges[bin + 1] as number) - mean) * inverse);
    mass[row + bin] = (mass[row + bin] as number) + share * (after - before);
    before = after;
  }
}

/** A slipped reading may land anywhere: moves a small share of a row evenly over it. */
function blurRow(mass: Float64Array, start: number, width: number): void {
  let total = 0;
  for (let k = 0; k < width; k += 1) total += mass[start + k] as number;
  if (total === 0) return;
  const floor = (BLUNDER_SHARE * total) / width;
  for (let k = 0; k < width; k += 1) mass[start + k] = (mass[start + k] as number) * (1 - BLUNDER_SHARE) + floor;
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
    const factor = scale[members[row] as number] as number;
    if (factor === 0) continue;
    let sum = 0;
    for (let k = 0; k < width; k += 1) {
      const value = factor * (mass[row * width + k] as number);
      if (value === 0) continue;
      sum += value;
      column[k] = (column[k] as number) + value;
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
    const value = column[k] as number;
    if (value > 0) columnsTerm += value * log(value);
  }
  return max(0, (rowsTerm - columnsTerm + total * log(total)) / total / Math.LN2);
}
