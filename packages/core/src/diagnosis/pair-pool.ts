import type { Fault } from "../faults";
import type { CircuitEngine } from "./engine";
import { type Observation, PointWeigher, steadyCircumstances } from "./evidence";
import { compatible, type Member, orderedPair, type Pair } from "./pair-fault";
import { gridOf } from "./pair-grid";
import type { CasePart } from "./part";
import type { Points } from "./points";
import type { PredictionTable } from "./tables";

/** Every fault stands in the pool at so many severities, fewer where that would make too many pairs. */
const SEVERITIES = [3, 2, 1];
const MOST_PAIRS = 7000;

/** The points of a fault in one world that stand for it: spread over its severities, in its likeliest variant. */
function standFor(points: Points, fault: number, world: number, most: number): Member[] {
  const own: number[] = [];
  for (let point = 0; point < points.count; point += 1) {
    const at = points.world[point] as number;
    if (points.fault[point] === fault && (at < 0 || at === world)) own.push(point);
  }
  const heaviest = Math.max(...own.map((point) => points.variant[point]?.weight ?? 1));
  const usual = own
    .filter((point) => (points.variant[point]?.weight ?? 1) === heaviest)
    .sort((a, b) => (points.severity[a] as number) - (points.severity[b] as number));
  const count = Math.min(most, usual.length);
  return Array.from({ length: count }, (_, index) => {
    const point = usual[Math.floor(((index + 0.5) * usual.length) / count)] as number;
    return { fault: points.faults[fault] as Fault, point, severity: points.severity[point] as number };
  });
}

function pairsOf(points: Points, world: number, severities: number): Pair[] {
  const faults = points.faults.flatMap((fault, index) => (fault === null || fault.during !== null ? [] : [standFor(points, index, world, severities)]));
  return faults.flatMap((first, index) =>
    faults
      .slice(index + 1)
      .flatMap((second) => first.flatMap((one) => second.flatMap((other) => (compatible(one.fault, other.fault) ? [orderedPair(one, other)] : [])))),
  );
}

/** The pool keeps its predictions itself: its rows need no names. */
function gridOfPool(points: Points, pairs: readonly Pair[]): Points {
  return {
    ...gridOf(
      points,
      pairs.map((pair) => ({ point: pair.first.point, pair })),
    ),
    names: [],
  };
}

interface Pool {
  readonly pairs: readonly Pair[];
  /** For each pair the place of its two faults among all two faults. */
  readonly both: Int32Array;
  readonly engine: CircuitEngine;
  /** log P(reading | pair) under each pair, for readings of a probe by what was read. */
  readonly known: WeakMap<PredictionTable, Map<string, Float64Array>>;
}

const pools = new WeakMap<CircuitEngine, Map<number, Pool | null>>();

/** All pairs of faults of one circuit in one world of its sensed quantity, coarsely; null where there are too many. */
function poolOf(engine: CircuitEngine, world: number): Pool | null {
  const made = pools.get(engine) ?? new Map<number, Pool | null>();
  pools.set(engine, made);
  const found = made.get(world);
  if (found !== undefined) return found;
  const pairs =
    engine.circuits.length > 1 ? undefined : SEVERITIES.map((count) => pairsOf(engine.points, world, count)).find(({ length }) => length <= MOST_PAIRS);
  const pool = pairs === undefined || pairs.length === 0 ? null : makePool(engine, pairs);
  made.set(world, pool);
  return pool;
}

function makePool(engine: CircuitEngine, pairs: readonly Pair[]): Pool {
  const places = new Map<string, number>();
  const both = Int32Array.from(pairs, ({ first, second }) => {
    const key = `${first.fault.id}&${second.fault.id}`;
    const place = places.get(key) ?? places.size;
    places.set(key, place);
    return place;
  });
  return { pairs, both, engine: engine.beside(gridOfPool(engine.points, pairs)), known: new WeakMap() };
}

/** The value of the sensed quantity the readings speak for. */
function likeliestWorld({ engine: { points }, evidence }: CasePart): number {
  let best = -1;
  let top = Number.NEGATIVE_INFINITY;
  for (let point = 0; point < points.count; point += 1) {
    const weight = (points.logPrior[point] as number) + (evidence.logLikelihood[point] as number);
    if ((points.world[point] as number) < 0 || weight <= top) continue;
    top = weight;
    best = points.world[point] as number;
  }
  return best;
}

/** log P(one observation | pair), slips allowed for, under every pair of a pool. */
function explainedBy({ pairs, engine, known }: Pool, observation: Observation): Float64Array {
  const own = known.get(observation.table) ?? new Map<string, Float64Array>();
  known.set(observation.table, own);
  const key = `${observation.number} ${observation.word}`;
  const found = own.get(key);
  if (found !== undefined) return found;
  const weigher = new PointWeigher([observation], engine.columns.count, steadyCircumstances(pairs.length));
  const explained = Float64Array.from(pairs, (_, row) => weigher.apart(row));
  own.set(key, explained);
  return explained;
}

/**
 * The pairs of one circuit that explain its readings best, all two faults tried: two may explain together what neither explains in part.
 * Every reading is weighed by itself, without what others taught about tolerances: that is enough to choose whom to look at closely. Empty
 * for circuits that share something, which have too many.
 *
 * @param counts whether a pair is wanted
 */
export function bestOfPool(part: CasePart, most: number, counts: (pair: Pair) => boolean): Pair[] {
  const pool = poolOf(part.engine, likeliestWorld(part));
  if (pool === null) return [];
  const { pairs, both } = pool;
  const sum = new Float64Array(pairs.length);
  for (const observation of pool.engine.observe(part.own)) {
    const explained = explainedBy(pool, observation);
    for (let row = 0; row < sum.length; row += 1) sum[row] = (sum[row] as number) + (explained[row] as number);
  }
  const best = new Map<number, number>();
  for (let row = 0; row < sum.length; row += 1) {
    const place = both[row] as number;
    const other = best.get(place);
    if (other === undefined || (sum[row] as number) > (sum[other] as number)) best.set(place, row);
  }
  return [...best.values()]
    .filter((row) => counts(pairs[row] as Pair))
    .sort((a, b) => (sum[b] as number) - (sum[a] as number))
    .slice(0, most)
    .map((row) => pairs[row] as Pair);
}
