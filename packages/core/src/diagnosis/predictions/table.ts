import { COUNTED, type ConverterEnds, converterEnds, hangsOnSwing, type Probe, scaleOf, wordsOf } from "../../instruments";

/** Where a cell's electronics would read in their other state, working or starved, and how likely that is. */
export interface Brinked {
  readonly slot: number;
  readonly share: number;
}

/**
 * What one probe shows under every hypothesis. A cell's row is at `slot[cell]` (cells that look alike share one), -1 while it
 * has not been computed; row-major: `jacobian[slot * columns + column]`, `words[slot * wordNames.length + word]`. `mean` on the
 * probe's scale, `noise` its variance. The arrays grow as rows are added.
 */
export interface PredictionTable {
  readonly probe: Probe;
  readonly wordNames: readonly string[];
  readonly numeric: boolean;
  /** Density of a slipped number, per unit of the probe's scale. */
  readonly broad: number;
  /** What slips of such a number have a name: a sign turned round, a unit a thousand times off. */
  readonly slips: "none" | "sign" | "unit";
  /** Where an end of a converter was read: the rows are of the level at its pin, of which only the side is known. Else null. */
  readonly ends: ConverterEnds | null;
  readonly slot: Int32Array;
  rows: number;
  mean: Float64Array;
  noise: Float64Array;
  /** Of the noise, what readings of the same quantity share ({@link bentTogether}). */
  bent: Float64Array;
  /** Of the noise, what is the same whenever this very probe is read again. */
  lasting: Float64Array;
  jacobian: Float64Array;
  /** 1 for every shared variable that moves any of the rows. */
  used: Uint8Array;
  words: Float64Array;
  /** Cells whose electronics stand on the brink of starving; null where there are none. */
  brinks: Map<number, Brinked> | null;
  /**
   * Where a word hangs on how large a signal is: the same rows of by how much it is larger than wanted, ln volts, with what moves it. The word tells
   * the side. Null for any other probe.
   */
  readonly swing: PredictionTable | null;
  /** The healthy cell a fault looks like while it is not there; -1 for cells that look healthy anyway. */
  readonly quiet: Int32Array;
}

/** The lowest or highest of a recording: what lasts shorter than the instrument averages moves it part of the way only. */
export function isExtreme(probe: Probe): boolean {
  return probe.kind === "electrical" && (probe.statistic === "min" || probe.statistic === "max");
}

/** A table without rows. @param cells how many hypotheses there are */
export function emptyTable(probe: Probe, cells: number): PredictionTable {
  const table = plainTable(probe, cells);
  if (!hangsOnSwing(probe)) return table;
  const swing: PredictionTable = {
    ...plainTable(probe, 0),
    wordNames: [],
    numeric: true,
    broad: SLIPPED_WORD,
    ends: COUNTED,
    slot: table.slot,
    quiet: table.quiet,
  };
  return { ...table, swing };
}

/** How likely a slip shows any one of the words: as {@link logBroad} has it. */
const SLIPPED_WORD = 1 / 8;

function plainTable(probe: Probe, cells: number): PredictionTable {
  const scale = scaleOf(probe);
  return {
    probe,
    wordNames: wordsOf(probe),
    numeric: scale.axis !== "none",
    broad: scale.broad,
    slips: scale.axis === "log-ohms" ? "unit" : probe.kind === "electrical" && probe.meter === "volts-dc" ? "sign" : "none",
    ends: probe.kind === "electrical" && probe.atEnd === true ? converterEnds(probe) : null,
    slot: new Int32Array(cells).fill(-1),
    rows: 0,
    mean: new Float64Array(0),
    noise: new Float64Array(0),
    bent: new Float64Array(0),
    lasting: new Float64Array(0),
    jacobian: new Float64Array(0),
    used: new Uint8Array(0),
    words: new Float64Array(0),
    brinks: null,
    swing: null,
    quiet: new Int32Array(cells).fill(-1),
  };
}

/** A table whose rows are given, one for every cell, with words alone. @param words row-major by cell */
export function wordTable(probe: Probe, wordNames: readonly string[], words: Float64Array): PredictionTable {
  const cells = words.length / wordNames.length;
  const table = { ...emptyTable(probe, cells), wordNames, numeric: false, words };
  for (let cell = 0; cell < cells; cell += 1) table.slot[cell] = cell;
  table.rows = cells;
  return table;
}

/** Notes which shared variables move a row that was just filled. */
export function markUsed(table: PredictionTable, slot: number, columns: number): void {
  if (table.used.length < columns) table.used = new Uint8Array(columns);
  for (let column = 0; column < columns; column += 1) if (table.jacobian[slot * columns + column] !== 0) table.used[column] = 1;
}

/** Bytes a table takes. */
export function tableBytes({ slot, mean, noise, bent, lasting, jacobian, words, brinks, swing }: PredictionTable): number {
  const own =
    8 * slot.length + 8 * (mean.length + noise.length + bent.length + lasting.length + jacobian.length + words.length) + 80 * (brinks?.size ?? 0) + 500;
  return swing === null ? own : own + tableBytes(swing);
}

/** Variance of a number in a slot before any reading taught its tolerances: instrument noise and all shared variables. */
export function priorVariance(table: PredictionTable, slot: number, d: number): number {
  let variance = table.noise[slot];
  for (let k = slot * d; k < (slot + 1) * d; k += 1) variance += table.jacobian[k] ** 2;
  return variance;
}

/** A cell that looks like another one shares its rows. */
export function shareRow({ slot, brinks }: PredictionTable, from: number, to: number): void {
  slot[to] = slot[from];
  const brink = brinks?.get(from);
  if (brink !== undefined) brinks?.set(to, brink);
}

const FIRST_ROWS = 64;

/** Makes place for one more row. @returns its slot */
export function addRow(table: PredictionTable, columns: number): number {
  const slot = table.rows;
  table.rows += 1;
  const words = table.wordNames.length;
  const capacity = table.numeric ? table.mean.length : words === 0 ? 0 : table.words.length / words;
  if (slot < capacity) return slot;
  const wanted = Math.max(FIRST_ROWS, 2 * capacity);
  const grown = (old: Float64Array, size: number): Float64Array => {
    const larger = new Float64Array(size);
    larger.set(old);
    return larger;
  };
  if (table.numeric) {
    table.mean = grown(table.mean, wanted);
    table.noise = grown(table.noise, wanted);
    table.bent = grown(table.bent, wanted);
    table.lasting = grown(table.lasting, wanted);
    table.jacobian = grown(table.jacobian, wanted * columns);
  }
  if (words > 0) table.words = grown(table.words, wanted * words);
  return slot;
}
