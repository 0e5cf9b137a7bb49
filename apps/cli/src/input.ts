import { readFileSync } from "node:fs";
import { parseArgs } from "node:util";
import { BadInput, depthOf, MOST_DEPTH, parseOrThrow } from "@fox-lamp/language";
import type { z } from "zod";

/** Where commands read and what they remark on. */
export interface Input {
  /** A file, or standard input for `-`. @throws BadInput when it cannot be read */
  readonly bytes: (file: string) => Uint8Array;
  /** One line for standard error. */
  readonly note: (line: string) => void;
}

/** Reads a file, or standard input for `-`, as it is. @throws BadInput when it cannot be read */
export function readBytes(file: string): Uint8Array {
  try {
    return readFileSync(file === "-" ? 0 : file);
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code;
    const message = code === "ENOENT" ? "there is no such file" : `cannot be read (${code ?? "error"})`;
    throw new BadInput({ code: "file:unreadable", where: file, message });
  }
}

/** Reads a file, or standard input for `-`, as JSON. @throws BadInput when it cannot be read or is no JSON */
export function readJson(file: string, { bytes }: Input): unknown {
  const text = new TextDecoder("utf-8", { ignoreBOM: true }).decode(bytes(file));
  const where = file === "-" ? "standard input" : file;
  if (depthOf(text, MOST_DEPTH + 1) > MOST_DEPTH) throw new BadInput({ code: "file:too-deep", where, message: `is nested deeper than ${MOST_DEPTH} levels` });
  try {
    return JSON.parse(text.replace(/^\uFEFF/u, ""));
  } catch (error) {
    throw new BadInput({ code: "file:not-json", where, message: `is not JSON: ${(error as Error).message}` });
  }
}

/** The one file argument of a command. @throws BadInput when it is missing or there are more */
export function onlyFile(words: readonly string[], usage: string): string {
  const [file, extra] = words;
  if (file === undefined) throw new BadInput({ code: "argument:missing", where: "", message: `a file is missing; expected fox-lamp ${usage}` });
  if (extra !== undefined)
    throw new BadInput({ code: "argument:extra", where: "", message: `"${extra}" is one argument too many; expected fox-lamp ${usage}` });
  return file;
}

/** Checks a file's content against a schema. @throws BadInput with where and what was expected */
export function checked<S extends z.ZodType>(schema: S, value: unknown): z.output<S> {
  return parseOrThrow(schema, value);
}

/** Reads `--name value` options. @throws BadInput for unknown ones and for values that are no numbers in range */
export function options<K extends string>(words: readonly string[], names: readonly K[], usage: string): Partial<Record<K, string>> {
  try {
    const { values } = parseArgs({ args: [...words], options: Object.fromEntries(names.map((name) => [name, { type: "string" as const }])), strict: true });
    return values as Partial<Record<K, string>>;
  } catch (error) {
    throw new BadInput({ code: "argument:unknown", where: "", message: `${(error as Error).message.split(".")[0] ?? ""}; expected fox-lamp ${usage}` });
  }
}

/** A number option within bounds. @throws BadInput otherwise */
export function numberOption(name: string, text: string | undefined, fallback: number | null, low: number, high: number, whole: boolean): number {
  if (text === undefined) {
    if (fallback !== null) return fallback;
    throw new BadInput({ code: "argument:missing", where: `--${name}`, message: "is missing; expected a number" });
  }
  const value = Number(text);
  if (text.trim() === "" || !Number.isFinite(value) || value < low || value > high || (whole && !Number.isInteger(value))) {
    throw new BadInput({
      code: "argument:number",
      where: `--${name}`,
      message: `"${text}" is not ${whole ? "a whole number" : "a number"} from ${low} to ${high}`,
    });
  }
  return value;
}
