import { BadInput } from "@fox-lamp/language";
import Papa from "papaparse";

/** A column of a capture file: what stands over it, and how its numbers become base units. */
export interface CaptureColumn {
  readonly index: number;
  /** As the file names it; "column 3" where it does not. */
  readonly title: string;
  /** V, A, or what the file says. */
  readonly unit: string;
  readonly factor: number;
}

/** How a capture file is laid out. */
export interface CaptureLayout {
  readonly delimiter: "," | ";" | "\t" | " ";
  readonly decimal: "." | ",";
  /** Bytes before the first row of numbers, and its line from 1. */
  readonly headBytes: number;
  readonly firstLine: number;
  /** The column of time in seconds; null where only the rate is known. */
  readonly time: CaptureColumn | null;
  /** Samples a second as a comment says; null where there is none. */
  readonly rate: number | null;
  readonly channels: readonly CaptureColumn[];
  /** Whether the file names its columns. */
  readonly named: boolean;
  /** The first rows of numbers, as text, for a person who has to say what they are. */
  readonly sample: readonly (readonly string[])[];
}

const COMMENT = /^\s*"?[#%]/u;
const NUMBER = /^\s*[-+]?(\d+([.,]\d*)?|[.,]\d+)([eE][-+]?\d+)?\s*$/u;
const TIME = /^(time|times|zeit|temps|tiempo|t|x|sec|secs|seconds?)([\s_([].*)?$/iu;
const UNIT_CELL = /^\s*[([]?\s*(s|sec|seconds?|ms|us|µs|μs|ns|v|volts?|mv|kv|a|amps?|ma|hz|rpm|%|degc|°c|kpa)\s*[)\]]?\s*$/iu;
const RATE_COMMENT =
  /(sample\s*rate|sampling\s*rate|samples?\s*(per|a)\s*second|\brate\b|\bfs\b)[^\d-]*([\d.,]+(?:e[-+]?\d+)?)\s*(ghz|mhz|khz|hz|ms\/s|ks\/s|s\/s|msa\/s|ksa\/s|sa\/s)?/iu;
const INTERVAL_COMMENT = /(sample\s*(interval|period|time)|interval|increment|\bdt\b)[^\d-]*([\d.,]+(?:e[-+]?\d+)?)\s*(ns|us|µs|μs|ms|s)?\b/iu;
const SECONDS: Readonly<Record<string, number>> = { s: 1, sec: 1, secs: 1, second: 1, seconds: 1, ms: 1e-3, us: 1e-6, µs: 1e-6, μs: 1e-6, ns: 1e-9 };
const VALUE: Readonly<Record<string, readonly [string, number]>> = {
  v: ["V", 1],
  volt: ["V", 1],
  volts: ["V", 1],
  mv: ["V", 1e-3],
  kv: ["V", 1e3],
  a: ["A", 1],
  amp: ["A", 1],
  amps: ["A", 1],
  ma: ["A", 1e-3],
};
/** Text rows over the numbers: a device's own preamble is no longer. */
const MOST_HEAD_ROWS = 200;
const SAMPLE_ROWS = 3;

function numberOf(text: string): number {
  return Number(text.trim().replace(",", "."));
}

/** `sig [V]`, `sig (mV)`, `time_ms`: title and unit. */
function headOf(text: string): { title: string; unit: string } {
  const bracketed = /^(.*?)\s*[[(]\s*([^\])]*?)\s*[\])]\s*$/u.exec(text.trim());
  if (bracketed) return { title: (bracketed[1] ?? "").trim(), unit: bracketed[2] ?? "" };
  const suffixed = /^(time|t)_(s|ms|us|ns)$/iu.exec(text.trim());
  return suffixed ? { title: suffixed[1] ?? "", unit: suffixed[2] ?? "" } : { title: text.trim(), unit: "" };
}

function column(index: number, head: string, unitCell: string): CaptureColumn {
  const { title, unit: written } = headOf(head);
  const unit = written === "" ? unitCell.replaceAll(/[\s()[\]]/gu, "") : written;
  const [base, factor] = VALUE[unit.toLowerCase()] ?? [unit === "" ? "V" : unit, 1];
  return { index, title: title === "" ? `column ${index + 1}` : title, unit: base, factor };
}

