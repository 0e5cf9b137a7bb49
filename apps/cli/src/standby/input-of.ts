import { readFileSync } from "node:fs";

/** Commands that take a moment to compute and read one file and nothing else. */
const SERVED = ["measure", "diagnose", "triage", "explain"];

/**
 * What such a command reads, so that another process can answer it.
 *
 * @returns null where the command is none of these, or where nothing can be read: the command itself says why
 */
export function inputOf(words: readonly string[]): Uint8Array | null {
  const [command = "", file] = words;
  if (words.length !== 2 || file === undefined || !SERVED.includes(command)) return null;
  try {
    return readFileSync(file === "-" ? 0 : file);
  } catch {
    return null;
  }
}
