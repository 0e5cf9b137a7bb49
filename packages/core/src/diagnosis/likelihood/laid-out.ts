import type { PredictionTable } from "../predictions/table";
import type { Observation } from "./observation";

/** A word that hangs on how large a signal is, as a level of which the side is read; any other observation as it is. */
export function weighedAs(observation: Observation): Observation {
  const { table, number, word } = observation;
  if (number !== null || word < 0 || table.swing === null) return observation;
  return { ...observation, table: table.swing, number: table.wordNames[word] === "counts" ? 1 : -1, word: -1 };
}

/** Place of every name among all, sorted; alike ones in the order they came. */
export function ranksOf(names: readonly string[]): number[] {
  const sorted = names.map((_, at) => at).sort((a, b) => (names[a] < names[b] ? -1 : names[a] > names[b] ? 1 : a - b));
  const ranks = names.map(() => 0);
  sorted.forEach((at, rank) => {
    ranks[at] = rank;
  });
  return ranks;
}

/** The shared variables that move a row of any of these tables; all of them where a table does not say. */
export function usedColumns(tables: readonly PredictionTable[], d: number): Int32Array {
  const silent = tables.some(({ used }) => used.length < d);
  return Int32Array.from([...Array(d).keys()].filter((column) => silent || tables.some(({ used }) => used[column] === 1)));
}
