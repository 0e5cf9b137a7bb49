import { BadInput } from "@fox-lamp/language";
import { Piscina } from "piscina";
import type { Job, JobName } from "./jobs";

/** A computation may take so long: what takes longer is ended, with the thread it runs on. */
const MOST_MS = 5000;
const MOST_THREADS = 2;
const MOST_WAITING = 64;

/** Runs computations on threads beside the one that answers: nothing anybody asks for stops the others. */
export interface Work {
  run<N extends JobName>(name: N, input: Parameters<Job[N]>[0]): Promise<ReturnType<Job[N]>>;
  close(): Promise<void>;
}

interface Told {
  readonly ok: boolean;
  readonly value?: unknown;
  readonly problem?: BadInput["problem"];
}

/** Opens the threads. @param file the built script they run */
export function openWork(file: URL): Work {
  const pool = new Piscina({ filename: file.href, minThreads: 0, maxThreads: MOST_THREADS, maxQueue: MOST_WAITING, idleTimeout: 30_000 });
  return {
    run: async (name, input) => {
      let told: Told;
      try {
        told = (await pool.run({ name, input }, { signal: AbortSignal.timeout(MOST_MS) })) as Told;
      } catch (error) {
        if (error instanceof Error && (error.name === "AbortError" || error.name === "TimeoutError"))
          throw new BadInput({
            code: "work:too-long",
            where: "",
            message: `takes longer than ${MOST_MS / 1000} s to compute; expected fewer circuits or a shorter recording`,
          });
        if (error instanceof Error && error.message.includes("Task queue is at limit"))
          throw new BadInput({ code: "work:busy", where: "", message: "the server computes as much as it can just now; try again in a moment" });
        throw error;
      }
      if (told.problem !== undefined) throw new BadInput(told.problem);
      return told.value as never;
    },
    close: () => pool.destroy(),
  };
}
