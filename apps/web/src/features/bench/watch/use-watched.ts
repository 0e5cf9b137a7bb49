import type { CircuitView } from "@fox-lamp/core";
import type { Setup } from "@fox-lamp/language";
import { useEffect, useRef, useState } from "react";
import { reasonOf, useReadInstrumentsMutation } from "../../../app/api";
import { useWindows } from "../../../circuit/use-analysis";
import { messages } from "../../../messages";
import { sound } from "../../../ui/tone";
import type { Bench } from "../use-bench";
import { isOutside, linesOf, movedAt } from "./lines";
import type { Sample } from "./WatchChart";

/** How often all channels are read together, and how much is kept on the screen. */
const EVERY_MS = 400;
const KEPT = 240;
/** Lowest and highest of a channel. */
export function spanOf(samples: readonly Sample[], channel: number): { min: number; max: number } | null {
  const values = samples.flatMap(({ values: all }) => (all[channel] == null ? [] : [all[channel] as number]));
  return values.length === 0 ? null : { min: Math.min(...values), max: Math.max(...values) };
}

interface Watching {
  readonly bench: Bench;
  readonly circuit: CircuitView;
  readonly open: boolean;
  /** Whether a value outside its window is heard. */
  readonly toned: boolean;
  /** What was seen has become a reading. */
  readonly onEntered: () => void;
}

/** Feed, signal and ground read together again and again: what they showed, which of them left its window first, and what becomes a reading. */
export function useWatched({ bench, circuit, open, toned, onEntered }: Watching) {
  const [samples, setSamples] = useState<readonly Sample[]>([]);
  const [running, setRunning] = useState(false);
  const [place, setPlace] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [read] = useReadInstrumentsMutation();
  const base: Setup = bench.test?.setup.truth === undefined ? {} : { truth: bench.test.setup.truth };
  const channels = linesOf(circuit, base);
  const windows = useWindows(
    open ? bench.diagnosed : null,
    channels.map(({ measurement }) => measurement),
  );
  const moving = useRef({ place, toned, windows, channels, started: 0 });
  moving.current = { ...moving.current, place, toned, windows, channels };
  const jobId = bench.job?.id;

  useEffect(() => {
    if (!running || jobId === undefined) return;
    let current = true;
    const tick = async (): Promise<void> => {
      const now = moving.current;
      const at = now.place;
      const measurements = now.channels.map(({ measurement }) => movedAt(measurement, at));
      const answer = await read({ job: jobId, measurements });
      if (!current) return;
      if (!("data" in answer) || answer.data === undefined) {
        setProblem(reasonOf("error" in answer ? answer.error : null) ?? messages.bench.instrumentFailed);
        setRunning(false);
        return;
      }
      const values = answer.data.values.map((value) => (typeof value === "number" ? value : null));
      if (now.toned && values.some((value, index) => isOutside(value, now.windows?.[index]))) sound(false);
      setSamples((before) => [...before.slice(1 - KEPT), { seconds: (performance.now() - now.started) / 1000, values, place: at }]);
    };
    const timer = setInterval(() => void tick(), EVERY_MS);
    return () => {
      current = false;
      clearInterval(timer);
    };
  }, [running, jobId, read]);

  const firstOut = channels.map((_, index) => samples.find(({ values }) => isOutside(values[index], windows?.[index])));
  const earliest = firstOut.reduce(
    (best, sample, index) => (sample !== undefined && sample.seconds < (firstOut[best]?.seconds ?? Number.POSITIVE_INFINITY) ? index : best),
    -1,
  );
  const signal = Math.max(
    0,
    channels.findIndex(({ isSignal }) => isSignal),
  );

  const start = (): void => {
    moving.current.started = performance.now();
    setSamples([]);
    setProblem(null);
    setRunning(true);
  };
  const enter = (): void => {
    const span = spanOf(samples, signal);
    const channel = channels[signal];
    if (span === null || channel === undefined) return;
    const gone = firstOut[signal];
    const at = gone?.place ?? null;
    const round = (value: number): number => Number(value.toFixed(3));
    bench.enterReadings([
      {
        reading: { ...movedAt(channel.measurement, at), record: "min-max", value: { min: round(span.min), max: round(span.max) }, symptom: gone !== undefined },
        minutes: Math.max(0.5, (samples.at(-1)?.seconds ?? 0) / 60),
      },
    ]);
    setRunning(false);
    onEntered();
  };
  return {
    samples,
    channels,
    windows,
    /** The channel whose span is entered. */
    signal,
    /** The channel that left its window first, and where that was; -1 where none did. */
    earliest,
    gone: firstOut[earliest],
    running,
    problem,
    place,
    setPlace,
    start,
    stop: () => setRunning(false),
    enter,
  };
}
