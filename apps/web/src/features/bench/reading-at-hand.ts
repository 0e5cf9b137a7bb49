import { measurementOf } from "@fox-lamp/core";
import { type NextTest, printShorthand, type Reading, type Value } from "@fox-lamp/language";
import type { ShelfLimits } from "../../app/use-shelf-limits";
import { limitsTyped } from "../../circuit/limits";
import type { Book } from "./desk";

/** A test with its value as a reading of the language. */
export function readingOf(test: NextTest, value: Value, id: string, unit?: string): Reading & { id: string } {
  // Lowest and highest are a recording, whatever the test asked for.
  const record = typeof value === "object" ? { record: "min-max" as const } : {};
  return { ...measurementOf(test), ...record, id, value, ...(unit === undefined ? {} : { unit }) };
}

/** A number as it would be typed. */
export function typedText(value: Value): string {
  if (typeof value === "number") return printShorthand(value, 4);
  if (typeof value === "string") return value;
  return `${printShorthand(value.min, 4)} to ${printShorthand(value.max, 4)}`;
}

/** A book's limits as a reading carries them: what was typed, else what the shelf says; nothing while they are none. */
export function limitsOf({ text, source, withoutShelf = false }: Book, unit: string, shelf: ShelfLimits | null): Pick<Reading, "limits"> {
  const typed = text.trim() === "" ? null : limitsTyped(text, unit);
  if (typed === null && shelf !== null && !withoutShelf) return { limits: shelf.used.limits };
  return typed?.ok ? { limits: { ...typed.limits, ...(source.trim() === "" ? {} : { source: source.trim() }) } } : {};
}