/** Samples a second from comment lines; null where none says. */
function rateIn(comments: readonly string[]): number | null {
  for (const comment of comments) {
    const rate = RATE_COMMENT.exec(comment);
    if (rate) {
      const prefix = (rate[4] ?? "hz").toLowerCase()[0];
      const factor = /^(hz|s|sa)/iu.test(rate[4] ?? "hz") ? 1 : prefix === "g" ? 1e9 : prefix === "m" ? 1e6 : 1e3;
      const value = numberOf(rate[3] ?? "") * factor;
      if (value > 0) return value;
    }
    const interval = INTERVAL_COMMENT.exec(comment);
    if (interval) {
      const value = numberOf(interval[3] ?? "") * (SECONDS[(interval[4] ?? "s").toLowerCase()] ?? 1);
      if (value > 0) return 1 / value;
    }
  }
  return null;
}

interface Line {
  readonly text: string;
  readonly number: number;
  /** Where it begins, in characters. */
  readonly at: number;
}

function linesOf(text: string): Line[] {
  const lines: Line[] = [];
  let number = 0;
  for (const match of text.matchAll(/([^\r\n]*)(\r\n|\n|\r|$)/gu)) {
    number += 1;
    if (match[0] === "") break;
    lines.push({ text: match[1] ?? "", number, at: match.index });
  }
  return lines;
}

function delimiterOf(line: string): CaptureLayout["delimiter"] {
  if (line.includes("\t")) return "\t";
  if (line.includes(";")) return ";";
  if (line.includes(",")) return ",";
  return /\d\s+[-+\d.]/u.test(line.trim()) ? " " : ",";
}

function cellsOf(line: string, delimiter: CaptureLayout["delimiter"]): string[] {
  if (delimiter === " ") return line.trim().split(/\s+/u);
  return Papa.parse<string[]>(line, { delimiter }).data[0] ?? [];
}

function isNumbers(cells: readonly string[]): boolean {
  const filled = cells.filter((cell) => cell.trim() !== "");
  return filled.length > 0 && filled.every((cell) => NUMBER.test(cell));
}

/** Bytes of a text in UTF-8. */
function bytesOf(text: string): number {
  return new TextEncoder().encode(text).length;
}

/** What a person says about time where a file does not. */
export interface TimeSaid {
  /** Samples a second; given, a file without time is no mistake. */
  readonly rate?: number | undefined;
  /** The column of time in seconds, from 0. */
  readonly time?: number | undefined;
  /** A file without time and rate is looked at, as long as nobody has said more. */
  readonly ask?: boolean | undefined;
}

/**
 * Reads the head of a capture file: separator, decimal mark, comments with a rate, names, units, time.
 *
 * @param bytes the beginning of the file, some rows of numbers included
 * @param said what somebody has said about its time
 * @throws BadInput where there is no table in it, with what was expected
 */
