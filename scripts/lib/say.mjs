// Messages and ends: one clear sentence, no stack trace.
import { spawn } from "node:child_process";
import { createInterface } from "node:readline";
import { fileURLToPath } from "node:url";

export const root = fileURLToPath(new URL("../..", import.meta.url)).replace(/\/$/, "");

/** A failure that people can act on. */
export class Refusal extends Error {}

export function say(text) {
  process.stderr.write(`${text}\n`);
}

/**
 * Runs a command; resolves with its exit code and, when asked, its output. With a label, every line is shown behind it, so that
 * commands side by side can be told apart.
 */
export function run(command, args, { quiet = false, label = "", cwd = root, env = process.env, uid, gid } = {}) {
  return new Promise((resolve) => {
    const piped = quiet || label !== "";
    const child = spawn(command, args, { cwd, env, uid, gid, stdio: piped ? ["ignore", "pipe", "pipe"] : ["ignore", "inherit", "inherit"] });
    let output = "";
    for (const stream of [child.stdout, child.stderr]) {
      if (label !== "") createInterface({ input: stream }).on("line", (line) => say(`${label} | ${line}`));
      else stream?.on("data", (chunk) => (output += chunk));
    }
    child.on("error", (error) => resolve({ code: 127, output: error.message }));
    child.on("close", (code, signal) => resolve({ code: code ?? (signal ? 130 : 1), output }));
  });
}

/** Runs a main function; refusals become one sentence and exit 1. */
export async function main(task) {
  try {
    process.exitCode = (await task()) ?? 0;
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    say(error.message);
    process.exitCode = 1;
  }
}
