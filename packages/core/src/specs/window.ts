import type { SpecLimit } from "@fox-lamp/language";
import { baseOf } from "./units";

/** A window in base units; open ends are infinite. */
export interface SpecWindow {
  readonly low: number;
  readonly high: number;
  readonly unit: string;
}

/** A nominal value alone is meant to within this share. */
const NOMINAL_SHARE = 0.05;

/** The window a limit means, in base units; null for a unit nobody knows. */
export function windowOfLimit({ low, high, nominal, unit }: SpecLimit): SpecWindow | null {
  const known = baseOf(unit);
  if (known === null) return null;
  const { base, factor } = known;
  if (low === undefined && high === undefined && nominal !== undefined) {
    const ends = [nominal * (1 - NOMINAL_SHARE) * factor, nominal * (1 + NOMINAL_SHARE) * factor];
    return { low: Math.min(...ends), high: Math.max(...ends), unit: base };
  }
  return { low: (low ?? Number.NEGATIVE_INFINITY) * factor, high: (high ?? Number.POSITIVE_INFINITY) * factor, unit: base };
}

/** Whether two windows have nothing in common. */
export function apart(a: Pick<SpecWindow, "low" | "high">, b: Pick<SpecWindow, "low" | "high">): boolean {
  return a.high < b.low || b.high < a.low;
}

/** A window in words. */
export function windowWords({ low, high, unit }: SpecWindow): string {
  const number = (value: number): string => `${Number(value.toPrecision(3))}`;
  // Below nothing by what a lead spoils is nothing.
  const fromNothing = low === Number.NEGATIVE_INFINITY || (low <= 0 && -low < 0.5 * high);
  if (fromNothing) return `up to ${number(high)} ${unit}`;
  if (high === Number.POSITIVE_INFINITY) return `${number(low)} ${unit} or more`;
  return `${number(low)} to ${number(high)} ${unit}`;
}
