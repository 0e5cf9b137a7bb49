import { connect, type Socket } from "node:net";
import { join } from "node:path";
import type { Answer } from "../answer";
import { placeOf } from "./place";
import { allFrom, answerIn, requestLine } from "./wire";

/** Connects to who listens there. @returns null where nobody does */
function connected(place: string): Promise<Socket | null> {
  return new Promise((done) => {
    const socket = connect(place);
    socket.once("connect", () => done(socket));
    socket.once("error", () => done(null));
  });
}

/** Starts a standby that outlives this process, and waits until it listens. @returns whether it does */
async function start(folder: string, place: string): Promise<boolean> {
  const { spawn } = await import("node:child_process");
  const child = spawn(process.execPath, [join(folder, "standby.cjs"), place], { detached: true, cwd: "/", stdio: ["ignore", "pipe", "ignore"] });
  child.unref();
  const { stdout } = child;
  return new Promise((done) => {
    const settle = (listens: boolean): void => {
      stdout.destroy();
      done(listens);
    };
    stdout.once("data", () => settle(true));
    stdout.once("close", () => settle(false));
    child.once("error", () => settle(false));
  });
}

/**
 * Has a command answered by the standby, a process whose code is warm; starts it where there is none.
 *
 * @param folder of the bundle
 * @returns null where that is not possible: the command answers by itself
 */
export async function askStandby(folder: string, words: readonly string[], given: Uint8Array): Promise<Answer | null> {
  try {
    const place = placeOf(join(folder, "fox-lamp.cjs"));
    if (place === null) return null;
    const socket = (await connected(place)) ?? ((await start(folder, place)) ? await connected(place) : null);
    if (socket === null) return null;
    socket.write(requestLine({ words, given }));
    return answerIn(await allFrom(socket));
  } catch {
    return null;
  }
}
