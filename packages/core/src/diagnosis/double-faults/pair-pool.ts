import type { Fault } from "../../faults";
import type { HypothesisGrid } from "../hypotheses/grid";
import type { WeighedCluster } from "../inference/cluster";
import type { Inference } from "../inference/inference";
import { CellWeigher } from "../likelihood/cell-weigher";
import { type Observation, steadyCircumstances } from "../likelihood/observation";
import { compatible, type Member, orderedPair, type Pair } from "./pair-fault";
import { gridOf } from "./pair-grid";

/** Every fault stands in the pool at so many severities, fewer where that would make too many pairs. */
const SEVERITIES = [3, 2, 1];
const MOST_PAIRS = 7000;

/** The cells of a fault in one world that stand for it: spread over its severities, in its likeliest variant. */
function standFor(grid: HypothesisGrid, fault: number, world: number, most: number): Member[] {
  const own: number[] = [];
  for (let cell = 0; cell < grid.count; cell += 1) {
    const at = grid.world[cell];
    if (grid.fault[cell] === fault && (at < 0 || at === world)) own.push(cell);
  }
  const heaviest = Math.max(...own.map((cell) => grid.variant[cell]?.weight ?? 1));
  const usual = own.filter((cell) => (grid.variant[cell]?.weight ?? 1) === heaviest).sort((a, b) => grid.severity[a] - grid.severity[b]);
  const count = Math.min(most, usual.length);
  return Array.from({ length: count }, (_, index) => {
    const cell = usual[Math.floor(((index + 0.5) * usual.length) / count)];
    return { fault: grid.faults[fault] as Fault, cell, severity: grid.severity[cell] };
  });
}

function pairsOf(grid: HypothesisGrid, world: number, severities: number): Pair[] {
  const faults = grid.faults.flatMap((fault, index) => (fault === null || fault.during !== null ? [] : [standFor(grid, index, world, severities)]));
  return faults.flatMap((first, index) =>
    faults
      .slice(index + 1)
      .flatMap((second) => first.flatMap((one) => second.flatMap((other) => (compatible(one.fault, other.fault) ? [orderedPair(one, other)] : [])))),
  );
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
  readonly pairs: readonly Pair[];
  /** For each pair the place of its two faults among all two faults. */
  readonly both: Int32Array;
  readonly inference: Inference;
}

/** A pair in the pool takes about so much besides its predictions, bytes. */
const BYTES_A_PAIR = 400;

/** All pairs of faults of one circuit in one world of its sensed quantity, coarsely; null where there are too many. */
function poolOf(inference: Inference, world: number): Pool | null {
  const { cache, scope } = inference.basis;
  return cache.keep(
    `${scope} pool ${world}`,
    () => {
      if (inference.circuits.length > 1) return null;
      const pairs = SEVERITIES.map((count) => pairsOf(inference.grid, world, count)).find(({ length }) => length <= MOST_PAIRS);
      return pairs === undefined || pairs.length === 0 ? null : makePool(inference, world, pairs);
    },
    (pool) => BYTES_A_PAIR * (pool?.pairs.length ?? 0),
  );
}

function makePool(inference: Inference, world: number, pairs: readonly Pair[]): Pool {
  const places = new Map<string, number>();
  const both = Int32Array.from(pairs, ({ first, second }) => {
    const key = `${first.fault.id}&${second.fault.id}`;
    const place = places.get(key) ?? places.size;
    places.set(key, place);
    return place;
  });
  return { pairs, both, inference: inference.under(`pool ${world}`, () => gridOfPool(inference.grid, pairs)) };
}

/** The value of the sensed quantity the readings speak for. */
function likeliestWorld({ inference: { grid }, evidence }: WeighedCluster): number {
  let best = -1;
  let top = Number.NEGATIVE_INFINITY;
  for (let cell = 0; cell < grid.count; cell += 1) {
    const weight = grid.logPrior[cell] + evidence.logLikelihood[cell];
    if (grid.world[cell] < 0 || weight <= top) continue;
    top = weight;
    best = grid.world[cell];
  }
  return best;
}

/** log P(one observation | pair), slips allowed for, under every pair of a pool; kept, since the next reading asks again. */
function explainedBy({ pairs, inference }: Pool, world: number, observation: Observation): Float64Array {
  const { cache, scope } = inference.basis;
  return cache.keep(
    `${scope} pool ${world} explains ${observation.key} ${observation.number} ${observation.word} ${observation.slipShare ?? ""}`,
    () => {
      const weigher = new CellWeigher([observation], inference.columns.count, steadyCircumstances(pairs.length));
      return Float64Array.from(pairs, (_, row) => weigher.apart(row));
    },
    ({ length }) => 8 * length,
  );
}

/**
 * The pairs of one circuit that explain its readings best, all two faults tried: two may explain together what neither explains in part.
 * Every reading is weighed by itself, without what others taught about tolerances: that is enough to choose whom to look at closely. Empty
 * for circuits that share something, which have too many.
 *
 * @param counts whether a pair is wanted
 */
export function bestOfPool(cluster: WeighedCluster, most: number, counts: (pair: Pair) => boolean): Pair[] {
  const world = likeliestWorld(cluster);
  const pool = poolOf(cluster.inference, world);
  if (pool === null) return [];
  const { pairs, both } = pool;
  const sum = new Float64Array(pairs.length);
  for (const observation of pool.inference.observe(cluster.own)) {
    const explained = explainedBy(pool, world, observation);
    for (let row = 0; row < sum.length; row += 1) sum[row] = sum[row] + explained[row];
  }
  const best = new Map<number, number>();
  for (let row = 0; row < sum.length; row += 1) {
    const place = both[row];
    const other = best.get(place);
    if (other === undefined || sum[row] > sum[other]) best.set(place, row);
  }
  return [...best.values()]
    .filter((row) => counts(pairs[row]))
    .sort((a, b) => sum[b] - sum[a])
    .slice(0, most)
    .map((row) => pairs[row]);
}
