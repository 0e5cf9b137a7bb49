import {
  type Known,
  knownValue,
  parseShorthand,
  type ShelfKind,
  type ShelfRecord,
  type SpecKnown,
  type SpecLimit,
  shelfRecordSchema,
} from "@fox-lamp/language";
import { familyById } from "../circuit";
import { COLUMNS } from "./columns";

/** What is wrong in a table: in which of its rows, counted as a spreadsheet does, in which column; the first row holds the names. */
export interface RowProblem {
  readonly row: number;
  readonly column: string | null;
  readonly message: string;
}

/** A table as it was read: the records of rows that can be, and what is wrong with the others. */
export interface TableRead {
  readonly records: readonly { readonly rows: readonly number[]; readonly item: ShelfRecord }[];
  readonly problems: readonly RowProblem[];
}

/** Rows that make one record, with their cells by column. */
interface Group {
  readonly rows: number[];
  readonly cells: Readonly<Record<string, string>>[];
}

class CellProblem extends Error {
  constructor(
    readonly column: string,
    message: string,
  ) {
    super(message);
  }
}

function numberIn(cells: Readonly<Record<string, string>>, column: string): number | undefined {
  const text = cells[column] ?? "";
  if (text === "") return undefined;
  const parsed = parseShorthand(text);
  if (!parsed.ok || typeof parsed.value !== "number" || parsed.unit !== null) throw new CellProblem(column, `"${text}" is no number`);
  return parsed.value;
}

function neededNumber(cells: Readonly<Record<string, string>>, column: string): number {
  const value = numberIn(cells, column);
  if (value === undefined) throw new CellProblem(column, "is empty; expected a number");
  return value;
}

function yearsIn(text: string): [number, number] | undefined {
  if (text === "") return undefined;
  const match = /^(\d{4})(?:\s*(?:-|–|to)\s*(\d{4}))?$/u.exec(text);
  if (match === null) throw new CellProblem("years", `"${text}" are no years; expected 2012 or 2012-2018`);
  return [Number(match[1]), Number(match[2] ?? match[1])];
}

/** A stretch of altitudes, metres: "0-600", "-100 to 600", one alone. */
function altitudeIn(text: string): [number, number] | undefined {
  if (text === "") return undefined;
  const match = /^(-?\d+(?:\.\d+)?)(?:\s*(?:-|–|to)\s*(-?\d+(?:\.\d+)?))?$/u.exec(text);
  if (match === null) throw new CellProblem("altitude", `"${text}" is no altitude; expected metres such as 0-600`);
  return [Number(match[1]), Number(match[2] ?? match[1])];
}

/** A line of points "x=y" with semicolons between them. */
function lineIn(text: string): [number, number][] | undefined {
  if (text === "") return undefined;
  return text
    .split(";")
    .filter((part) => part.trim() !== "")
    .map((part) => {
      const ends = part.split("=").map((end) => parseShorthand(end.trim()));
      const [x, y] = ends.map((end) => (end.ok && typeof end.value === "number" && end.unit === null ? end.value : Number.NaN));
      if (ends.length !== 2 || x === undefined || y === undefined || Number.isNaN(x + y))
        throw new CellProblem("line", `"${part.trim()}" is no point; expected what is sensed = what is shown, such as 20=0.5`);
      return [x, y];
    });
}

/** The parts that are there: what is undefined is left out. */
function given(parts: Readonly<Record<string, unknown>>): Record<string, unknown> {
  return Object.fromEntries(Object.entries(parts).filter(([, value]) => value !== undefined && value !== ""));
}

function ofVehicle(cells: Readonly<Record<string, string>>): Record<string, unknown> {
  const { make, model, engine, years = "", family = "", source, edition, date } = cells;
  if (familyById(family) === null) throw new CellProblem("family", family === "" ? "is empty; expected a family" : `"${family}" is no family`);
  return given({
    vehicle: given({ make, model, engine, years: yearsIn(years) }),
    family,
    source: given({ kind: cells["source kind"] || "document", title: source, edition }),
    date,
    confidence: numberIn(cells, "confidence"),
  });
}

