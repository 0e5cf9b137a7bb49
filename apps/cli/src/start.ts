import { dirname } from "node:path";
import type { Answer } from "./answer";
import { askStandby } from "./standby/ask";
import { inputOf } from "./standby/input-of";

const [, self = "", ...words] = process.argv;
const folder = dirname(self);

/** By whoever stands by, else in this process. */
async function answer(): Promise<Answer> {
  const given = inputOf(words);
  const told = given === null ? null : await askStandby(folder, words, given);
  return told ?? (await import("./alone")).answerAlone(folder, words, given);
}

process.stdout.on("error", (error: NodeJS.ErrnoException) => {
  if (error.code === "EPIPE") process.exit(0);
  throw error;
});

answer().then(
  ({ code, stdout, stderr }) => {
    process.stderr.write(stderr);
    process.stdout.write(stdout);
    process.exitCode = code;
  },
  (error: unknown) => {
    process.stderr.write(`${error instanceof Error ? error.stack : error}\n`);
    process.exitCode = 1;
  },
);
