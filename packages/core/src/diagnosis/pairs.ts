import type { Fault } from "../faults";
import type { CircuitEngine } from "./engine";
import { type Evidence, logSlip, type Observation } from "./evidence";
import { learn } from "./outcomes";
import { compatible, type Member, mergedFault, orderedPair, type Pair, steppedSeverity } from "./pair-fault";
import type { CasePart } from "./part";
import type { Points } from "./points";

/** How often two faults are there at once, before anything is known. */
export const PAIR_SHARE = 0.04;
/** A first fault is taken from this many that explain the readings best with some of them slipped. */
const FIRST_FAULTS = 24;
/** A second fault is tried at this many points: those that explain what the first leaves over. */
const SECOND_POINTS = 36;
/** So many of them of one fault. */
const POINTS_PER_FAULT = 3;
/** Pairs that are solved at first, where no single fault fits and where one does: those whose members, each weighed alone, promise most together. */
const MOST_PAIRS = 220;
const MOST_CHALLENGERS = 70;
/** With fewer observations than this every two faults fit: the search is not made thorough. */
const THOROUGH_FROM = 5;
/** A reading the first fault leaves over slipped with at least this probability under it. */
const LEFT_OVER = 0.3;
/** Single faults that compete with the pairs, by their best points; where one is only challenged few others count. */
const SINGLE_POINTS = 40;
const CHALLENGED_POINTS = 16;
/** Pairs whose severities are fitted once more before they compete with single faults; pairs whose members are tried beside every other fault. */
const FITTED = 70;
const FITTED_CHALLENGERS = 36;
const EXCHANGED = 4;
/** A fitting step moves a severity by at most so many standard deviations of its grid cell. */
const MOST_STEP = 4;

/** Weighs a set of hypotheses on the case's readings. */
export type Weigh = (engine: CircuitEngine) => CasePart;

/** A point of the grid as a member of a pair. */
function memberAt(points: Points, point: number): Member {
  return { fault: points.faults[points.fault[point] as number] as Fault, point, severity: points.severity[point] as number };
}

/** The best points of the likeliest faults with the readings they have to call slipped. */
function firstFaults({ engine, evidence }: CasePart): Member[] {
  const { points } = engine;
  const best = new Map<number, number>();
  for (let point = 0; point < points.count; point += 1) {
    const fault = points.fault[point] as number;
    if (fault === 0) continue;
    const kept = best.get(fault);
    if (kept === undefined || (evidence.logLikelihood[point] as number) > (evidence.logLikelihood[kept] as number)) best.set(fault, point);
  }
  return [...best.values()]
    .sort((x, y) => (evidence.logLikelihood[y] as number) - (evidence.logLikelihood[x] as number))
    .slice(0, FIRST_FAULTS)
    .map((point) => memberAt(points, point));
}

interface Candidate {
  readonly pair: Pair;
  /** Estimated log likelihood of both together. */
  readonly score: number;
}

interface Scored {
  readonly point: number;
  readonly score: number;
}

/** The best points of every fault under a score that can stand beside a point in one world, few of each fault. */
function bestOfFaults(points: Points, own: number, perFault: number, scoreOf: (point: number) => number): Scored[][] {
  const world = points.worlds[own];
  // Two faults of one circuit see the same quantity.
  const excluded = points.worlds.map((other, index) => index !== own && other.circuit === world?.circuit);
  const kept: Scored[][] = points.faults.map(() => []);
  const least = new Float64Array(points.faults.length).fill(Number.NEGATIVE_INFINITY);
  for (let point = 0; point < points.count; point += 1) {
    const fault = points.fault[point] as number;
    if (fault === 0 || excluded[points.world[point] as number] === true) continue;
    const score = scoreOf(point);
    if (score <= (least[fault] as number)) continue;
    const best = kept[fault] as Scored[];
    const at = best.findIndex((one) => one.score < score);
    best.splice(at < 0 ? best.length : at, 0, { point, score });
    if (best.length > perFault) best.length = perFault;
    if (best.length === perFault) least[fault] = best[perFault - 1]?.score ?? 0;
  }
  return kept;
}

/** A fault with the best points of all that can be there beside it, the best first. */
function partnersOf(points: Points, first: Member, best: readonly Scored[][], further: number, most: number): Candidate[] {
  return points.faults
    .flatMap((fault, index) => (fault !== null && compatible(first.fault, fault) ? (best[index] as Scored[]) : []))
    .sort((a, b) => b.score - a.score)
    .slice(0, most)
    .map(({ point, score }) => ({ pair: orderedPair(first, memberAt(points, point)), score: score + further }));
}