/** Where leads go and in which state, of a limit or of a known reading. */
function atOf(cells: Readonly<Record<string, string>>): Record<string, unknown> {
  const truth = given({ temperature: numberIn(cells, "degC"), pressure: numberIn(cells, "kPa"), position: numberIn(cells, "percent") });
  const open = (cells["open"] ?? "").split(/[\s,;]+/u).filter(Boolean);
  const setup = given({
    key: cells["key"],
    rpm: numberIn(cells, "rpm"),
    open: open.length > 0 ? open : undefined,
    truth: Object.keys(truth).length > 0 ? truth : undefined,
  });
  const { circuit, meter, red, black, unit, load, altitude = "" } = cells;
  return given({
    ...ofVehicle(cells),
    circuit,
    meter,
    red,
    black,
    unit,
    load,
    altitude: altitudeIn(altitude),
    setup: Object.keys(setup).length > 0 ? setup : undefined,
  });
}

function limitOf(cells: Readonly<Record<string, string>>): unknown {
  return given({ ...atOf(cells), low: numberIn(cells, "low"), high: numberIn(cells, "high"), nominal: numberIn(cells, "nominal") });
}

function curveOf({ cells: rows }: Group): unknown {
  const [first = {}] = rows;
  const tolerance = numberIn(first, "tolerance");
  return given({
    ...ofVehicle(first),
    id: first["name"],
    kind: first["kind"],
    points: rows.map((cells) => [neededNumber(cells, "x"), neededNumber(cells, "y")]),
    tolerance: tolerance === undefined ? undefined : tolerance / 100,
  });
}

function variantOf(cells: Readonly<Record<string, string>>): unknown {
  const [low, high] = [numberIn(cells, "ohms low"), numberIn(cells, "ohms high")];
  if ((low === undefined) !== (high === undefined)) throw new CellProblem(low === undefined ? "ohms low" : "ohms high", "is empty; expected both ends");
  const { part, connector, seal, torque } = cells;
  return given({
    ...ofVehicle(cells),
    part,
    ohms: low === undefined ? undefined : [low, high],
    degC: numberIn(cells, "degC"),
    line: lineIn(cells["line"] ?? ""),
    teeth: numberIn(cells, "teeth"),
    connector,
    seal,
    torque,
  });
}

function recordIn(kind: ShelfKind, group: Group): unknown {
  const [first = {}] = group.cells;
  switch (kind) {
    case "limit":
      return limitOf(first);
    case "curve":
      return curveOf(group);
    case "variant":
      return variantOf(first);
    case "known":
      return { ...atOf(first), value: neededNumber(first, "value") };
  }
}

/** The column a problem at a path of a record is about. */
function columnAt(path: readonly PropertyKey[]): string | null {
  const [, first, second, third] = path.map(String);
  if (first === undefined) return null;
  if (first === "setup" && second === "truth") return { temperature: "degC", pressure: "kPa", position: "percent" }[third ?? ""] ?? null;
  if (first === "setup") return second ?? null;
  if (first === "vehicle") return second ?? null;
  if (first === "source") return second === "kind" ? "source kind" : second === "edition" ? "edition" : "source";
  if (first === "ohms") return "ohms low";
  if (first === "points") return third === "0" ? "x" : "y";
  if (first === "id") return "name";
  return first;
}

/** Rows that belong together: of a curve all rows in turn that share its name. */
function groupsOf(kind: ShelfKind, rows: readonly { readonly row: number; readonly cells: Readonly<Record<string, string>> }[]): Group[] {
  const groups: Group[] = [];
  for (const { row, cells } of rows) {
    const last = groups.at(-1);
    if (kind === "curve" && last !== undefined && last.cells[0]?.["name"] === cells["name"] && cells["name"] !== "") {
      last.rows.push(row);
      last.cells.push(cells);
    } else groups.push({ rows: [row], cells: [cells] });
  }
  return groups;
}

/** The columns a table's first row names, and what is wrong with it. */
function headerOf(kind: ShelfKind, header: readonly string[]): { names: readonly (string | null)[]; problems: RowProblem[] } {
  const known = new Map(COLUMNS[kind].map(({ name }) => [name.toLowerCase(), name]));
  const names = header.map((cell) => known.get(cell.trim().toLowerCase()) ?? null);
  const problems: RowProblem[] = [];
  header.forEach((cell, index) => {
    if (cell.trim() !== "" && names[index] === null) problems.push({ row: 1, column: cell.trim(), message: "is no column of this table" });
    else if (names[index] !== null && names.indexOf(names[index] as string) !== index)
      problems.push({ row: 1, column: cell.trim(), message: "stands here twice" });
  });
  for (const { name, needed } of COLUMNS[kind]) if (needed === true && !names.includes(name)) problems.push({ row: 1, column: name, message: "is missing" });
  return { names, problems };
}

