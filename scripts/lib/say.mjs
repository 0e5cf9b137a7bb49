// Messages and ends: one clear sentence, no stack trace.
import { spawn } from "node:child_process";
import { fileURLToPath } from "node:url";

export const root = fileURLToPath(new URL("../..", import.meta.url)).replace(/\/$/, "");

/** A failure that people can act on. */
export class Refusal extends Error {}

export function say(text) {
  process.stderr.write(`${text}\n`);
}

/** Runs a command; resolves with its exit code and, when asked, its output. */
export function run(command, args, { quiet = false, cwd = root, env = process.env, uid, gid } = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { cwd, env, uid, gid, stdio: quiet ? ["ignore", "pipe", "pipe"] : ["ignore", "inherit", "inherit"] });
    let output = "";
    child.stdout?.on("data", (chunk) => (output += chunk));
    child.stderr?.on("data", (chunk) => (output += chunk));
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