/** For every first fault the second ones that explain what it leaves over; all of them, the best first. */
function candidatesOf(part: CasePart): Candidate[] {
  const { engine, evidence, observations } = part;
  const { points } = engine;
  const total = observations.length;
  const known = new Map<string, Scored[][]>();
  const candidates = firstFaults(part).flatMap((first) => {
    const left = observations.flatMap((_, index) => ((evidence.slipped[first.point * total + index] as number) > LEFT_OVER ? [index] : []));
    if (left.length === 0) return [];
    // What the first fault explains, without the price of calling the rest slipped.
    const explained = left.reduce((sum, index) => sum - logSlip(observations[index] as Observation), evidence.logLikelihood[first.point] as number);
    const world = points.world[first.point] as number;
    const key = `${world} ${left.join()}`;
    const scoreOf = (point: number): number => left.reduce((sum, index) => sum + (evidence.single[point * total + index] as number), 0);
    const best = known.get(key) ?? bestOfFaults(points, world, POINTS_PER_FAULT, scoreOf);
    known.set(key, best);
    return partnersOf(points, first, best, explained, SECOND_POINTS);
  });
  return candidates.sort((a, b) => b.score - a.score);
}

/** One hypothesis of a grown grid: a point of the grid it grew from, or a pair. */
type Row = { readonly point: number; readonly pair: null } | { readonly point: number; readonly pair: Pair };

const counts = new WeakMap<Points, Map<number, number>>();

/** How many points of a fault share its prior in one world. */
function severitiesOf(points: Points, { point }: Member): number {
  const place = (at: number): number => (points.fault[at] as number) * (points.worlds.length + 1) + (points.world[at] as number) + 1;
  let known = counts.get(points);
  if (known === undefined) {
    known = new Map();
    for (let other = 0; other < points.count; other += 1) known.set(place(other), (known.get(place(other)) ?? 0) + 1);
    counts.set(points, known);
  }
  return known.get(place(point)) ?? 1;
}

/** A grid of rows. */
function gridOf(points: Points, rows: readonly Row[]): Points {
  const faults: (Fault | null)[] = [null];
  const units = [""];
  const unitOfFault = [0];
  const indexOf = (fault: Fault | null): number => {
    if (fault === null) return 0;
    const known = faults.indexOf(fault);
    if (known >= 0) return known;
    let unit = units.indexOf(fault.unit);
    if (unit < 0) unit = units.push(fault.unit) - 1;
    unitOfFault.push(unit);
    return faults.push(fault) - 1;
  };
  const faultOf = ({ pair, point }: Row): Fault | null => (pair === null ? (points.faults[points.fault[point] as number] ?? null) : mergedFault(points, pair));
  const fault = Int32Array.from(rows, (row) => indexOf(faultOf(row)));
  const weights = rows.map(({ pair, point }) =>
    pair === null
      ? (points.prior[point] as number)
      : (PAIR_SHARE * (points.prior[pair.second.point] as number) * pair.first.fault.prior) / severitiesOf(points, pair.first),
  );
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  const prior = Float64Array.from(weights, (weight) => weight / total);
  return {
    count: rows.length,
    faults,
    units,
    unitOfFault: Int32Array.from(unitOfFault),
    fault,
    sometimes: Uint8Array.from(fault, (index) => ((faults[index]?.during ?? null) === null ? 0 : 1)),
    world: Int32Array.from(rows, ({ point }) => points.world[point] as number),
    severity: Float64Array.from(rows, ({ point, pair }) => pair?.first.severity ?? (points.severity[point] as number)),
    severitySpread: Float64Array.from(rows, ({ point }) => points.severitySpread[point] as number),
    variant: rows.map(({ point, pair }) => points.variant[pair === null ? point : pair.first.point] as Points["variant"][number]),
    prior,
    logPrior: prior.map(Math.log),
    worlds: points.worlds,
    wide: points.wide,
    names: rows.map(({ pair }) => (pair === null ? "" : pairKey(pair))),
  };
}

/** A weighed set of rows; the pairs among them, the best first. */
interface Weighed {
  readonly rows: readonly Row[];
  readonly part: CasePart;
  readonly best: readonly { readonly pair: Pair; readonly row: number; readonly logLikelihood: number }[];
}

/** Names a pair with its severities. */
function pairKey({ first, second }: Pair): string {
  return `${first.point}~${first.severity}&${second.point}~${second.severity}`;
}

function weighRows(engine: CircuitEngine, rows: readonly Row[], weigh: Weigh): Weighed {
  const key = rows.map(({ point, pair }) => (pair === null ? `${point}` : pairKey(pair)));
  const part = weigh(engine.withPoints(key.join(), () => gridOf(engine.points, rows)));
  const best = rows.flatMap(({ pair }, row) => (pair === null ? [] : [{ pair, row, logLikelihood: part.evidence.logLikelihood[row] as number }]));
  best.sort((a, b) => b.logLikelihood - a.logLikelihood);
  return { rows, part, best };
}

