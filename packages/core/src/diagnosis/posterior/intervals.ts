import { asConverted } from "../../instruments";
import { isExtreme, type PredictionTable, priorVariance } from "../predictions/table";
import type { CircuitPosterior } from "./posterior";

/** A stretch of values on the probe's scale that holds nine tenths of what a hypothesis predicts, or its likeliest word. */
export interface Predicted {
  readonly low: number | null;
  readonly high: number | null;
  readonly word: string | null;
}

const TAIL_SIGMAS = 1.645;

/** What is shown of a level: a converter shows nothing beyond its range, and no more than its end where it was read there. */
export function shownOf({ ends, probe }: PredictionTable, level: number): number {
  return ends === null ? asConverted(probe, level) : Math.min(ends.high, Math.max(ends.low, level));
}

/**
 * What some cells of a circuit predict for a probe: 90 % interval on its scale, or the likeliest word.
 *
 * @param weightOf weight of a cell; zero leaves it out
 * @returns null when no cell carries weight
 */
export function predictedInterval(posterior: CircuitPosterior, table: PredictionTable, weightOf: (cell: number) => number): Predicted | null {
  const { grid, columns } = posterior.inference;
  const d = columns.count;
  const rows: { low: number; high: number; weight: number }[] = [];
  const wordCount = table.wordNames.length;
  const words = new Float64Array(wordCount);
  let total = 0;
  const { presence, sometimes } = posterior.known;
  const extreme = isExtreme(table.probe);
  for (let cell = 0; cell < grid.count; cell += 1) {
    const weight = weightOf(cell);
    if (!(weight > 0)) continue;
    total += weight;
    // A fault that shows for a moment only moves a recording's end part of the way.
    const brief = extreme && table.quiet[cell] >= 0 && (presence !== null || sometimes[cell] === 1) ? table.mean[table.slot[table.quiet[cell]]] : null;
    const brink = table.brinks?.get(cell);
    const states = [{ slot: table.slot[cell], share: 1 - (brink?.share ?? 0) }, ...(brink === undefined ? [] : [brink])];
    for (const { slot, share: part } of states) {
      let left = 1;
      for (let word = 0; word < wordCount; word += 1) {
        const share = table.words[slot * wordCount + word];
        words[word] = words[word] + weight * part * share;
        left -= share;
      }
      if (!table.numeric || left <= 0.01) continue;
      const mean = table.mean[slot];
      const reach = TAIL_SIGMAS * Math.sqrt(priorVariance(table, slot, d));
      const [low, high] = [Math.min(mean - reach, brief ?? mean), Math.max(mean + reach, brief ?? mean)];
      rows.push({ low: shownOf(table, low), high: shownOf(table, high), weight: weight * part * left });
    }
  }
  if (total === 0) return null;
  const numbers = rows.reduce((sum, row) => sum + row.weight, 0);
  const likeliest = words.indexOf(Math.max(...words, -1));
  if (numbers < 0.5 * total && likeliest >= 0) return { low: null, high: null, word: table.wordNames[likeliest] ?? null };
  const low = weightedQuantile(rows, numbers, 0.05, "low");
  const high = weightedQuantile(rows, numbers, 0.95, "high");
  return { low, high, word: null };
}

/** How surely some cells would have stored a code; null for a table that is not about a code. */
export function storedShare(table: PredictionTable, count: number, weightOf: (cell: number) => number): number | null {
  if (table.wordNames[1] !== "not stored") return null;
  let total = 0;
  let stored = 0;
  for (let cell = 0; cell < count; cell += 1) {
    const weight = weightOf(cell);
    if (!(weight > 0)) continue;
    total += weight;
    stored += weight * table.words[table.slot[cell] * 2];
  }
  return total === 0 ? null : stored / total;
}

function weightedQuantile(rows: readonly { low: number; high: number; weight: number }[], total: number, share: number, end: "low" | "high"): number {
  const sorted = [...rows].sort((a, b) => a[end] - b[end]);
  let sum = 0;
  for (const row of sorted) {
    sum += row.weight;
    if (sum >= share * total) return row[end];
  }
  return sorted.at(-1)?.[end] ?? 0;
}
