import type { Setup } from "@fox-lamp/language";

/** What the engine does while a capture is taken. */
export type EngineDoes = "stands" | "cranks" | "runs";

/** What the engine does in a setup, as far as its key says. */
export function engineDoes({ key = "on" }: Setup): EngineDoes {
  return key === "crank" ? "cranks" : key === "idle" || key === "rev" ? "runs" : "stands";
}