/** Observations of numbers that neither slipped nor show another state at a row. */
function usedAt({ slipped, absent }: Evidence, observations: readonly Observation[], row: number): Observation[] {
  return observations.filter(({ number }, index) => {
    const at = row * observations.length + index;
    return number !== null && (slipped[at] as number) + (absent[at] as number) <= 0.5;
  });
}

/** A pair with its severities moved to where the readings put them. */
function fitted(points: Points, { engine, evidence, observations }: CasePart, { pair, row }: Weighed["best"][number]): Pair {
  const { columns } = engine;
  const { mean } = learn(usedAt(evidence, observations, row), row, columns.count);
  const step = (column: number | null): number => (column === null ? 0 : Math.max(-MOST_STEP, Math.min(MOST_STEP, mean[column] as number)));
  const move = (member: Member, by: number): Member => ({ ...member, severity: steppedSeverity(points, member, by) });
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
 * The members of the best pairs beside every other fault: whoever fits half of the readings may have the wrong partner. A partner is tried
 * where it explains most readings by itself.
 */
function exchanged({ engine, evidence, observations }: CasePart, weighed: Weighed): Pair[] {
  const { points } = engine;
  const total = observations.length;
  const alone = (point: number): number => {
    let sum = 0;
    for (let index = 0; index < total; index += 1) sum += evidence.single[point * total + index] as number;
    return sum;
  };
  const members = new Map<string, Member>();
  for (const { pair } of distinct(weighed.best, EXCHANGED)) for (const member of [pair.first, pair.second]) members.set(member.fault.id, member);
  return [...members.values()].flatMap((member) => {
    const best = bestOfFaults(points, points.world[member.point] as number, 1, alone);
    return partnersOf(points, member, best, 0, Number.POSITIVE_INFINITY).map(({ pair }) => pair);
  });
}

/**
 * The circuits weighed over the sound ones, the best single faults and the pairs that could explain what each of these leaves over; null
 * when nothing is left over. Severities of the best pairs are fitted to the readings.
 *
 * @param misfit whether no single fault fits: then partners are exchanged too
 */
export function weighPairs(part: CasePart, weigh: Weigh, misfit: boolean): CasePart | null {
  const thorough = misfit && part.observations.length >= THOROUGH_FROM;
  const { engine, evidence } = part;
  const { points } = engine;
  const singles: Row[] = [];
  for (let point = 0; point < points.count; point += 1) if (points.fault[point] === 0) singles.push({ point, pair: null });
  const weightOf = (point: number): number => (points.logPrior[point] as number) + (evidence.logLikelihood[point] as number);
  const order = Array.from({ length: points.count }, (_, point) => point).filter((point) => points.fault[point] !== 0);
  order.sort((a, b) => weightOf(b) - weightOf(a));
  for (const point of order.slice(0, misfit ? SINGLE_POINTS : CHALLENGED_POINTS)) singles.push({ point, pair: null });
  const candidates = candidatesOf(part);
  if (candidates.length === 0) return null;
  const rowsOf = (pairs: readonly Pair[]): Row[] => pairs.map((pair) => ({ point: pair.first.point, pair }));
  const most = thorough ? MOST_PAIRS : MOST_CHALLENGERS;
  let found = weighRows(engine, rowsOf(withoutTwins(candidates.slice(0, 2 * most).map(({ pair }) => pair)).slice(0, most)), weigh);
  const fit = (pairs: Weighed["best"]): Pair[] => pairs.map((each) => fitted(points, found.part, each));
  if (thorough) {
    found = weighRows(engine, rowsOf(fit(distinct(found.best, MOST_PAIRS))), weigh);
    found = weighRows(engine, rowsOf(fit(found.best)), weigh);
    const kept = distinct(found.best, FITTED).map(({ pair }) => pair);
    found = weighRows(engine, rowsOf(withoutTwins([...kept, ...exchanged(part, found)])), weigh);
    found = weighRows(engine, rowsOf(fit(distinct(found.best, MOST_PAIRS))), weigh);
  }
  return weighRows(engine, [...singles, ...rowsOf(fit(distinct(found.best, misfit ? FITTED : FITTED_CHALLENGERS)))], weigh).part;
}

/** Pairs without those that say the same twice. */
function withoutTwins(pairs: readonly Pair[]): Pair[] {
  const seen = new Set<string>();
  return pairs.filter(({ first, second }) => {
    const key = [`${first.point}~${first.severity}`, `${second.point}~${second.severity}`].sort().join("&");
    if (seen.has(key)) return false;
    seen.add(key);
    return true;
  });
}
