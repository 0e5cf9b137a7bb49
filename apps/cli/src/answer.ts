import { BadInput } from "@fox-lamp/language";
import { COMMANDS } from "./commands";
import { type Input, readBytes } from "./input";

/** What a command says, and how its process ends: 0 done, 2 bad input, 1 a mistake of ours. */
export interface Answer {
  readonly code: 0 | 1 | 2;
  readonly stdout: string;
  readonly stderr: string;
}

const STANDBY =
  "measure, diagnose, triage and explain leave a process that answers the next ones sooner and ends after 20 s; FOX_LAMP_STANDBY=off does without.";

/**
 * Runs one command: JSON out, or one clear line for bad input.
 *
 * @param words the command and what follows it
 * @param given content of the file that `words` name, where it was read already
 */
export async function answerTo(words: readonly string[], given: Uint8Array | null = null): Promise<Answer> {
  const [name, ...rest] = words;
  if (name === undefined || name === "help" || name === "--help") {
    const lines = COMMANDS.map((command) => `  fox-lamp ${command.usage}`);
    return { code: name === undefined ? 2 : 0, stdout: "", stderr: `Usage:\n${lines.join("\n")}\n${STANDBY}\n` };
  }
  const command = COMMANDS.find((candidate) => candidate.name === name);
  if (!command) {
    return { code: 2, stdout: "", stderr: `"${name}" is not a command; expected one of ${COMMANDS.map((candidate) => candidate.name).join(", ")}\n` };
  }
  const notes: string[] = [];
  const input: Input = { bytes: (file) => given ?? readBytes(file), note: (line) => notes.push(`${line}\n`) };
  try {
    const stdout = await command.run(rest, input);
    return { code: 0, stdout, stderr: notes.join("") };
  } catch (error) {
    if (!(error instanceof BadInput)) return { code: 1, stdout: "", stderr: `${error instanceof Error ? error.stack : error}\n` };
    // One line, whatever a file's own words hold.
    return { code: 2, stdout: "", stderr: `${error.message.replaceAll(/\s*[\r\n]+\s*/gu, " ")}\n` };
  }
}