/**
 * Reads a table of limits, curves or variants. Rows that cannot be are told in words and left out; the others are returned.
 * @param rows cells as text, the first row the columns' names; where that row is wrong nothing else is read
 */
export function readTable(kind: ShelfKind, rows: readonly (readonly string[])[]): TableRead {
  const [header = [], ...body] = rows;
  const { names, problems } = headerOf(kind, header);
  if (problems.length > 0) return { records: [], problems };
  const filled = body.flatMap((cells, index) => {
    if (cells.every((cell) => cell.trim() === "")) return [];
    const named = names.flatMap((name, place) => (name === null ? [] : [[name, (cells[place] ?? "").trim()] as const]));
    return [{ row: index + 2, cells: Object.fromEntries(named) }];
  });
  const records: TableRead["records"][number][] = [];
  for (const group of groupsOf(kind, filled)) {
    const row = group.rows[0] as number;
    try {
      const parsed = shelfRecordSchema.safeParse({ kind, record: recordIn(kind, group) });
      if (parsed.success) records.push({ rows: group.rows, item: parsed.data });
      else {
        const [issue] = parsed.error.issues;
        const column = columnAt(issue?.path ?? []);
        const empty = column !== null && (group.cells[0]?.[column] ?? "") === "" && issue?.code !== "too_small" && issue?.code !== "custom";
        problems.push({ row, column, message: empty ? "is empty" : (issue?.message ?? "") });
      }
    } catch (error) {
      if (!(error instanceof CellProblem)) throw error;
      const at = group.cells.findIndex((cells) => {
        try {
          numberIn(cells, error.column);
          return (cells[error.column] ?? "") === "";
        } catch {
          return true;
        }
      });
      problems.push({ row: group.rows[Math.max(0, at)] ?? row, column: error.column, message: error.message });
    }
  }
  return { records, problems };
}

/** Where leads go and in which state, as cells. */
function atCells({ circuit, meter, red, black, setup = {}, unit, load, altitude }: SpecKnown | SpecLimit): Readonly<Record<string, unknown>> {
  const { temperature, pressure, position } = setup.truth ?? {};
  const plain = (known: Known<number> | undefined): number | undefined => (known === undefined ? undefined : knownValue(known));
  const truth = { degC: plain(temperature), kPa: plain(pressure), percent: plain(position) };
  return { circuit, meter, red, black, key: setup.key, rpm: setup.rpm, load, altitude: altitude?.join("-"), open: setup.open?.join(" "), ...truth, unit };
}

/** The cells of one record, by column; of a curve one row for every point. */
function cellsOf(item: ShelfRecord): Readonly<Record<string, unknown>>[] {
  const { kind, record } = item;
  const { vehicle, family, source, date, confidence } = record;
  const years = vehicle.years === undefined ? undefined : vehicle.years.join("-");
  const of = { ...vehicle, years, family, source: source.title, edition: source.edition, "source kind": source.kind, date, confidence };
  switch (kind) {
    case "limit":
      return [{ ...of, ...atCells(record), low: record.low, high: record.high, nominal: record.nominal }];
    case "known":
      return [{ ...of, ...atCells(record), value: record.value }];
    case "curve": {
      const tolerance = record.tolerance === undefined ? undefined : Number((100 * record.tolerance).toPrecision(10));
      return record.points.map(([x, y]) => ({ ...of, name: record.id ?? record.kind, kind: record.kind, x, y, tolerance }));
    }
    case "variant": {
      const { part, ohms, degC, line, teeth, connector, seal, torque } = record;
      const points = line?.map(([x, y]) => `${x}=${y}`).join("; ");
      return [{ ...of, part, "ohms low": ohms?.[0], "ohms high": ohms?.[1], degC, line: points, teeth, connector, seal, torque }];
    }
  }
}

/** A table of all records of one kind, the columns' names first; what a table cannot say (added resistors) is left out of it. */
export function writeTable(kind: ShelfKind, items: readonly ShelfRecord[]): string[][] {
  const columns = COLUMNS[kind].map(({ name }) => name);
  const rows = items.filter((item) => item.kind === kind).flatMap(cellsOf);
  return [columns, ...rows.map((cells) => columns.map((name) => (cells[name] === undefined ? "" : String(cells[name]))))];
}
