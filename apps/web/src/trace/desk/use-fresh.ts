import { type CapturedReading, type CaptureLayout, kindOfFile } from "@fox-lamp/core";
import type { CaptureFile, Circuit, Setup, StoredCapture, StoredChannel } from "@fox-lamp/language";
import { useCallback, useEffect, useRef, useState } from "react";
import { v7 as uuidv7 } from "uuid";
import type { ReadFile } from "../capture.worker";
import { answered, captureService, NoAnswer, proxy } from "../service";

/** A capture that was brought in and is not stored yet. */
export interface Fresh {
  readonly read: ReadFile;
  readonly title: string;
  readonly source: StoredCapture["source"];
  /** Where its channels were already said to be, as for a virtual scope. */
  readonly channels: readonly StoredChannel[] | null;
  readonly setup: Setup;
}

/** A file that does not say when its samples were taken, with what its head says. */
export interface Timeless {
  readonly file: File;
  readonly layout: CaptureLayout;
}

/** What somebody says of it: samples a second, or which column is time. */
export type TimeAnswer = { readonly rate: number } | { readonly time: number };

/** What a fresh capture says. */
export interface Judged {
  readonly file: CaptureFile;
  readonly readings: readonly CapturedReading[];
  readonly stored: StoredCapture;
}

function titleOf(file: File): string {
  return file.name.replace(/\.\w+$/u, "");
}

/** Bringing a capture in: read in the worker, stopped on request, judged once its channels are placed. */
export function useFresh() {
  const [fresh, setFresh] = useState<Fresh | null>(null);
  const [judged, setJudged] = useState<Judged | null>(null);
  const [reading, setReading] = useState<{ name: string; share: number } | null>(null);
  const [judging, setJudging] = useState(false);
  /** A file that looks like a log of the module's data. */
  const [doubted, setDoubted] = useState<File | null>(null);
  /** A file without time. */
  const [timeless, setTimeless] = useState<Timeless | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const current = useRef("");
  const fail = useCallback((error: unknown): void => {
    if (!(error instanceof NoAnswer)) throw error;
    setProblem(error.message);
  }, []);
  const put = useCallback((next: Fresh | null): void => {
    setFresh(next);
    setJudged(null);
  }, []);
  /**
   * Opens a scope's file; one that looks like a log is asked about first, and one that does not say when its samples were taken.
   * @param sure somebody has said that it is a scope's
   */
  const open = useCallback(
    async (file: File, sure = false, said?: TimeAnswer): Promise<void> => {
      const id = uuidv7();
      current.current = id;
      setProblem(null);
      setDoubted(null);
      setTimeless(null);
      setReading({ name: file.name, share: 0 });
      try {
        if (/\.wav$/iu.test(file.name)) {
          put({ read: await answered(captureService().readWav(id, file)), title: titleOf(file), source: "file", channels: null, setup: {} });
          return;
        }
        const layout = await answered(captureService().look(file));
        if (layout.time === null && layout.rate === null && said === undefined) {
          setTimeless({ file, layout });
          return;
        }
        if (!sure && kindOfFile(layout) === "log") {
          setDoubted(file);
          return;
        }
        const read = await answered(
          captureService().read(
            id,
            file,
            said ?? {},
            proxy((share: number) => current.current === id && setReading({ name: file.name, share })),
          ),
        );
        put({ read, title: titleOf(file), source: "file", channels: null, setup: {} });
      } catch (error) {
        fail(error);
      } finally {
        setReading(null);
      }
    },
    [fail, put],
  );
  const stop = useCallback(() => void captureService().stop(current.current), []);
  /** Takes what a scope stored. */
  const take = useCallback(
    async (samples: readonly Float32Array[], rate: number, channels: readonly StoredChannel[], title: string, setup: Setup): Promise<void> => {
      setProblem(null);
      try {
        const read = await answered(captureService().take(uuidv7(), samples, rate, channels));
        put({ read, title, source: "simulated", channels, setup });
      } catch (error) {
        fail(error);
      }
    },
    [fail, put],
  );
  const judge = useCallback(
    async (circuits: readonly Circuit[], channels: readonly StoredChannel[], setup: Setup, title: string, known?: CaptureFile): Promise<void> => {
      if (fresh === null) return;
      setJudging(true);
      setProblem(null);
      try {
        const { start, rate, length } = fresh.read;
        const placed = { circuits, channels, setup, ...(known === undefined ? {} : { known }) };
        const { file, readings } = await answered(captureService().analyse(fresh.read.id, placed));
        setJudged({ file, readings, stored: { title, source: fresh.source, start, rate, length, channels: [...channels], setup, analysis: file } });
      } catch (error) {
        fail(error);
      } finally {
        setJudging(false);
      }
    },
    [fresh, fail],
  );
  useEffect(() => () => void captureService().stop(current.current), []);
  return { fresh, judged, reading, judging, doubted, timeless, problem, setProblem, open, stop, take, judge, putAway: () => put(null) };
}
