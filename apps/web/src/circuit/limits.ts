import { formatWindow } from "@fox-lamp/core";
import { type Limits, parseShorthand, parseSpan, type Value } from "@fox-lamp/language";
import { messages } from "../messages";
import { shownUnit, shownValue, typedValue } from "../ui/display";

/** Limits as typed, or why they are none. */
export type TypedLimits = { readonly ok: true; readonly limits: Pick<Limits, "low" | "high"> } | { readonly ok: false; readonly message: string };

const UNDER = /^(?:under|below|less than|up to|at most|max(?:imum)?\.?|<=?|≤)\s*(\S.*)$/iu;
const OVER = /^(?:over|above|more than|at least|min(?:imum)?\.?|>=?|≥)\s*(\S.*)$/iu;
const AROUND = /^(\S.*?)\s*(?:±|\+\/-|\+-)\s*(\S.*)$/u;

/** Limits as a book prints them: `4.95 to 5.05`, `under 100m`, `over 10k`, `5 ± 0.1`, `5 ± 2 %`; in a base unit, or as this device shows it. */
export function limitsTyped(text: string, unit: string): TypedLimits {
  const plain = text.trim();
  const refused: TypedLimits = { ok: false, message: messages.bench.badLimits(plain) };
  const number = (part: string | undefined): number | null => {
    const parsed = part === undefined ? null : parseShorthand(part);
    if (!parsed?.ok || typeof parsed.value !== "number" || (parsed.unit !== null && parsed.unit !== unit)) return null;
    return parsed.unit === null ? typedValue(parsed.value, unit) : parsed.value;
  };
  const one = (key: "low" | "high", part: string | undefined): TypedLimits => {
    const value = number(part);
    return value === null ? refused : { ok: true, limits: { [key]: value } };
  };
  const [under, over, around] = [UNDER.exec(plain), OVER.exec(plain), AROUND.exec(plain)];
  if (under) return one("high", under[1]);
  if (over) return one("low", over[1]);
  if (around) {
    const [, first = "", second = ""] = around;
    const middle = number(first);
    const share = /^(\d+(?:[.,]\d+)?)\s*%$/u.exec(second);
    const apart = share ? (Math.abs(middle ?? 0) * Number((share[1] ?? "").replace(",", "."))) / 100 : number(second);
    if (middle === null || apart === null) return refused;
    return { ok: true, limits: { low: tidy(middle - apart), high: tidy(middle + apart) } };
  }
  const span = parseSpan(plain);
  if (!span.ok || (span.unit !== null && span.unit !== unit)) return refused;
  const based = (value: number): number => (span.unit === null ? typedValue(value, unit) : value);
  return { ok: true, limits: { low: based(span.value.min), high: based(span.value.max) } };
}

function tidy(value: number): number {
  return Number(value.toPrecision(10));
}

/** Limits in words, with where they stand. */
export function limitsText({ low, high, source }: Limits, unit: string): string {
  const shown = (value: number | undefined): number | null => (value === undefined ? null : shownValue(value, unit));
  const window = formatWindow(shown(low), shown(high), shownUnit(unit));
  return source === undefined || source === "" ? window : `${window} (${source})`;
}

/** Whether a value lies within limits; null for words. Of lowest and highest both must. */
export function isWithin(value: Value, { low, high }: Pick<Limits, "low" | "high">): boolean | null {
  if (typeof value === "string") return value === "OL" ? high === undefined : null;
  const [least, most] = typeof value === "number" ? [value, value] : [value.min, value.max];
  return (low === undefined || least >= low) && (high === undefined || most <= high);
}
