import type { Family } from "@fox-lamp/core";
import { parseShorthand } from "@fox-lamp/language";
import { z } from "zod";
import { messages } from "../../messages";

const t = messages.sheet;

/** One parameter of a family as a field of a form: how it is typed, its usual value, what it means. */
export interface ParameterField {
  readonly name: string;
  readonly kind: "number" | "choice" | "pair" | "list";
  readonly label: string;
  /** The family's usual value as it would be typed; empty where there is none. */
  readonly usual: string;
  readonly choices: readonly string[];
}

interface Property {
  readonly type?: string;
  readonly default?: unknown;
  readonly description?: string;
  readonly anyOf?: readonly { readonly const?: unknown }[];
  readonly enum?: readonly unknown[];
  readonly prefixItems?: readonly unknown[];
  readonly maxItems?: number;
}

/** A value with where it comes from, as a sheet holds it. */
interface Wrapped {
  readonly value: unknown;
  readonly spread?: unknown;
}

function isWrapped(value: unknown): value is Wrapped {
  return typeof value === "object" && value !== null && !Array.isArray(value) && "value" in value;
}

/** A value as it is typed into its field: a number with how far it may be off ("5 ± 0.05"), a pair, or pairs one a line. */
export function typedOf(value: unknown): string {
  if (isWrapped(value)) return `${typedOf(value.value)}${typeof value.value === "number" && typeof value.spread === "number" ? ` ± ${value.spread}` : ""}`;
  if (!Array.isArray(value)) return value === undefined || value === null ? "" : String(value);
  return value.every(Array.isArray) ? value.map((pair) => (pair as unknown[]).join(", ")).join("\n") : value.join(", ");
}

/** The fields of a family's parameters, read off its schema. */
export function fieldsOf(family: Family): ParameterField[] {
  const schema = z.toJSONSchema(family.parameters, { io: "input", unrepresentable: "any" }) as { properties?: Readonly<Record<string, Property>> };
  return Object.entries(schema.properties ?? {}).map(([name, property]): ParameterField => {
    const listed = property.type === "boolean" ? [false, true] : (property.enum ?? (property.anyOf ?? []).map((option) => option.const));
    const choices = listed.filter((option) => option !== undefined).map(String);
    const pair = property.type === "array" && property.maxItems === 2 && property.prefixItems !== undefined;
    const kind = choices.length > 0 ? "choice" : pair ? "pair" : property.type === "array" ? "list" : "number";
    return { name, kind, label: property.description ?? name, usual: typedOf(property.default), choices };
  });
}

/** A number as typed, shorthand and units included; null for what is none. */
function numberTyped(text: string): number | null {
  const parsed = parseShorthand(text);
  return parsed.ok && typeof parsed.value === "number" ? parsed.value : null;
}

/** A usual value with how far it may be off, as an example of what may be typed: a hundredth of it; of five volts where there is none. */
export function spreadExample(usual: string): string {
  const value = Number(usual);
  return usual === "" || !Number.isFinite(value) || value === 0 ? "5 ± 0.05" : `${usual} ± ${Number((value / 100).toPrecision(1))}`;
}

const SPREAD = /^(.+?)\s*(?:±|\+\/?-)\s*(.+)$/u;

/** A number, or one with how far it may be off: "5 ± 0.05"; null for what is neither. */
function spreadTyped(text: string): unknown {
  const match = SPREAD.exec(text.trim());
  if (match === null) return numberTyped(text);
  const [value, spread] = [numberTyped(match[1] ?? ""), numberTyped(match[2] ?? "")];
  return value === null || spread === null || spread <= 0 ? null : { value, from: "specified", spread };
}

/** A tolerance in percent of what a curve shows, as it is typed, as a share; null where none is typed, or it is none. */
export function toleranceTyped(text: string): number | null {
  const percent = numberTyped(text.replace("%", ""));
  return percent === null || percent <= 0 || percent > 100 ? null : percent / 100;
}

/** The tolerance a sheet's curve has, as it is typed: percent; empty where it has none. */
export function toleranceOf(value: unknown): string {
  return isWrapped(value) && typeof value.spread === "number" ? `${Number((100 * value.spread).toPrecision(6))}` : "";
}

/** Parameters as typed, where nothing of one was changed as the sheet had it: with where it comes from. */
export function keepingOrigins(typed: Readonly<Record<string, unknown>>, before: Readonly<Record<string, unknown>> = {}): Record<string, unknown> {
  return Object.fromEntries(
    Object.entries(typed).map(([name, value]) => {
      const had = before[name];
      return [name, isWrapped(had) && typedOf(had) === typedOf(value) && toleranceOf(had) === toleranceOf(value) ? had : value];
    }),
  );
}

/** Two numbers in the order they are typed: with a comma, a semicolon, "to" or room between them. */
function numbersIn(text: string): number[] | null {
  const plain = text.trim();
  const split = plain.split(/\s*;\s*|,\s+|\s+to\s+|\s+/u).filter(Boolean);
  // One comma without room behind it stands between the two, as in a table.
  const cells = split.length === 1 ? plain.split(",") : split;
  const numbers = cells.map(numberTyped);
  return numbers.length === 2 && numbers.every((number) => number !== null) ? numbers : null;
}

/** What one field says; undefined where it is left at its usual value. */
function valueIn(field: ParameterField, text: string): { value: unknown } | { problem: string } | null {
  if (text.trim() === "") return null;
  switch (field.kind) {
    case "choice": {
      if (text === "true" || text === "false") return { value: text === "true" };
      return { value: Number.isFinite(Number(text)) ? Number(text) : text };
    }
    case "number": {
      const value = spreadTyped(text);
      return value === null ? { problem: messages.notANumber(text) } : { value };
    }
    case "pair": {
      const pair = numbersIn(text);
      return pair === null ? { problem: t.badPair(text) } : { value: pair };
    }
    case "list": {
      const pairs: number[][] = [];
      for (const [index, line] of text.split("\n").entries()) {
        if (line.trim() === "") continue;
        const pair = numbersIn(line);
        if (pair === null) return { problem: t.badList(index + 1, line.trim()) };
        pairs.push(pair);
      }
      return { value: pairs };
    }
  }
}

/** The parameters a form's texts stand for, and what is wrong with any of them. */
export function parametersIn(
  fields: readonly ParameterField[],
  texts: Readonly<Record<string, string>>,
): { with: Record<string, unknown>; problems: Record<string, string> } {
  const values: Record<string, unknown> = {};
  const problems: Record<string, string> = {};
  for (const field of fields) {
    const read = valueIn(field, texts[field.name] ?? "");
    if (read === null) continue;
    if ("problem" in read) problems[field.name] = read.problem;
    else values[field.name] = read.value;
  }
  return { with: values, problems };
}
