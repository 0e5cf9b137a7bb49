import type { Fault } from "../../faults";
import type { HypothesisGrid } from "../hypotheses/grid";
import { mergedFault, type Pair } from "./pair-fault";

/** How often two faults are there at once, before anything is known. */
export const PAIR_SHARE = 0.04;

/** One hypothesis of a grown grid: a cell of the grid it grew from, or a pair. */
export type Row = { readonly cell: number; readonly pair: null } | { readonly cell: number; readonly pair: Pair };

/** A grid of rows. @param alike in how many values of the sensed quantity a pair tried in one of them stands, by value. Rows of pairs are named, so that their predictions are found again. */
export function gridOf(grid: HypothesisGrid, rows: readonly Row[], alike: readonly number[] = []): HypothesisGrid {
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
  const faultOf = ({ pair, cell }: Row): Fault | null => (pair === null ? (grid.faults[grid.fault[cell]] ?? null) : mergedFault(grid, pair));
  const fault = Int32Array.from(rows, (row) => indexOf(faultOf(row)));
  const weights = rows.map(({ pair, cell }) =>
    pair === null
      ? grid.prior[cell]
      : ((alike[grid.world[pair.first.cell]] ?? 1) * PAIR_SHARE * grid.prior[pair.second.cell] * pair.first.fault.prior) / grid.sharing[pair.first.cell],
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
    world: Int32Array.from(rows, ({ cell }) => grid.world[cell]),
    severity: Float64Array.from(rows, ({ cell, pair }) => pair?.first.severity ?? grid.severity[cell]),
    severitySpread: Float64Array.from(rows, ({ cell }) => grid.severitySpread[cell]),
    variant: rows.map(({ cell, pair }) => grid.variant[pair === null ? cell : pair.first.cell]),
    prior,
    logPrior: prior.map(Math.log),
    worlds: grid.worlds,
    wide: grid.wide,
    sharing: new Int32Array(rows.length).fill(1),
    kind: "pairs",
    names: rows.map(({ pair }) => (pair === null ? "" : pairKey(pair))),
  };
}

/** Names a pair with its severities. */
export function pairKey({ first, second }: Pair): string {
  return `${first.cell}~${first.severity}&${second.cell}~${second.severity}`;
}
