import type { Fault } from "../faults";
import { type Member, mergedFault, type Pair } from "./pair-fault";
import type { Points } from "./points";

/** How often two faults are there at once, before anything is known. */
export const PAIR_SHARE = 0.04;

/** One hypothesis of a grown grid: a point of the grid it grew from, or a pair. */
export type Row = { readonly point: number; readonly pair: null } | { readonly point: number; readonly pair: Pair };

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

/** A grid of rows. Rows of pairs are named, so that their predictions are found again. */
export function gridOf(points: Points, rows: readonly Row[]): Points {
  const faults: (Fault | null)[] = [null];
  const units = [""];
  const unitOfFault = [0];
  const placeOf = new Map<Fault, number>();
  const unitOf = new Map<string, number>();
  const indexOf = (fault: Fault | null): number => {
    if (fault === null) return 0;
    const known = placeOf.get(fault);
    if (known !== undefined) return known;
    const unit = unitOf.get(fault.unit) ?? units.push(fault.unit) - 1;
    unitOf.set(fault.unit, unit);
    unitOfFault.push(unit);
    const place = faults.push(fault) - 1;
    placeOf.set(fault, place);
    return place;
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

/** Names a pair with its severities. */
export function pairKey({ first, second }: Pair): string {
  return `${first.point}~${first.severity}&${second.point}~${second.severity}`;
}
