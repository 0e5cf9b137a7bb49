import type { Fault } from "../../faults";
import { lazy, piecesOf, type Steps } from "../../numeric";
import type { HypothesisGrid } from "../hypotheses/grid";
import type { WeighedCluster } from "../inference/cluster";
import type { Inference } from "../inference/inference";
import { type Stretch, stretchesOf } from "../inference/stretches";
import { CellWeigher } from "../likelihood/cell-weigher";
import { type Observation, steadyCircumstances } from "../likelihood/observation";
import { compatible, type Member, orderedPair, type Pair } from "./pair-fault";
import { gridOf } from "./pair-grid";

/** Every fault stands in the pool at so many severities, fewer where that would make too many pairs. */
const SEVERITIES = [2, 1];
const MOST_PAIRS = 7000;
/** The same where the circuit is one of several that share something: their networks are larger, and there are more pools. */
const MOST_OF_SEVERAL = 4000;

/** The cells of a fault in one world that stand for it: spread over its usual severities, in its likeliest variant. */
function standFor(grid: HypothesisGrid, fault: number, world: number, most: number): Member[] {
  const own: number[] = [];
  for (let cell = 0; cell < grid.count; cell += 1) {
    const at = grid.world[cell];
    if (grid.fault[cell] === fault && (at < 0 || at === world)) own.push(cell);
  }
  const heaviest = Math.max(...own.map((cell) => grid.variant[cell]?.weight ?? 1));
  const { usualFrom = 0, usualTo = Number.POSITIVE_INFINITY } = grid.faults[fault] ?? {};
  const usual = own
    .filter((cell) => (grid.variant[cell]?.weight ?? 1) === heaviest && grid.severity[cell] >= usualFrom && grid.severity[cell] <= usualTo)
    .sort((a, b) => grid.severity[a] - grid.severity[b]);
  const count = Math.min(most, usual.length);
  return Array.from({ length: count }, (_, index) => {
    const cell = usual[Math.floor(((index + 0.5) * usual.length) / count)];
    return { fault: grid.faults[fault] as Fault, cell, severity: grid.severity[cell] };
  });
}

/** Which two faults are paired in a pool. */
type Paired = (one: Fault, other: Fault) => boolean;

/** The pairs of a circuit: of its own faults where it is one of several, with any other fault's where the others hang on it. */
function pairedIn({ circuits }: Inference, circuit: string): Paired {
  if (circuits.length < 2) return () => true;
  const bus = circuits.some(({ shares }) => shares.some((share) => share.bus === circuit));
  return (one, other) => (bus ? one.circuit === circuit || other.circuit === circuit : one.circuit === circuit && other.circuit === circuit);
}

function pairsOf(grid: HypothesisGrid, paired: Paired, world: number, severities: number): Pair[] {
  const faults = grid.faults.flatMap((fault, index) => (fault === null || fault.during !== null ? [] : [{ fault, index }]));
  const standing = faults.map(({ fault, index }) => ({ fault, members: lazy(() => standFor(grid, index, world, severities)) }));
  return standing.flatMap((first, index) =>
    standing
      .slice(index + 1)
      .filter((second) => paired(first.fault, second.fault) && compatible(first.fault, second.fault))
      .flatMap((second) => first.members().flatMap((one) => second.members().map((other) => orderedPair(one, other)))),
  );
}

/** A grid whose severities are as wide as they must be where so few of them stand for a fault. */
function widened(grid: HypothesisGrid, severities: number): HypothesisGrid {
  const spread = grid.severitySpread.map(
    (own, cell) => own * Math.max(1, grid.sharing[cell] / Math.max(1, grid.faults[grid.fault[cell]]?.variants.length ?? 1) / severities),
  );
  return { ...grid, severitySpread: spread };
}

/** The pool keeps its predictions itself: its rows need no names. */
function gridOfPool(grid: HypothesisGrid, pairs: readonly Pair[]): HypothesisGrid {
  return {
    ...gridOf(
      grid,
      pairs.map((pair) => ({ cell: pair.first.cell, pair })),
    ),
    kind: "pool",
    names: [],
  };
}

interface Pool {
  /** Names it among the pools of the same circuits. */
  readonly name: string;
  readonly pairs: readonly Pair[];
  /** For each pair the place of its two faults among all two faults. */
  readonly both: Int32Array;
  readonly inference: Inference;
}

/** A pair in the pool takes about so much besides its predictions, bytes. */
const BYTES_A_PAIR = 400;

/** All pairs of faults of one circuit in one world of its sensed quantity, coarsely; null where there are too many. */
function poolOf(inference: Inference, circuit: string, world: number): Pool | null {
  const { cache, scope } = inference.basis;
  const name = `pool ${circuit} ${world}`;
  return cache.keep(
    `${scope} ${name}`,
    () => {
      const several = inference.circuits.length > 1;
      const paired = pairedIn(inference, circuit);
      for (const count of SEVERITIES) {
        const pairs = pairsOf(inference.grid, paired, world, count);
        if (pairs.length === 0) return null;
        if (pairs.length <= (several ? MOST_OF_SEVERAL : MOST_PAIRS)) return makePool(inference, name, pairs, widened(inference.grid, count));
      }
      return null;
    },
    (pool) => BYTES_A_PAIR * (pool?.pairs.length ?? 0),
  );
}

function makePool(inference: Inference, name: string, pairs: readonly Pair[], grid: HypothesisGrid): Pool {
  const places = new Map<string, number>();
  const both = Int32Array.from(pairs, ({ first, second }) => {
    const key = `${first.fault.id}&${second.fault.id}`;
    const place = places.get(key) ?? places.size;
    places.set(key, place);
    return place;
  });
  return { name, pairs, both, inference: inference.under(name, () => gridOfPool(grid, pairs)) };
}

