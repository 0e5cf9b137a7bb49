import { circuitOfUnit } from "@fox-lamp/language";
import type { Fault } from "../../faults";
import type { Steps } from "../../numeric";
import type { HypothesisGrid } from "../hypotheses/grid";
import type { WeighedCluster } from "../inference/cluster";
import type { Inference } from "../inference/inference";
import { apartAt } from "../inference/stretches";
import { learn, usedAt } from "../likelihood/learn";
import { logSlip } from "../likelihood/slips";
import { REFUTED_LOG } from "../posterior/unit-evidence";
import { acrossCircuits } from "./across";
import { compatible, type Member, orderedPair, type Pair, steppedSeverity } from "./pair-fault";
import { gridOf, pairKey, type Row } from "./pair-grid";
import { bestOfPool, type Wanted } from "./pair-pool";

/** A first fault is taken from this many that explain the readings best with some of them slipped. */
const FIRST_FAULTS = 24;
/** A second fault is tried at this many cells: those that explain what the first leaves over. */
const SECOND_POINTS = 36;
/** So many of them of one fault. */
const POINTS_PER_FAULT = 3;
/** Pairs that are solved at first, where no single fault fits and where one does: those whose members, each weighed alone, promise most together. */
const MOST_PAIRS = 220;
const MOST_CHALLENGERS = 45;
/** With fewer observations than this every two faults fit: the search is not made thorough. */
const THOROUGH_FROM = 5;
/** A reading the first fault leaves over slipped with at least this probability under it. */
const LEFT_OVER = 0.3;
/** Single faults that compete with the pairs, by their best cells; where one is only challenged few others count. */
const SINGLE_POINTS = 40;
const CHALLENGED_POINTS = 16;
/** Pairs whose severities are fitted once more before they compete with single faults; pairs whose members are tried beside every other fault. */
const FITTED = 70;
const FITTED_OF_SEVERAL = 140;
const FITTED_CHALLENGERS = 32;
const EXCHANGED = 4;
/** Whoever comes to the top by an exchange has its turn in the next round. */
const MOST_ROUNDS = 3;
/** So many of all pairs of a circuit, coarsely tried, are looked at more closely; of each of several circuits; and of those in two circuits. */
const POOLED = 60;
const POOLED_OF_SEVERAL = 20;
const ACROSS = 120;
/** A fitting step moves a severity by at most so many standard deviations of its grid cell. */
const MOST_STEP = 8;

/**
 * Whoever explains the readings twenty times worse than a leader is no rival of it. Pairs are tried at few severities and before they learn anything
 * from the readings: so much better may one still become, logarithm.
 */
const CHALLENGE_SLACK = 3;

/** Weighs a set of hypotheses on the case's readings. */
export type Weigh = (inference: Inference) => WeighedCluster;

/** A cell of the grid as a member of a pair. */
function memberAt(grid: HypothesisGrid, cell: number): Member {
  return { fault: grid.faults[grid.fault[cell]] as Fault, cell, severity: grid.severity[cell] };
}

/** The best cells of the likeliest faults with the readings they have to call slipped. */
function firstFaults({ inference, evidence }: WeighedCluster): Member[] {
  const { grid } = inference;
  const best = new Map<number, number>();
  for (let cell = 0; cell < grid.count; cell += 1) {
    const fault = grid.fault[cell];
    if (fault === 0) continue;
    const kept = best.get(fault);
    if (kept === undefined || evidence.logLikelihood[cell] > evidence.logLikelihood[kept]) best.set(fault, cell);
  }
  return [...best.values()]
    .sort((x, y) => evidence.logLikelihood[y] - evidence.logLikelihood[x])
    .slice(0, FIRST_FAULTS)
    .map((cell) => memberAt(grid, cell));
}

interface Candidate {
  readonly pair: Pair;
  /** Estimated log likelihood of both together. */
  readonly score: number;
}

interface Scored {
  readonly cell: number;
  readonly score: number;
}

