import { logAdd } from "../../numeric";
import { CellWeigher, CURE_SHARE } from "./cell-weigher";
import { type Circumstances, circumstancesOf, type Evidence, type Observation, steadyCircumstances } from "./observation";
import { SLIP_SHARE } from "./slips";

// Taken out of Math once: these run millions of times.
const { exp, log } = Math;

/** Observations that were weighed before, with what came of it. */
export interface Weighed {
  readonly observations: readonly Observation[];
  readonly known: Circumstances;
  readonly evidence: Evidence;
}

/**
 * A cell this far below the best one before the new readings (log likelihood) is not weighed anew: they are added to what it had as if
 * its tolerances had not been learnt. It carries e^-40 of the weight and comes back into full weighing if the best one falls.
 */
const HOPELESS_LOG = 40;

/** log likelihood of a cell that is not weighed: no weight at all beside one that is. */
const EXCLUDED_LOG = -1e4;

/**
 * Weighs observations on every cell ({@link CellWeigher}). A bad contact that was unplugged counts as cured and as not cured, half and
 * half. Whatever was weighed before only saves time.
 *
 * @param d number of shared variables
 * @param before an earlier weighing of the same cells, used where it holds a part of the observations
 * @param among the cells that are weighed, null for all; the others are as good as excluded
 */
export function weigh(
  observations: readonly Observation[],
  grid: number,
  d: number,
  known: Circumstances = steadyCircumstances(grid),
  before: Weighed | null = null,
  among: readonly number[] | null = null,
): Evidence {
  const total = observations.length;
  const result: Evidence = {
    logLikelihood: new Float64Array(grid),
    slipped: new Float64Array(grid * total),
    absent: new Float64Array(grid * total),
    single: new Float64Array(grid * total),
    cured: new Float64Array(grid),
  };
  const hopeless = before === null ? null : carryOver(before, observations, known, d, result);
  const weigher = new CellWeigher(observations, d, known);
  const other = weigher.makeScratch();
  const base = total * log(1 - SLIP_SHARE);
  const alike = new Map<string, number>();
  const cells = among ?? Array.from({ length: grid }, (_, cell) => cell);
  if (among !== null) result.logLikelihood.fill(EXCLUDED_LOG);
  for (const cell of cells) {
    if (hopeless?.(cell) === true) continue;
    const key = keyOf(observations, known, cell);
    const twin = alike.get(key);
    if (twin !== undefined) {
      copyPoint(result, twin, cell, total);
      continue;
    }
    alike.set(key, cell);
    const own = weigher.evaluate(cell, null, weigher.scratch);
    const by = known.disturbedBy[cell];
    let kept = own;
    if (by >= 0) {
      const cured = weigher.evaluate(cell, known.after[by], other);
      const both = logAdd(own + log(1 - CURE_SHARE), cured + log(CURE_SHARE));
      const share = exp(cured + log(CURE_SHARE) - both);
      result.cured[cell] = share;
      weigher.blend(other, share);
      kept = both;
    }
    result.logLikelihood[cell] = base + kept;
    result.slipped.set(weigher.scratch.slipped, cell * total);
    result.absent.set(weigher.scratch.absent, cell * total);
    result.single.set(weigher.scratch.single, cell * total);
  }
  return result;
}

/** What a cell's evidence depends on: cells with the same key are weighed once (a fault of another circuit changes no reading). */
function keyOf(observations: readonly Observation[], known: Circumstances, cell: number): string {
  let key = `${known.sometimes[cell]} ${known.disturbedBy[cell]}`;
  for (const { table } of observations) {
    const twin = table.quiet[cell];
    key += ` ${table.slot[cell]}`;
    if (twin >= 0) key += `~${table.slot[twin]}`;
  }
  return key;
}

function copyPoint({ logLikelihood, slipped, absent, single, cured }: Evidence, from: number, to: number, total: number): void {
  logLikelihood[to] = logLikelihood[from];
  cured[to] = cured[from];
  for (const array of [slipped, absent, single]) array.copyWithin(to * total, from * total, (from + 1) * total);
}

/** For each observation its place among earlier ones, -1 for new ones; null where an earlier one is missing now or its circumstances changed. */
function placesBefore(before: Weighed, observations: readonly Observation[], known: Circumstances): number[] | null {
  if ((before.known.presence === null) !== (known.presence === null)) return null;
  const free = new Set(before.observations.keys());
  const find = (observation: Observation): number => {
    for (const index of free) {
      const old = before.observations[index];
      if (old?.table !== observation.table || old.number !== observation.number || old.word !== observation.word || old.slipShare !== observation.slipShare)
        continue;
      free.delete(index);
      return index;
    }
    return -1;
  };
  const places = observations.map(find);
  if (free.size > 0 || before.observations.length === 0) return null;
  const kept = places.every((place, index) => place < 0 || (before.known.presence?.[place] ?? 1) === (known.presence?.[index] ?? 1));
  return kept ? places : null;
}

/**
 * Prepares to carry over cells that no new reading can bring back.
 * @returns a function that fills a cell's evidence and says so where it is hopeless; null where nothing can be carried over
 */
function carryOver(before: Weighed, observations: readonly Observation[], known: Circumstances, d: number, into: Evidence): ((cell: number) => boolean) | null {
  const places = placesBefore(before, observations, known);
  if (places === null) return null;
  const total = observations.length;
  const earlier = before.observations.length;
  const fresh = places.flatMap((place, index) => (place < 0 ? [index] : []));
  const presence = known.presence === null ? null : fresh.map((index) => known.presence?.[index] ?? 1);
  const goes = fresh.map((index) => known.goes[index] ?? -1);
  const weigher = new CellWeigher(
    fresh.map((index) => observations[index]),
    d,
    { ...known, presence, goes },
  );
  const base = fresh.length * log(1 - SLIP_SHARE);
  const { evidence: old } = before;
  let top = Number.NEGATIVE_INFINITY;
  for (const value of old.logLikelihood) top = Math.max(top, value);
  return (cell) => {
    if (old.logLikelihood[cell] > top - HOPELESS_LOG) return false;
    into.logLikelihood[cell] = old.logLikelihood[cell] + base + weigher.evaluate(cell, null, weigher.scratch);
    into.cured[cell] = old.cured[cell];
    places.forEach((place, index) => {
      if (place < 0) return;
      for (const field of ["slipped", "absent", "single"] as const) into[field][cell * total + index] = old[field][cell * earlier + place];
    });
    fresh.forEach((index, at) => {
      for (const field of ["slipped", "absent", "single"] as const) into[field][cell * total + index] = weigher.scratch[field][at];
    });
    return true;
  };
}

/**
 * log P(observations | cell), slips allowed for, of a few cells alone, up to what is the same for all of them.
 *
 * @param chosen which of the observations count, by index
 * @param known circumstances of all the observations
 */
export function weighCells(
  observations: readonly Observation[],
  chosen: readonly number[],
  cells: readonly number[],
  d: number,
  known: Circumstances,
): Float64Array {
  const own = circumstancesOf(known, chosen);
  const weigher = new CellWeigher(
    chosen.map((index) => observations[index]),
    d,
    own,
  );
  const scratch = weigher.makeScratch();
  return Float64Array.from(cells, (cell) => {
    const plain = weigher.evaluate(cell, null, scratch);
    const by = own.disturbedBy[cell];
    return by < 0 ? plain : logAdd(plain + log(1 - CURE_SHARE), weigher.evaluate(cell, own.after[by], scratch) + log(CURE_SHARE));
  });
}
