import { existsSync, mkdtempSync, rmSync, statSync } from "node:fs";
import { connect, type Socket } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type Answering, serve } from "./serve";
import { allFrom, answerIn, requestLine } from "./wire";

const folder = mkdtempSync(join(tmpdir(), "fox-lamp-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const place = (name: string): string => join(folder, name);
/** Answers with the words that were asked. */
const echo: Answering = ({ words }) => Promise.resolve({ code: 0, stdout: words.join(" "), stderr: "" });
/** Listens; resolved when it can be asked. */
function listening(at: string, answering: Answering, idle: number): Promise<{ readonly ended: Promise<void>; readonly close: () => void }> {
  return new Promise((ready) => {
    const ended = new Promise<void>((done) => {
      const server = serve(at, answering, idle, () => ready({ ended, close: () => server.close() }), done);
    });
  });
}
function asking(at: string, ...words: string[]): Socket {
  const socket = connect(at);
  socket.write(requestLine({ words, given: Uint8Array.of(1) }));
  return socket;
}
const said = async (socket: Socket): Promise<string | undefined> => answerIn(await allFrom(socket))?.stdout;

describe("the standby", () => {
  it("answers one after the other and several at once, then ends by itself and leaves nothing", async () => {
    const at = place("ends");
    const { ended } = await listening(at, echo, 200);
    expect(await said(asking(at, "measure", "a"))).toBe("measure a");
    expect(await Promise.all(["b", "c"].map((file) => said(asking(at, "measure", file))))).toEqual(["measure b", "measure c"]);
    expect(existsSync(at)).toBe(true);
    await ended;
    expect(existsSync(at)).toBe(false);
  });
  it("does not end while somebody waits", async () => {
    const at = place("waits");
    const slow: Answering = (request) => new Promise((done) => setTimeout(() => done(echo(request, new AbortController().signal)), 300));
    const { ended } = await listening(at, slow, 50);
    expect(await said(asking(at, "diagnose", "a"))).toBe("diagnose a");
    await ended;
  });
  it("stops what nobody waits for any more", async () => {
    const at = place("gone");
    let stopped = (): void => undefined;
    const stop = new Promise<void>((done) => {
      stopped = done;
    });
    let begun = (): void => undefined;
    const begin = new Promise<void>((done) => {
      begun = done;
    });
    const never: Answering = (_, signal) =>
      new Promise((_done, fail) => {
        begun();
        signal.addEventListener("abort", () => {
          stopped();
          fail(new Error("nobody waits"));
        });
      });
    const { ended } = await listening(at, never, 50);
    const socket = asking(at, "diagnose", "a");
    await begin;
    socket.destroy();
    await stop;
    await ended;
  });
  it("hangs up where it fails: the command answers by itself", async () => {
    const at = place("fails");
    const { close } = await listening(at, () => Promise.reject(new Error("out of memory")), 10_000);
    expect(await said(asking(at, "diagnose", "a"))).toBeUndefined();
    close();
  });
  it("gives its place to one that starts later, and leaves it to that one when it ends", async () => {
    const at = place("twice");
    const first = await listening(at, echo, 100);
    const later = await listening(at, ({ words }) => Promise.resolve({ code: 0, stdout: `later ${words[1]}`, stderr: "" }), 5_000);
    const { ino } = statSync(at);
    await first.ended;
    expect(statSync(at).ino).toBe(ino);
    expect(await said(asking(at, "measure", "a"))).toBe("later a");
    later.close();
  });
});