/** The best cells of every fault under a score that can stand beside a cell in one world, few of each fault. */
function bestOfFaults(grid: HypothesisGrid, own: number, perFault: number, scoreOf: (cell: number) => number): Scored[][] {
  const world = grid.worlds[own];
  // Two faults of one circuit see the same quantity.
  const excluded = grid.worlds.map((other, index) => index !== own && other.circuit === world?.circuit);
  const kept: Scored[][] = grid.faults.map(() => []);
  const least = new Float64Array(grid.faults.length).fill(Number.NEGATIVE_INFINITY);
  for (let cell = 0; cell < grid.count; cell += 1) {
    const fault = grid.fault[cell];
    if (fault === 0 || excluded[grid.world[cell]] === true) continue;
    const score = scoreOf(cell);
    if (score <= least[fault]) continue;
    const best = kept[fault];
    const at = best.findIndex((one) => one.score < score);
    best.splice(at < 0 ? best.length : at, 0, { cell, score });
    if (best.length > perFault) best.length = perFault;
    if (best.length === perFault) least[fault] = best[perFault - 1]?.score ?? 0;
  }
  return kept;
}

/** A fault with the best cells of all that can be there beside it, the best first. */
function partnersOf(grid: HypothesisGrid, first: Member, best: readonly Scored[][], further: number, most: number): Candidate[] {
  return grid.faults
    .flatMap((fault, index) => (fault !== null && compatible(first.fault, fault) ? best[index] : []))
    .sort((a, b) => b.score - a.score)
    .slice(0, most)
    .map(({ cell, score }) => ({ pair: orderedPair(first, memberAt(grid, cell)), score: score + further }));
}

/** For every first fault the second ones that explain what it leaves over; all of them, the best first. */
function candidatesOf(cluster: WeighedCluster): Candidate[] {
  const { inference, evidence, observations } = cluster;
  const { grid } = inference;
  const total = observations.length;
  const known = new Map<string, Scored[][]>();
  const candidates = firstFaults(cluster).flatMap((first) => {
    const left = observations.flatMap((_, index) => (evidence.slipped[first.cell * total + index] > LEFT_OVER ? [index] : []));
    if (left.length === 0) return [];
    // What the first fault explains, without the price of calling the rest slipped.
    const explained = left.reduce((sum, index) => sum - logSlip(observations[index]), evidence.logLikelihood[first.cell]);
    const world = grid.world[first.cell];
    const key = `${world} ${left.join()}`;
    const scoreOf = (cell: number): number => left.reduce((sum, index) => sum + evidence.single[cell * total + index], 0);
    const best = known.get(key) ?? bestOfFaults(grid, world, POINTS_PER_FAULT, scoreOf);
    known.set(key, best);
    return partnersOf(grid, first, best, explained, SECOND_POINTS);
  });
  return candidates.sort((a, b) => b.score - a.score);
}

/** A weighed set of rows; the pairs among them, the best first. */
interface Weighed {
  readonly rows: readonly Row[];
  readonly cluster: WeighedCluster;
  readonly best: readonly { readonly pair: Pair; readonly row: number; readonly logLikelihood: number }[];
}

/**
 * In how many values of the sensed quantity the readings leave a pair alike, though it is tried in one: single faults have a cell in each.
 * @returns by value, 1 where the readings settle it
 */
function alikeWorlds({ inference: { grid }, evidence }: WeighedCluster): number[] {
  const weight = (cell: number): number => grid.logPrior[cell] + evidence.logLikelihood[cell];
  const cells = Array.from({ length: grid.count }, (_, cell) => cell).filter((cell) => grid.world[cell] >= 0);
  const top = cells.reduce((most, cell) => Math.max(most, weight(cell)), Number.NEGATIVE_INFINITY);
  const sums = grid.worlds.map(() => 0);
  for (const cell of cells) sums[grid.world[cell]] = (sums[grid.world[cell]] ?? 0) + Math.exp(weight(cell) - top);
  return grid.worlds.map(({ circuit }, world) => {
    const all = sums.reduce((sum, one, other) => (grid.worlds[other]?.circuit === circuit ? sum + one : sum), 0);
    return Math.max(1, Math.min(4, Math.round(all / Math.max(1e-300, sums[world] ?? 0))));
  });
}

