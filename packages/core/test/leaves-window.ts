import type { Expect, Value } from "@fox-lamp/language";

/** Whether a reading is outside its healthy window, or another word than the healthy one. */
export function leavesWindow(value: Value | null, window: Expect | null): boolean {
  if (value === null || window === null) return false;
  if (typeof value === "string") return value !== window.word;
  if (typeof value === "object") return leavesWindow(value.max - value.min, window);
  if (typeof value !== "number") return false;
  return window.word !== undefined || value < (window.low ?? Number.NEGATIVE_INFINITY) || value > (window.high ?? Number.POSITIVE_INFINITY);
}
