import { BadInput } from "@fox-lamp/language";
import { COMMANDS } from "./commands";

/** Runs the command line: one command, JSON out, one clear line and exit 2 for bad input. */
async function main(words: readonly string[]): Promise<number> {
  const [name, ...rest] = words;
  if (name === undefined || name === "help" || name === "--help") {
    const lines = COMMANDS.map((command) => `  fox-lamp ${command.usage}`);
    process.stderr.write(`Usage:\n${lines.join("\n")}\n`);
    return name === undefined ? 2 : 0;
  }
  const command = COMMANDS.find((candidate) => candidate.name === name);
  if (!command) {
    process.stderr.write(`"${name}" is not a command; expected one of ${COMMANDS.map((candidate) => candidate.name).join(", ")}\n`);
    return 2;
  }
  try {
    process.stdout.write(await command.run(rest));
    return 0;
  } catch (error) {
    if (!(error instanceof BadInput)) throw error;
    // One line, whatever a file's own words hold.
    process.stderr.write(`${error.message.replaceAll(/\s*[\r\n]+\s*/gu, " ")}\n`);
    return 2;
  }
}

process.stdout.on("error", (error: NodeJS.ErrnoException) => {
  if (error.code === "EPIPE") process.exit(0);
  throw error;
});

main(process.argv.slice(2)).then(
  (code) => {
    process.exitCode = code;
  },
  (error: unknown) => {
    process.stderr.write(`${error instanceof Error ? error.stack : error}\n`);
    process.exitCode = 1;
  },
);