function weighRows(inference: Inference, rows: readonly Row[], weigh: Weigh, alike: readonly number[]): Weighed {
  const key = rows.map(({ cell, pair }) => (pair === null ? `${cell}` : pairKey(pair)));
  const cluster = weigh(inference.under(`${alike.join("")} ${key.join()}`, () => gridOf(inference.grid, rows, alike)));
  const best = rows.flatMap(({ pair }, row) => (pair === null ? [] : [{ pair, row, logLikelihood: cluster.evidence.logLikelihood[row] }]));
  // Among pairs that explain the readings alike the usual faults come first.
  const promise = ({ pair, logLikelihood }: (typeof best)[number]): number => logLikelihood + Math.log(pair.first.fault.prior * pair.second.fault.prior);
  best.sort((a, b) => promise(b) - promise(a));
  return { rows, cluster, best };
}

/** A pair with its severities moved to where the readings put them. */
function fitted(grid: HypothesisGrid, { inference, evidence, observations }: WeighedCluster, { pair, row }: Weighed["best"][number]): Pair {
  const { columns } = inference;
  const { mean } = learn(usedAt(evidence, observations, row), row, columns.count);
  const step = (column: number | null): number => (column === null ? 0 : Math.max(-MOST_STEP, Math.min(MOST_STEP, mean[column])));
  const move = (member: Member, by: number): Member => ({ ...member, severity: steppedSeverity(grid, member, by) });
  return { first: move(pair.first, step(columns.severity)), second: move(pair.second, step(columns.other)) };
}

function nameOf({ first, second }: Pair): string {
  return [first.fault.id, second.fault.id].sort().join("&");
}

/** The best of each two faults. */
function distinct(best: Weighed["best"], most: number): Weighed["best"][number][] {
  const seen = new Set<string>();
  return best
    .filter(({ pair }) => {
      const name = nameOf(pair);
      if (seen.has(name)) return false;
      seen.add(name);
      return true;
    })
    .slice(0, most);
}

/**
 * Faults beside every other one: two faults may explain together what neither explains alone, and whoever fits half of the readings may
 * have the wrong partner. Others are tried where they explain most readings by themselves.
 *
 * @param tried faults whose turn has been, added to
 */
function besideAll({ inference, evidence, observations }: WeighedCluster, members: readonly Member[], tried: Set<string>): Pair[] {
  const { grid } = inference;
  const total = observations.length;
  const alone = (cell: number): number => {
    let sum = 0;
    for (let index = 0; index < total; index += 1) sum += evidence.single[cell * total + index];
    return sum;
  };
  const fresh = members.filter(({ fault: { id } }) => {
    const first = !tried.has(id);
    tried.add(id);
    return first;
  });
  return fresh.flatMap((member) => {
    const best = bestOfFaults(grid, grid.world[member.cell], 1, alone);
    return partnersOf(grid, member, best, 0, Number.POSITIVE_INFINITY).map(({ pair }) => pair);
  });
}

/** The members of the best pairs. */
function membersOfBest({ best }: Weighed): Member[] {
  return distinct(best, EXCHANGED).flatMap(({ pair }) => [pair.first, pair.second]);
}

/**
 * The circuits weighed over the sound ones, the best single faults and the pairs that could explain what each of these leaves over, or all
 * readings together; null where there are none. Severities of the best pairs are fitted to the readings.
 *
 * @param led units of whoever leads and is challenged: pairs it is cluster of say nothing against it. Null where no single fault fits: then
 *   partners are exchanged too
 */
