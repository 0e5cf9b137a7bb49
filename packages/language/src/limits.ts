/** What anything entered stays within: larger is a mistake, or an attack. */
export const MOST_CIRCUITS = 60;
export const MOST_ENTRIES = 20_000;
export const MOST_MOMENTS = 200_000;
/** Records put on the shelf at once. */
export const MOST_SHELF_ITEMS = 2000;
/** JSON nested deeper than this is nobody's file. */
export const MOST_DEPTH = 60;
const MOST_TEXT = 20_000;
const MOST_ITEMS = 20_000;
/** No quantity of this trade is larger, in whatever unit. */
const MOST_NUMBER = 1e12;
const MOST_LEVELS = 40;
const [FIRST_YEAR, LAST_YEAR] = [1990, 2199];

/** Something beyond those limits: where it is, and what was expected. */
export interface Beyond {
  readonly path: readonly (string | number)[];
  readonly message: string;
}

/** The first thing within a value that is beyond what anything entered may be; null where all of it is within. */
export function beyondLimits(value: unknown, path: readonly (string | number)[] = []): Beyond | null {
  if (path.length > MOST_LEVELS) return { path, message: `is nested deeper than ${MOST_LEVELS} levels` };
  if (typeof value === "string") return value.length > MOST_TEXT ? { path, message: `expected at most ${MOST_TEXT} characters, got ${value.length}` } : null;
  if (typeof value === "number")
    return Math.abs(value) > MOST_NUMBER || !Number.isFinite(value) ? { path, message: `expected a number up to ${MOST_NUMBER}, got ${value}` } : null;
  if (typeof value !== "object" || value === null) return null;
  const items: readonly (readonly [string | number, unknown])[] = Array.isArray(value)
    ? value.map((item, index) => [index, item] as const)
    : Object.entries(value);
  if (items.length > MOST_ITEMS) return { path, message: `expected at most ${MOST_ITEMS} items, got ${items.length}` };
  for (const [key, item] of items) {
    const found = beyondLimits(item, [...path, key]);
    if (found !== null) return found;
  }
  return null;
}

/** Whether a moment in ISO 8601 exists and lies in a year in which anybody can have entered something. */
export function isLikelyMoment(text: string): boolean {
  const moment = new Date(text);
  const year = moment.getUTCFullYear();
  return !Number.isNaN(moment.getTime()) && year >= FIRST_YEAR && year <= LAST_YEAR;
}

/** How deep the text of a JSON document is nested; stops at `most`. Brackets inside strings do not count. */
export function depthOf(text: string, most: number): number {
  let depth = 0;
  let deepest = 0;
  let inString = false;
  for (let at = 0; at < text.length && deepest < most; at += 1) {
    const sign = text.charCodeAt(at);
    if (inString) {
      if (sign === 0x5c) at += 1;
      else if (sign === 0x22) inString = false;
    } else if (sign === 0x22) inString = true;
    else if (sign === 0x7b || sign === 0x5b) {
      depth += 1;
      deepest = Math.max(deepest, depth);
    } else if (sign === 0x7d || sign === 0x5d) depth -= 1;
  }
  return deepest;
}
