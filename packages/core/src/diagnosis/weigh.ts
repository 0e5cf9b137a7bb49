import { BLUNDER_SHARE, type Circumstances, CURE_SHARE, type Evidence, type Observation, PointWeigher, steadyCircumstances } from "./evidence";
import { logAdd } from "./gaussian";

// Taken out of Math once: these run millions of times.
const { exp, log } = Math;

/** Observations that were weighed before, with what came of it. */
export interface Weighed {
  readonly observations: readonly Observation[];
  readonly known: Circumstances;
  readonly evidence: Evidence;
}

/**
 * A point this far below the best one before the new readings (log likelihood) is not weighed anew: they are added to what it had as if
 * its tolerances had not been learnt. It carries e^-40 of the weight and comes back into full weighing if the best one falls.
 */
const HOPELESS_LOG = 40;

/**
 * Weighs observations on every point ({@link PointWeigher}). A bad contact that was unplugged counts as cured and as not cured, half and
 * half. Whatever was weighed before only saves time.
 *
 * @param d number of shared variables
 * @param before an earlier weighing of the same points, used where it holds a part of the observations
 */
export function weigh(
  observations: readonly Observation[],
  points: number,
  d: number,
  known: Circumstances = steadyCircumstances(points),
  before: Weighed | null = null,
): Evidence {
  const total = observations.length;
  const result: Evidence = {
    logLikelihood: new Float64Array(points),
    slipped: new Float64Array(points * total),
    absent: new Float64Array(points * total),
    single: new Float64Array(points * total),
    cured: new Float64Array(points),
  };
  const hopeless = before === null ? null : carryOver(before, observations, known, d, result);
  const weigher = new PointWeigher(observations, d, known);
  const other = weigher.makeRoom();
  const base = total * log(1 - BLUNDER_SHARE);
  const alike = new Map<string, number>();
  for (let point = 0; point < points; point += 1) {
    if (hopeless?.(point) === true) continue;
    const key = keyOf(observations, known, point);
    const twin = alike.get(key);
    if (twin !== undefined) {
      copyPoint(result, twin, point, total);
      continue;
    }
    alike.set(key, point);
    const own = weigher.evaluate(point, null, weigher.room);
    const by = known.disturbedBy[point] as number;
    let kept = own;
    if (by >= 0) {
      const cured = weigher.evaluate(point, known.after[by] as Uint8Array, other);
      const both = logAdd(own + log(1 - CURE_SHARE), cured + log(CURE_SHARE));
      const share = exp(cured + log(CURE_SHARE) - both);
      result.cured[point] = share;
      weigher.blend(other, share);
      kept = both;
    }
    result.logLikelihood[point] = base + kept;
    result.slipped.set(weigher.room.slipped, point * total);
    result.absent.set(weigher.room.absent, point * total);
    result.single.set(weigher.room.single, point * total);
  }
  return result;
}

/** What a point's evidence depends on: points with the same key are weighed once (a fault of another circuit changes no reading). */
function keyOf(observations: readonly Observation[], known: Circumstances, point: number): string {
  let key = `${known.sometimes[point]} ${known.disturbedBy[point]}`;
  for (const { table } of observations) {
    const twin = table.quiet[point] as number;
    key += ` ${table.slot[point]}`;
    if (twin >= 0) key += `~${table.slot[twin]}`;
  }
  return key;
}

function copyPoint({ logLikelihood, slipped, absent, single, cured }: Evidence, from: number, to: number, total: number): void {
  logLikelihood[to] = logLikelihood[from] as number;
  cured[to] = cured[from] as number;
  for (const array of [slipped, absent, single]) array.copyWithin(to * total, from * total, (from + 1) * total);
}

/** For each observation its place among earlier ones, -1 for new ones; null where an earlier one is missing now or its circumstances changed. */
function placesBefore(before: Weighed, observations: readonly Observation[], known: Circumstances): number[] | null {
  if ((before.known.presence === null) !== (known.presence === null)) return null;
  const earlier = new Map(before.observations.map((observation, index) => [observation, index]));
  const find = (observation: Observation): number => {
    for (const [old, index] of earlier) {
      const same = old.table === observation.table && old.number === observation.number && old.word === observation.word && old.id === observation.id;
      if (same) return index;
    }
    return -1;
  };
  const places = observations.map(find);
  const found = places.filter((place) => place >= 0).length;
  if (found < before.observations.length || found === 0) return null;
  const kept = places.every((place, index) => place < 0 || (before.known.presence?.[place] ?? 1) === (known.presence?.[index] ?? 1));
  return kept ? places : null;
}

/**
 * Prepares to carry over points that no new reading can bring back.
 * @returns a function that fills a point's evidence and says so where it is hopeless; null where nothing can be carried over
 */
function carryOver(
  before: Weighed,
  observations: readonly Observation[],
  known: Circumstances,
  d: number,
  into: Evidence,
): ((point: number) => boolean) | null {
  const places = placesBefore(before, observations, known);
  if (places === null) return null;
  const total = observations.length;
  const earlier = before.observations.length;
  const fresh = places.flatMap((place, index) => (place < 0 ? [index] : []));
  const presence = known.presence === null ? null : fresh.map((index) => known.presence?.[index] ?? 1);
  const weigher = new PointWeigher(
    fresh.map((index) => observations[index] as Observation),
    d,
    { ...known, presence },
  );
  const base = fresh.length * log(1 - BLUNDER_SHARE);
  const { evidence: old } = before;
  let top = Number.NEGATIVE_INFINITY;
  for (const value of old.logLikelihood) top = Math.max(top, value);
  return (point) => {
    if ((old.logLikelihood[point] as number) > top - HOPELESS_LOG) return false;
    into.logLikelihood[point] = (old.logLikelihood[point] as number) + base + weigher.evaluate(point, null, weigher.room);
    into.cured[point] = old.cured[point] as number;
    places.forEach((place, index) => {
      if (place < 0) return;
      for (const field of ["slipped", "absent", "single"] as const) into[field][point * total + index] = old[field][point * earlier + place] as number;
    });
    fresh.forEach((index, at) => {
      for (const field of ["slipped", "absent", "single"] as const) into[field][point * total + index] = weigher.room[field][at] as number;
    });
    return true;
  };
}
