import type { Socket } from "node:net";
import type { Answer } from "../answer";

/*
 * Between a command and the standby, so plain that a few lines of Perl speak it (`apps/cli/ask.pl`): the request is one line, every word and what was
 * read in hexadecimal digits with a space between; the answer is a line "code bytes-of-stdout bytes-of-stderr", then these bytes. Who asks stays
 * connected until the answer is there.
 */

/** What a command asks: its words, and what it read. */
export interface Request {
  readonly words: readonly string[];
  readonly given: Uint8Array;
}

const NEWLINE = 0x0a;

/** A request as its line. */
export function requestLine({ words, given }: Request): string {
  return `${[...words, given].map((part) => Buffer.from(part as string).toString("hex")).join(" ")}\n`;
}

/** The request on a line. */
export function requestOn(line: string): Request {
  const parts = line.replace(/\n$/u, "").split(" ");
  const bytes = parts.map((part) => Buffer.from(part, "hex"));
  return { words: bytes.slice(0, -1).map((word) => word.toString("utf8")), given: bytes.at(-1) ?? Buffer.alloc(0) };
}

/** An answer as it is sent. */
export function answerBytes({ code, stdout, stderr }: Answer): Buffer {
  const [out, err] = [Buffer.from(stdout), Buffer.from(stderr)];
  return Buffer.concat([Buffer.from(`${code} ${out.length} ${err.length}\n`), out, err]);
}

/** The answer that was sent. @returns null where it is not whole */
export function answerIn(bytes: Buffer): Answer | null {
  const start = bytes.indexOf(NEWLINE) + 1;
  const [code = Number.NaN, out = 0, err = 0] = bytes.toString("utf8", 0, start).split(" ").map(Number);
  if (start === 0 || bytes.length !== start + out + err) return null;
  return { code: code as Answer["code"], stdout: bytes.toString("utf8", start, start + out), stderr: bytes.toString("utf8", start + out) };
}

/** The first line that comes. @returns null where the other side ends before it is whole */
export function lineFrom(socket: Socket): Promise<string | null> {
  return new Promise((done) => {
    const chunks: Buffer[] = [];
    socket.on("data", (chunk: Buffer) => {
      chunks.push(chunk);
      if (chunk.at(-1) === NEWLINE) done(Buffer.concat(chunks).toString("utf8"));
    });
    socket.on("error", () => done(null));
    socket.on("close", () => done(null));
  });
}

/** All that comes until the other side ends. */
export function allFrom(socket: Socket): Promise<Buffer> {
  return new Promise((done) => {
    const chunks: Buffer[] = [];
    socket.on("data", (chunk: Buffer) => chunks.push(chunk));
    socket.on("error", () => done(Buffer.alloc(0)));
    socket.on("close", () => done(Buffer.concat(chunks)));
  });
}
