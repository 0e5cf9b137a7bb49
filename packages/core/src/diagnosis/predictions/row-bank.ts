import type { BoundedCache } from "../../numeric";
import type { HypothesisGrid } from "../hypotheses/grid";
import { addRow, type Brinked, markUsed, type PredictionTable } from "./table";

/** Where a hypothesis' row stands in a table that was made earlier. */
interface BankedRow {
  readonly table: PredictionTable;
  readonly slot: number;
  readonly brink: Brinked | null;
}

/** Rows of one probe by the name of their hypothesis. */
export type RowBank = Map<string, BankedRow>;

function copyRow(from: PredictionTable, slot: number, to: PredictionTable, columns: number): number {
  const at = addRow(to, columns);
  const words = to.wordNames.length;
  if (to.numeric) {
    to.mean[at] = from.mean[slot];
    to.noise[at] = from.noise[slot];
    to.bent[at] = from.bent[slot];
    to.lasting[at] = from.lasting[slot];
    to.jacobian.set(from.jacobian.subarray(slot * columns, (slot + 1) * columns), at * columns);
    markUsed(to, at, columns);
  }
  if (words > 0) to.words.set(from.words.subarray(slot * words, (slot + 1) * words), at * words);
  if (from.swing !== null && to.swing !== null) copyRow(from.swing, slot, to.swing, columns);
  return at;
}

/**
 * The rows of a probe's predictions by the name of their hypothesis ({@link HypothesisGrid.names}), kept between grids of the same
 * circuits: a pair of faults that is tried after every reading is solved once for each of them. A row depends on its hypothesis and its
 * probe alone, so that what was banked before changes nothing but the time.
 *
 * @param scope names the circuits, `key` the probe
 */
export function rowBank(cache: BoundedCache, scope: string, key: string, columns: number): RowBank {
  return cache.keep(
    `${scope} bank ${key}`,
    (): RowBank => new Map(),
    ({ size }) => (8 * columns + 150) * size,
  );
}

/** Fills the rows of a probe's table that are known. */
export function takeFromBank(bank: RowBank, table: PredictionTable, { names }: HypothesisGrid, columns: number): void {
  if (bank.size === 0) return;
  const taken = new Map<PredictionTable, Map<number, number>>();
  const copied = (from: PredictionTable, slot: number): number => {
    const slots = taken.get(from) ?? new Map<number, number>();
    taken.set(from, slots);
    const at = slots.get(slot) ?? copyRow(from, slot, table, columns);
    slots.set(slot, at);
    return at;
  };
  names.forEach((name, cell) => {
    const row = table.slot[cell] >= 0 ? undefined : bank.get(name);
    if (row === undefined) return;
    table.slot[cell] = copied(row.table, row.slot);
    if (row.brink !== null) {
      table.brinks ??= new Map();
      table.brinks.set(cell, { slot: copied(row.table, row.brink.slot), share: row.brink.share });
    }
  });
}

/** Takes in the rows of a probe's table that are new. */
export function bankRows(bank: RowBank, table: PredictionTable, { names }: HypothesisGrid): void {
  names.forEach((name, cell) => {
    const slot = table.slot[cell];
    if (name === "" || slot < 0 || bank.has(name)) return;
    bank.set(name, { table, slot, brink: table.brinks?.get(cell) ?? null });
  });
}