export function captureLayout(bytes: Uint8Array, said: TimeSaid = {}): CaptureLayout {
  if (bytes.length === 0) throw new BadInput({ code: "capture:empty", where: "", message: "the file is empty; expected a row of names and rows of numbers" });
  if ((bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff) || (bytes[1] === 0 && bytes[3] === 0)) {
    throw new BadInput({ code: "capture:encoding", where: "line 1", message: "is written in UTF-16; expected plain text or UTF-8" });
  }
  const bom = bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf ? 3 : 0;
  const text = new TextDecoder("utf-8", { ignoreBOM: true }).decode(bytes.subarray(bom));
  if (text.includes("\0")) throw new BadInput({ code: "capture:binary", where: "line 1", message: "is no text; expected a CSV file" });
  const lines = linesOf(text);
  const comments = lines.filter(({ text: line }) => COMMENT.test(line));
  const rows = lines.filter(({ text: line }) => !COMMENT.test(line) && line.replaceAll(/[\s,;]/gu, "") !== "");
  const first = rows.findIndex(({ text: line }) => isNumbers(cellsOf(line, delimiterOf(line))));
  if (first < 0 || first > MOST_HEAD_ROWS) {
    const [row] = rows;
    const where = row === undefined ? "" : `line ${row.number}`;
    throw new BadInput({ code: "capture:no-numbers", where, message: "there are no rows of numbers; expected a time and one value a channel in every row" });
  }
  const numbers = rows[first] as Line;
  const delimiter = delimiterOf(numbers.text);
  const cells = cellsOf(numbers.text, delimiter);
  const before = rows.slice(0, first).map(({ text: line }) => cellsOf(line, delimiter));
  const above = before.at(-1);
  const unitRow = before.length >= 2 && above?.every((cell) => cell.trim() === "" || UNIT_CELL.test(cell)) ? above : null;
  const heads = (unitRow === null ? above : before.at(-2)) ?? [];
  const named = heads.length > 1 || (heads.length === 1 && cells.length === 1);
  const sample = rows.slice(first, first + SAMPLE_ROWS).map(({ text: line }) => cellsOf(line, delimiter));
  const decimal = delimiter !== "," && sample.flat().some((cell) => cell.includes(",")) ? "," : ".";
  const used = usedColumns(rows.slice(first, -1).length === 0 ? rows.slice(first) : rows.slice(first, -1), delimiter, heads);
  const columns = used.map((index) => column(index, named ? (heads[index] ?? "") : "", unitRow?.[index] ?? ""));
  const chosen = columns.find(({ index }) => index === said.time);
  const time =
    chosen === undefined ? timeColumn(columns, rows.slice(first), delimiter, named) : { column: { ...chosen, unit: "s", factor: 1 }, source: chosen };
  const rate = rateIn(comments.map(({ text: line }) => line).concat(rows.slice(0, first).map(({ text: line }) => line)));
  if (time === null && rate === null && said.rate === undefined && said.ask !== true) {
    throw new BadInput({
      code: "capture:no-time",
      where: `line ${above === undefined ? numbers.number : (rows[first - 1] as Line).number}`,
      message: `there is no column of time and no sample rate; expected the first column to be "time_s" or a comment such as "# sample rate 10000 Hz"`,
    });
  }
  const channels = columns.filter((one) => one !== time?.source);
  if (channels.length === 0) {
    throw new BadInput({
      code: "capture:no-channels",
      where: `line ${numbers.number}`,
      message: "there is only time in it; expected one column a channel beside it",
    });
  }
  return {
    delimiter,
    decimal,
    headBytes: bom + bytesOf(text.slice(0, numbers.at)),
    firstLine: numbers.number,
    time: time === null ? null : time.column,
    rate,
    channels,
    named,
    sample,
  };
}

/** Columns with a name or with numbers; those blank all through, as separators at a line's end make, are left out. */
function usedColumns(rows: readonly Line[], delimiter: CaptureLayout["delimiter"], heads: readonly string[]): number[] {
  const filled = new Set<number>();
  for (const { text } of rows.slice(0, 20)) {
    cellsOf(text, delimiter).forEach((cell, index) => {
      if (cell.trim() !== "") filled.add(index);
    });
  }
  heads.forEach((head, index) => {
    if (head.trim() !== "" && index <= Math.max(...filled)) filled.add(index);
  });
  return [...filled].sort((a, b) => a - b);
}

/** The column of time, its numbers brought to seconds: by name, or in a file without names the first where it rises evenly. */
function timeColumn(
  columns: readonly CaptureColumn[],
  rows: readonly Line[],
  delimiter: CaptureLayout["delimiter"],
  named: boolean,
): { column: CaptureColumn; source: CaptureColumn } | null {
  const [first] = columns;
  const byName = named ? columns.find(({ title }) => TIME.test(title)) : undefined;
  const found = byName ?? (first !== undefined && (columns.length > 1 || !named) && rises(rows, delimiter, first.index) ? first : undefined);
  if (found === undefined) return null;
  const factor = SECONDS[found.unit.toLowerCase()] ?? 1;
  return { column: { ...found, unit: "s", factor }, source: found };
}

function rises(rows: readonly Line[], delimiter: CaptureLayout["delimiter"], index: number): boolean {
  const values = rows.slice(0, 12).map(({ text }) => numberOf(cellsOf(text, delimiter)[index] ?? ""));
  if (values.length < 3) return false;
  const steps = values.slice(1).map((value, at) => value - (values[at] ?? 0));
  const mean = steps.slice(0, -1).reduce((sum, step) => sum + step, 0) / (steps.length - 1);
  return mean > 0 && steps.slice(0, -1).every((step) => step > 0 && Math.abs(step / mean - 1) < 0.5);
}