export function* weighPairs(cluster: WeighedCluster, weigh: Weigh, led: readonly string[] | null): Steps<WeighedCluster | null> {
  const misfit = led === null;
  const alike = alikeWorlds(cluster);
  const thorough = misfit && cluster.observations.length >= THOROUGH_FROM;
  const { inference, evidence } = cluster;
  const { grid } = inference;
  const several = inference.circuits.length > 1;
  const singles: Row[] = [];
  for (let cell = 0; cell < grid.count; cell += 1) if (grid.fault[cell] === 0) singles.push({ cell, pair: null });
  const weightOf = (cell: number): number => grid.logPrior[cell] + evidence.logLikelihood[cell];
  const order = Array.from({ length: grid.count }, (_, cell) => cell).filter((cell) => grid.fault[cell] !== 0);
  order.sort((a, b) => weightOf(b) - weightOf(a));
  for (const cell of order.slice(0, misfit ? SINGLE_POINTS : CHALLENGED_POINTS)) singles.push({ cell, pair: null });
  const against = ({ first, second }: Pair): boolean => !(led?.includes(first.fault.unit) || led?.includes(second.fault.unit));
  const most = thorough ? MOST_PAIRS : MOST_CHALLENGERS;
  const complements = candidatesOf(cluster)
    .map(({ pair }) => pair)
    .filter(against);
  const floor = led === null ? Number.NEGATIVE_INFINITY : bestAlone(cluster, led) + REFUTED_LOG - CHALLENGE_SLACK;
  const tried = yield* coarsely(cluster, led, { most: several ? POOLED_OF_SEVERAL : POOLED, counts: against, floor });
  const first = withoutTwins([...withoutTwins(complements.slice(0, 2 * most)).slice(0, most), ...tried]);
  if (first.length === 0) return null;
  const rowsOf = (pairs: readonly Pair[]): Row[] => pairs.map((pair) => ({ cell: pair.first.cell, pair }));
  let found = weighRows(inference, rowsOf(first), weigh, alike);
  yield;
  const fit = (pairs: Weighed["best"]): Pair[] => pairs.map((each) => fitted(grid, found.cluster, each));
  if (thorough) {
    found = weighRows(inference, rowsOf(fit(distinct(found.best, MOST_PAIRS))), weigh, alike);
    yield;
    found = weighRows(inference, rowsOf(fit(found.best)), weigh, alike);
    yield;
    const exchanged = new Set<string>();
    for (let round = 0; round < MOST_ROUNDS; round += 1) {
      const further = besideAll(cluster, membersOfBest(found), exchanged);
      if (further.length === 0) break;
      const kept = distinct(found.best, FITTED).map(({ pair }) => pair);
      found = weighRows(inference, rowsOf(withoutTwins([...kept, ...further])), weigh, alike);
      yield;
      found = weighRows(inference, rowsOf(fit(distinct(found.best, MOST_PAIRS))), weigh, alike);
      found = weighRows(inference, rowsOf(fit(distinct(found.best, FITTED))), weigh, alike);
      yield;
    }
  }
  const kept = !misfit ? FITTED_CHALLENGERS : several ? FITTED_OF_SEVERAL : FITTED;
  return weighRows(inference, [...singles, ...rowsOf(fit(distinct(found.best, kept)))], weigh, alike).cluster;
}

/**
 * Pairs that explain the readings best of all there are, coarsely tried: those in one circuit, and those in two.
 * @param led units of whoever is challenged, in whose circuits others are looked for; null for all circuits something was read on
 */
function* coarsely(cluster: WeighedCluster, led: readonly string[] | null, wanted: Wanted): Steps<Pair[]> {
  const { inference, observations } = cluster;
  const counted = new Set(led === null ? observations.map(({ table: { probe } }) => probe.circuit.id) : led.map(circuitOfUnit));
  const pairs = acrossCircuits(cluster, { ...wanted, most: ACROSS });
  for (const { id } of inference.circuits) if (inference.circuits.length === 1 || counted.has(id)) pairs.push(...(yield* bestOfPool(cluster, id, wanted)));
  return pairs;
}

/** log P(the readings, each alone) that the units which lead reach at their best. */
function bestAlone(cluster: WeighedCluster, led: readonly string[]): number {
  const { observations, codes, inference } = cluster;
  const { grid } = inference;
  let best = Number.NEGATIVE_INFINITY;
  for (let cell = 0; cell < grid.count; cell += 1) {
    if (!led.includes(grid.units[grid.unitOfFault[grid.fault[cell]]] ?? "")) continue;
    best = Math.max(best, apartAt(cluster, cell, observations.length - codes.length));
  }
  return best;
}

/** Pairs without those that say the same twice. */
function withoutTwins(pairs: readonly Pair[]): Pair[] {
  const seen = new Set<string>();
  return pairs.filter(({ first, second }) => {
    const key = [`${first.cell}~${first.severity}`, `${second.cell}~${second.severity}`].sort().join("&");
    if (seen.has(key)) return false;
    seen.add(key);
    return true;
  });
}
