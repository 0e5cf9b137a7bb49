import { renameSync, rmSync, statSync } from "node:fs";
import { createServer, type Server, type Socket } from "node:net";
import type { Answer } from "../answer";
import { answerBytes, lineFrom, type Request, requestOn } from "./wire";

/** Answers a request; told by `signal` that nobody waits for it any more. */
export type Answering = (request: Request, signal: AbortSignal) => Promise<Answer>;

/** The file behind a name, or nothing. */
function fileAt(path: string): number | undefined {
  return statSync(path, { throwIfNoEntry: false })?.ino;
}

/**
 * Listens at a place and answers what is asked there, as long as somebody asks.
 *
 * It begins under a name of its own and takes the place when it is ready: of two that start at once the later one has it, and the other ends when it has
 * answered what came to it.
 *
 * @param idle milliseconds without a request after which it ends
 * @param ready called when it can be asked; `ended` when it listens no more
 */
export function serve(place: string, answering: Answering, idle: number, ready: () => void, ended: () => void): Server {
  const own = `${place}.${process.pid}`;
  let file: number | undefined;
  let open = 0;
  const end = (): void => {
    if (file !== undefined && fileAt(place) === file) rmSync(place, { force: true });
    server.close(ended);
  };
  let timer = setTimeout(end, idle);
  const answerOne = async (socket: Socket): Promise<void> => {
    const gone = new AbortController();
    socket.once("close", () => gone.abort());
    const line = await lineFrom(socket);
    if (line === null) return;
    const answer = await answering(requestOn(line), gone.signal);
    socket.end(answerBytes(answer));
  };
  const server = createServer((socket) => {
    open += 1;
    clearTimeout(timer);
    socket.once("close", () => {
      open -= 1;
      if (open === 0 && server.listening) timer = setTimeout(end, idle);
    });
    // Who asked answers by itself where this does not.
    answerOne(socket).catch(() => socket.destroy());
  });
  server.once("close", () => clearTimeout(timer));
  rmSync(own, { force: true });
  server.listen(own, () => {
    renameSync(own, place);
    file = fileAt(place);
    ready();
  });
  return server;
}