/** The value of a circuit's sensed quantity the readings speak for; -1 where it senses none. */
function likeliestWorld({ inference: { grid }, evidence }: WeighedCluster, circuit: string): number {
  let best = -1;
  let top = Number.NEGATIVE_INFINITY;
  for (let cell = 0; cell < grid.count; cell += 1) {
    const weight = grid.logPrior[cell] + evidence.logLikelihood[cell];
    if (grid.worlds[grid.world[cell]]?.circuit !== circuit || weight <= top) continue;
    top = weight;
    best = grid.world[cell];
  }
  return best;
}

/** log P(one observation | pair), slips allowed for, under the pairs of a pool; NaN where nobody asked yet. Kept, since the next reading asks again. */
function explainedBy({ name, pairs, inference }: Pool, observation: Observation): Float64Array {
  const { cache, scope } = inference.basis;
  return cache.keep(
    `${scope} ${name} explains ${observation.key} ${observation.number} ${observation.word} ${observation.slipShare ?? ""}`,
    () => new Float64Array(pairs.length).fill(Number.NaN),
    ({ length }) => 8 * length,
  );
}

/** What is known of the pairs while they are tried on one reading after another. */
interface Tried {
  readonly pool: Pool;
  /** Sum of log P(one observation alone | pair) over the stretches weighed so far. */
  readonly sum: Float64Array;
}

/** A pair may explain a stretch a little better than any single fault does, logarithm. */
const SLACK = 0.5;
/** A pair that stays this far behind the best one, logarithm, is no rival of anybody. */
const HOPELESS = 12;

/** So many pairs are solved in one go. */
const PAIRS_A_STEP = 400;

/** Weighs pairs on the next stretch. */
function* weighOn({ pool, sum }: Tried, { observations }: Stretch, rows: readonly number[]): Steps<void> {
  const explained = observations.map((observation) => explainedBy(pool, observation));
  const asked = rows.filter((row) => explained.some((known) => Number.isNaN(known[row])));
  const tables = observations.map(({ table }) => table);
  const weighers = observations.map((observation) => new CellWeigher([observation], pool.inference.columns.count, steadyCircumstances(pool.pairs.length)));
  for (const piece of piecesOf(asked, PAIRS_A_STEP)) {
    pool.inference.fill(tables, piece);
    weighers.forEach((weigher, at) => {
      for (const row of piece) explained[at][row] = weigher.apart(row);
    });
    yield;
  }
  for (const row of rows) for (const known of explained) sum[row] = sum[row] + known[row];
}

/** Rows of which each two faults are counted once, by their best, the best first. */
function bestOfEach({ pool: { both }, sum }: Tried, rows: readonly number[]): number[] {
  const best = new Map<number, number>();
  for (const row of rows) {
    const other = best.get(both[row]);
    if (other === undefined || sum[row] > sum[other]) best.set(both[row], row);
  }
  return [...best.values()].sort((a, b) => sum[b] - sum[a]);
}

/** Which pairs are looked for. */
export interface Wanted {
  readonly most: number;
  readonly counts: (pair: Pair) => boolean;
  /** log P(the readings, each alone) that a pair has to reach. */
  readonly floor: number;
}

/**
 * The pairs of one circuit that explain its readings best, all two faults tried: two may explain together what neither explains in part.
 * Every reading is weighed by itself, without what others taught about tolerances: that is enough to choose whom to look at closely. A pair
 * that could not come among the best any more, if all further readings fitted it as well as they fit anybody, is left where it is.
 */
export function* bestOfPool(cluster: WeighedCluster, circuit: string, { most, counts, floor }: Wanted): Steps<Pair[]> {
  const pool = poolOf(cluster.inference, circuit, likeliestWorld(cluster, circuit));
  if (pool === null) return [];
  const { pairs } = pool;
  const tried: Tried = { pool, sum: new Float64Array(pairs.length) };
  let rows = pairs.map((_, row) => row).filter((row) => counts(pairs[row]));
  const [first, ...further] = stretchesOf(cluster, pool.inference.observe(cluster.own, []));
  const leftFrom = (at: number): number => further.slice(at).reduce((sum, { most: each }) => sum + each + SLACK, 0);
  if (first !== undefined) yield* weighOn(tried, first, rows);
  rows = rows.filter((row) => tried.sum[row] + leftFrom(0) >= floor);
  // The best so far go ahead: what they reach in the end is what the others have to reach.
  const leading = bestOfEach(tried, rows).slice(0, most);
  for (const stretch of further) yield* weighOn(tried, stretch, leading);
  const reached = leading.map((row) => tried.sum[row]);
  const least = Math.max(floor, leading.length < most ? Number.NEGATIVE_INFINITY : Math.max(Math.min(...reached), Math.max(...reached) - HOPELESS));
  const ahead = new Set(leading);
  let hopeful = rows.filter((row) => !ahead.has(row));
  for (const [at, stretch] of further.entries()) {
    const left = leftFrom(at);
    hopeful = hopeful.filter((row) => tried.sum[row] + left >= least);
    yield* weighOn(tried, stretch, hopeful);
  }
  return bestOfEach(
    tried,
    [...leading.filter((row) => tried.sum[row] >= floor), ...hopeful].sort((a, b) => a - b),
  )
    .slice(0, most)
    .map((row) => pairs[row]);
}
