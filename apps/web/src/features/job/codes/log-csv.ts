import type { Recording } from "@fox-lamp/language";
import Papa from "papaparse";
import { messages } from "../../../messages";

const t = messages.codes;
const TIME = /^(time|time_s|seconds|sec|s|t|zeit)\b/iu;
/** A recording holds at most this many moments; longer logs are thinned evenly, their dropouts kept by taking extremes. */
const MOST_ROWS = 4000;

/** `coolant [degC]` or `coolant (degC)`: name and unit. */
function headOf(text: string): { name: string; unit: string } {
  const match = /^(.*?)\s*[[(]([^\])]*)[\])]\s*$/u.exec(text.trim());
  return match ? { name: match[1] ?? text, unit: match[2] ?? "" } : { name: text.trim(), unit: "" };
}

function numberOf(cell: string | undefined): number | null {
  const text = (cell ?? "").trim().replace(/^(-?\d+),(\d+)$/u, "$1.$2");
  if (text === "") return null;
  const value = Number(text);
  return Number.isFinite(value) ? value : null;
}

/**
 * A log of live values: the first column is the time in seconds, every other column a value with its unit in brackets; `#` lines are comments.
 * @returns the recording, or one sentence that says what is wrong and where
 */
export function recordingIn(text: string, name: string): { recording: Recording } | { problem: string } {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/u, ""), { comments: "#", skipEmptyLines: true, delimitersToGuess: [",", ";", "\t"] });
  const [head, ...rows] = data;
  if (!head || rows.length === 0) return { problem: t.csvEmpty(name) };
  if (head.length < 2) return { problem: t.csvSeparator(name) };
  if (!TIME.test(head[0]?.trim() ?? "")) return { problem: t.csvTime(name, head[0] ?? "") };
  const times: number[] = [];
  for (const [index, row] of rows.entries()) {
    const time = numberOf(row[0]);
    if (time === null) return { problem: t.csvNumbers(name, index + 2, row[0] ?? "") };
    times.push(time);
  }
  const start = times[0] ?? 0;
  const stride = Math.ceil(rows.length / MOST_ROWS);
  const kept = rows.flatMap((_, index) => (index % stride === 0 ? [index] : []));
  const channels = head.slice(1).map((title, column) => {
    const all = rows.map((row) => numberOf(row[column + 1]));
    return { ...headOf(title), circuit: null, values: kept.map((index) => extremeOf(all, index, stride)) };
  });
  return {
    recording: {
      title: name,
      seconds: kept.map((index) => Number(((times[index] ?? 0) - start).toFixed(4))),
      channels: channels.filter(({ values }) => values.some((value) => value !== null)),
    },
  };
}

/** Of a stretch of samples the one that lies farthest from its middle, so that no dropout is thinned away. */
function extremeOf(values: readonly (number | null)[], from: number, count: number): number | null {
  const stretch = values.slice(from, from + count);
  const known = stretch.filter((value): value is number => value !== null);
  if (known.length < stretch.length) return null;
  const middle = [...known].sort((a, b) => a - b)[Math.floor(known.length / 2)] ?? 0;
  return known.reduce((best, value) => (Math.abs(value - middle) > Math.abs(best - middle) ? value : best), middle);
}
