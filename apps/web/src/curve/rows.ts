/** A point as typed: what is sensed, what is shown. */
export type PointRow = readonly [string, string];

const isEmpty = ([x, y]: PointRow): boolean => x.trim() === "" && y.trim() === "";

/** Rows of a text with one point a line. */
export function rowsOf(text: string): PointRow[] {
  return text.split("\n").flatMap((line): PointRow[] => {
    if (line.trim() === "") return [];
    const [x = "", y = ""] = cellsOf(line);
    return [[x, y]];
  });
}

/** The text of rows, one point a line; rows with nothing in them are left out. */
export function textOf(rows: readonly PointRow[]): string {
  return rows
    .filter((row) => !isEmpty(row))
    .map(([x, y]) => `${x.trim()}, ${y.trim()}`)
    .join("\n");
}

/** Cells of a line: between tabs or semicolons, else between a comma with room behind it, else between commas or room. */
function cellsOf(line: string): string[] {
  const trimmed = line.trim();
  for (const between of [/\s*[\t;]\s*/u, /\s*,\s+/u]) if (between.test(trimmed)) return trimmed.split(between);
  const commas = trimmed.split(",");
  // 20,5 2,7 has commas inside its numbers.
  if (/\s/u.test(trimmed)) return trimmed.split(/\s+/u);
  return commas.length === 4 ? [`${commas[0]},${commas[1]}`, `${commas[2]},${commas[3]}`] : commas;
}

/** Whether a text is a piece of a table rather than one cell. */
export function isTable(text: string): boolean {
  return /[\n\t;]/u.test(text.trim());
}

/** Rows of a piece of a spreadsheet; a first row of names is left out. */
export function rowsPasted(text: string): PointRow[] {
  const rows = rowsOf(text.replaceAll("\r", ""));
  const named = rows[0] !== undefined && !/\d/u.test(rows[0][0]) && !/\d/u.test(rows[0][1]);
  return named ? rows.slice(1) : rows;
}

/** Rows with a pasted piece put in from one row on: what stands there is written over. */
export function withPasted(rows: readonly PointRow[], from: number, pasted: readonly PointRow[]): PointRow[] {
  return [...rows.slice(0, from), ...pasted, ...rows.slice(from + pasted.length)];
}
