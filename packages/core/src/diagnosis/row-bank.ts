import type { Points } from "./points";
import { addRow, type PredictionTable } from "./tables";

/** Where a hypothesis' row stands in a table that was made earlier. */
interface BankedRow {
  readonly table: PredictionTable;
  readonly slot: number;
  readonly brink: { readonly slot: number; readonly share: number } | null;
}

/** The bank is emptied when it holds more rows than this. */
const MOST_ROWS = 40_000;

function copyRow(from: PredictionTable, slot: number, to: PredictionTable, columns: number): number {
  const at = addRow(to, columns);
  const words = to.wordNames.length;
  if (to.numeric) {
    to.mean[at] = from.mean[slot] as number;
    to.noise[at] = from.noise[slot] as number;
    to.jacobian.set(from.jacobian.subarray(slot * columns, (slot + 1) * columns), at * columns);
  }
  if (words > 0) to.words.set(from.words.subarray(slot * words, (slot + 1) * words), at * words);
  return at;
}

/**
 * Rows of predictions by the name of their hypothesis ({@link Points.names}), kept between grids of the same circuits: a pair of faults
 * that is tried after every reading is solved once for each of them. A row depends on its hypothesis and its probe alone, so that what
 * was banked before changes nothing but the time.
 */
export class RowBank {
  private readonly rows = new Map<string, Map<string, BankedRow>>();
  private count = 0;

  /** Fills the rows of a probe's table that are known. @param key names the probe */
  fill(key: string, table: PredictionTable, { names }: Points, columns: number): void {
    const known = this.rows.get(key);
    if (known === undefined || names === null) return;
    const taken = new Map<PredictionTable, Map<number, number>>();
    const copied = (from: PredictionTable, slot: number): number => {
      const slots = taken.get(from) ?? new Map<number, number>();
      taken.set(from, slots);
      const at = slots.get(slot) ?? copyRow(from, slot, table, columns);
      slots.set(slot, at);
      return at;
    };
    names.forEach((name, point) => {
      const row = (table.slot[point] as number) >= 0 ? undefined : known.get(name);
      if (row === undefined) return;
      table.slot[point] = copied(row.table, row.slot);
      if (row.brink !== null) {
        table.brinks ??= new Map();
        table.brinks.set(point, { slot: copied(row.table, row.brink.slot), share: row.brink.share });
      }
    });
  }

  /** Takes in the rows of a probe's table that are new. @param key names the probe */
  store(key: string, table: PredictionTable, { names }: Points): void {
    if (names === null) return;
    if (this.count > MOST_ROWS) {
      this.rows.clear();
      this.count = 0;
    }
    const known = this.rows.get(key) ?? new Map<string, BankedRow>();
    this.rows.set(key, known);
    names.forEach((name, point) => {
      const slot = table.slot[point] as number;
      if (name === "" || slot < 0 || known.has(name)) return;
      known.set(name, { table, slot, brink: table.brinks?.get(point) ?? null });
      this.count += 1;
    });
  }
}
