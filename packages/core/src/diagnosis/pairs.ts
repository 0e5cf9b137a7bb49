import { elementName, type Situation } from "../circuit";
import { type Fault, PLAIN_VARIANT } from "../faults";

import type { CircuitEngine } from "./engine";
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
/** A reading the first fault leaves over slipped with at least this probability under it. */
const LEFT_OVER = 0.3;
/** Single faults that compete with the pairs, by their best points. */
const SINGLE_POINTS = 60;

interface Chosen {
  readonly point: number;
  readonly fault: Fault;
}

/** The effect of one member, in full element names. */
function effectOf(points: Points, { point, fault }: Chosen, owner: string): (situation: Situation, moment: number) => ReturnType<Fault["effect"]> {
  const severity = points.severity[point] as number;
  const variant = points.variant[point] ?? PLAIN_VARIANT;
  return (situation, moment) =>
    fault.effect(severity, situation, variant, moment).map((assignment) => {
      const local = fault.circuit === owner || assignment.element.includes("/");
      return local ? assignment : { ...assignment, element: elementName(fault.circuit, assignment.element) };
    });
}

/** Two faults as one: both effects at once, named by both units. */
function merged(points: Points, first: Chosen, second: Chosen): Fault {
  const [a, b] = first.fault.constant && !second.fault.constant ? [second, first] : [first, second];
  const owner = a.fault.circuit;
  const [one, two] = [effectOf(points, a, owner), effectOf(points, b, owner)];
  const scan = a.fault.scanVolts ?? b.fault.scanVolts;
  const scanSeverity = points.severity[a.fault.scanVolts === null ? b.point : a.point] as number;
  const rate = [a, b].flatMap(({ fault, point }) =>
    fault.hertzFactor === null ? [] : [fault.hertzFactor(points.severity[point] as number, (points.variant[point] ?? PLAIN_VARIANT).direction)],
  );
  return {
    id: `${first.fault.id}&${second.fault.id}`,
    unit: `${first.fault.unit}&${second.fault.unit}`,
    circuit: owner,
    kind: "pair",
    title: `${first.fault.title}, and ${second.fault.title}`,
    severity: null,
    prior: first.fault.prior * second.fault.prior,
    matters: true,
    variants: [PLAIN_VARIANT],
    during: null,
    constant: a.fault.constant && b.fault.constant,
    effect: (_severity, situation, _variant, moment) => [...one(situation, moment), ...two(situation, moment)],
    scanVolts: scan === null ? null : () => scan(scanSeverity),
    hertzFactor: rate.length === 0 ? null : () => rate.reduce((product, factor) => product * factor, 1),
  };
}

/** Two faults can be put into the network together when the second one's effect does not hang on another circuit's state. */
function compatible(a: Fault, b: Fault): boolean {
  if (a.unit === b.unit || a.during !== null || b.during !== null || a.kind === "true-value" || b.kind === "true-value") return false;
  return a.circuit === b.circuit || a.constant || b.constant;
}

/** The best points of the likeliest faults with the readings they have to call slipped. */
function firstFaults({ engine, evidence }: CasePart): Chosen[] {
  const { points } = engine;
  const best = new Map<number, number>();
  for (let point = 0; point < points.count; point += 1) {
    const fault = points.fault[point] as number;
    if (fault === 0) continue;
    const kept = best.get(fault);
    if (kept === undefined || (evidence.logLikelihood[point] as number) > (evidence.logLikelihood[kept] as number)) best.set(fault, point);
  }
  return [...best]
    .map(([fault, point]) => ({ fault: points.faults[fault] as Fault, point }))
    .sort((x, y) => (evidence.logLikelihood[y.point] as number) - (evidence.logLikelihood[x.point] as number))
    .slice(0, FIRST_FAULTS);
}

