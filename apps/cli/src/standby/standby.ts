// A process that stays for a few seconds after a command and answers the next ones: its code is warm by then.
import { availableParallelism } from "node:os";
import { dirname, join } from "node:path";
import { Piscina } from "piscina";
import { optimizeLess } from "../flags";
import { serve } from "./serve";

/** So long it waits for another command, milliseconds. */
const IDLE_MS = 20_000;
const MOST_THREADS = 4;

optimizeLess();
const [, self = "", place = ""] = process.argv;
const pool = new Piscina({
  filename: join(dirname(self), "thread.cjs"),
  minThreads: 0,
  maxThreads: Math.min(MOST_THREADS, availableParallelism()),
  idleTimeout: IDLE_MS,
});

process.stdout.on("error", () => {
  // Who started it has gone before it was ready.
});
serve(
  place,
  (request, signal) => pool.run(request, { signal }),
  IDLE_MS,
  () => process.stdout.write("ready\n"),
  () => process.exit(0),
);
