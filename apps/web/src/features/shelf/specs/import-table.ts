import { COLUMNS, readTable, type TableRead } from "@fox-lamp/core";
import { SHELF_KINDS, type ShelfKind } from "@fox-lamp/language";
import Papa from "papaparse";

/** A table as it was opened: its cells as text. */
export type Cells = readonly (readonly string[])[];

/** Cells of a CSV text; a line without any stays, so that rows are counted as a spreadsheet does. */
export function cellsOf(text: string): Cells {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/u, "").replace(/\s+$/u, ""), { delimitersToGuess: [",", ";", "\t"] });
  return data;
}

/** What a table holds, by the columns its first row names. */
export function kindOf(cells: Cells): ShelfKind {
  const header = new Set((cells[0] ?? []).map((cell) => cell.trim().toLowerCase()));
  const share = (kind: ShelfKind): number => COLUMNS[kind].filter(({ name }) => header.has(name.toLowerCase())).length / COLUMNS[kind].length;
  return [...SHELF_KINDS].sort((a, b) => share(b) - share(a))[0] as ShelfKind;
}

/** The cells with one of them written anew. @param row as a spreadsheet counts it */
export function withCell(cells: Cells, row: number, column: string, text: string): Cells {
  const place = placeOf(cells, column);
  if (place < 0) return cells;
  return cells.map((line, index) => {
    if (index !== row - 1) return line;
    const filled = Array.from({ length: Math.max(line.length, place + 1) }, (_, at) => line[at] ?? "");
    filled[place] = text;
    return filled;
  });
}

function placeOf(cells: Cells, column: string): number {
  return (cells[0] ?? []).findIndex((cell) => cell.trim().toLowerCase() === column.toLowerCase());
}

/** What stands in a cell; null for a column the table does not have. */
export function cellAt(cells: Cells, row: number, column: string): string | null {
  const place = placeOf(cells, column);
  return place < 0 ? null : (cells[row - 1]?.[place] ?? "");
}

/** The cells without rows that cannot be; of a curve all rows of its name go. */
export function withoutBad(kind: ShelfKind, cells: Cells): Cells {
  const kept = new Set(readTable(kind, cells).records.flatMap(({ rows }) => rows));
  return cells.filter((_, index) => index === 0 || kept.has(index + 1));
}

/** Several problems may stand in one cell: each cell once. */
export function problemCells({ problems }: TableRead): TableRead["problems"] {
  const seen = new Set<string>();
  return problems.filter(({ row, column }) => {
    const key = `${row} ${column}`;
    const again = seen.has(key);
    seen.add(key);
    return !again;
  });
}
