import { type CapturedReading, kindOfFile } from "@fox-lamp/core";
import type { CaptureFile, Circuit, Setup, StoredCapture, StoredChannel } from "@fox-lamp/language";
import { useCallback, useEffect, useRef, useState } from "react";
import { v7 as uuidv7 } from "uuid";
import type { ReadFile } from "../../../trace/capture.worker";
import { answered, captureService, NoAnswer, proxy } from "../../../trace/service";

/** A capture that was brought in and is not stored yet. */
export interface Fresh {
  readonly read: ReadFile;
  readonly title: string;
  readonly source: StoredCapture["source"];
  /** Where its channels were already said to be, as for a virtual scope. */
  readonly channels: readonly StoredChannel[] | null;
  readonly setup: Setup;
}

/** What a fresh capture says. */
export interface Judged {
  readonly file: CaptureFile;
  readonly readings: readonly CapturedReading[];
  readonly stored: StoredCapture;
}

/** Bringing a capture in: read in the worker, stopped on request, judged once its channels are placed. */
export function useFresh() {
  const [fresh, setFresh] = useState<Fresh | null>(null);
  const [judged, setJudged] = useState<Judged | null>(null);
  const [reading, setReading] = useState<{ name: string; share: number } | null>(null);
  const [judging, setJudging] = useState(false);
  /** A file that looks like a log of the module's data. */
  const [doubted, setDoubted] = useState<File | null>(null);
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
  /** Opens a scope's file; one that looks like a log is asked about first. @param sure somebody has said that it is a scope's */
  const open = useCallback(
    async (file: File, sure = false): Promise<void> => {
      const id = uuidv7();
      current.current = id;
      setProblem(null);
      setDoubted(null);
      setReading({ name: file.name, share: 0 });
      try {
        const layout = await answered(captureService().look(file));
        if (!sure && kindOfFile(layout) === "log") {
          setDoubted(file);
          return;
        }
        const read = await answered(
          captureService().read(
            id,
            file,
            null,
            proxy((share: number) => current.current === id && setReading({ name: file.name, share })),
          ),
        );
        put({ read, title: file.name.replace(/\.\w+$/u, ""), source: "file", channels: null, setup: {} });
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
        const names = channels.map(({ name }) => name);
        const read = await answered(captureService().take(uuidv7(), samples, rate, names));
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
  return { fresh, judged, reading, judging, doubted, problem, setProblem, open, stop, take, judge, putAway: () => put(null) };
}