/** Points of second faults that explain what a first one leaves over, the best first. */
function secondFaults({ engine, evidence, observations }: CasePart, first: Chosen): Chosen[] {
  const { points } = engine;
  const total = observations.length;
  const left = observations.flatMap((_, index) => ((evidence.slipped[first.point * total + index] as number) > LEFT_OVER ? [index] : []));
  if (left.length === 0) return [];
  const scored: { point: number; score: number }[] = [];
  for (let point = 0; point < points.count; point += 1) {
    const fault = points.faults[points.fault[point] as number];
    if (fault == null || !compatible(first.fault, fault) || points.world[point] !== points.world[first.point]) continue;
    let score = 0;
    for (const index of left) score += evidence.single[point * total + index] as number;
    scored.push({ point, score });
  }
  scored.sort((a, b) => b.score - a.score);
  const taken = new Map<number, number>();
  const kept = scored.filter(({ point }) => {
    const fault = points.fault[point] as number;
    const count = taken.get(fault) ?? 0;
    taken.set(fault, count + 1);
    return count < POINTS_PER_FAULT;
  });
  return kept.slice(0, SECOND_POINTS).map(({ point }) => ({ point, fault: points.faults[points.fault[point] as number] as Fault }));
}

/** One hypothesis of a grown grid. */
interface Row {
  readonly fault: Fault | null;
  readonly point: number;
  readonly weight: number;
}

/** A grid of the sound circuit, the best single faults, and pairs. */
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
  const fault = Int32Array.from(rows, (row) => indexOf(row.fault));
  const total = rows.reduce((sum, { weight }) => sum + weight, 0);
  const prior = Float64Array.from(rows, ({ weight }) => weight / total);
  const single = (row: Row): boolean => row.fault !== null && row.fault.kind !== "pair";
  return {
    count: rows.length,
    faults,
    units,
    unitOfFault: Int32Array.from(unitOfFault),
    fault,
    sometimes: Uint8Array.from(rows, (row) => ((row.fault?.during ?? null) === null ? 0 : 1)),
    world: Int32Array.from(rows, ({ point }) => points.world[point] as number),
    severity: Float64Array.from(rows, (row) => (single(row) ? (points.severity[row.point] as number) : 1)),
    severitySpread: Float64Array.from(rows, (row) => (single(row) ? (points.severitySpread[row.point] as number) : 0)),
    variant: rows.map((row) => (single(row) ? (points.variant[row.point] ?? PLAIN_VARIANT) : PLAIN_VARIANT)),
    prior,
    logPrior: prior.map(Math.log),
    worlds: points.worlds,
    wide: points.wide,
  };
}

/**
 * An engine over the sound circuit, the best single faults and the pairs that could explain what each of these leaves over;
 * null when nothing is left over.
 */
export function pairEngine(part: CasePart): CircuitEngine | null {
  const { engine, evidence } = part;
  const { points } = engine;
  const rows: Row[] = [];
  for (let point = 0; point < points.count; point += 1) if (points.fault[point] === 0) rows.push({ fault: null, point, weight: points.prior[point] as number });
  const order = Array.from({ length: points.count }, (_, point) => point)
    .filter((point) => points.fault[point] !== 0)
    .sort(
      (a, b) => (points.logPrior[b] as number) + (evidence.logLikelihood[b] as number) - (points.logPrior[a] as number) - (evidence.logLikelihood[a] as number),
    );
  for (const point of order.slice(0, SINGLE_POINTS)) {
    rows.push({ fault: points.faults[points.fault[point] as number] as Fault, point, weight: points.prior[point] as number });
  }
  const seen = new Set<string>();
  let pairs = 0;
  for (const first of firstFaults(part)) {
    for (const second of secondFaults(part, first)) {
      const key = [first.point, second.point].sort((a, b) => a - b).join("+");
      if (seen.has(key)) continue;
      seen.add(key);
      const share = (points.prior[second.point] as number) * first.fault.prior;
      rows.push({ fault: merged(points, first, second), point: first.point, weight: PAIR_SHARE * share });
      pairs += 1;
    }
  }
  if (pairs === 0) return null;
  const key = rows.map(({ fault, point }) => `${fault?.id ?? ""}@${point}`).join();
  return engine.withPoints(key, () => gridOf(points, rows));
}
