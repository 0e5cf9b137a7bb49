import { type CircuitView, formatQuantity, formatWindow } from "@fox-lamp/core";
import { placeWord, type Setup } from "@fox-lamp/language";
import { Dialog } from "radix-ui";
import { lazy, Suspense, useEffect, useRef, useState } from "react";
import { reasonOf, useReadInstrumentsMutation } from "../../../app/api";
import { useWindows } from "../../../circuit/use-analysis";
import { messages } from "../../../messages";
import { sound } from "../../../ui/tone";
import type { Bench } from "../use-bench";
import { isOutside, linesOf, movedAt, movedPlaces, placeText } from "./lines";
import { PlaceChoice } from "./PlaceChoice";
import type { Sample } from "./WatchChart";

const t = messages.watch;
const WatchChart = lazy(() => import("./WatchChart"));

/** How often all channels are read together, and how much is kept on the screen. */
const EVERY_MS = 400;
const KEPT = 240;
/** Lowest and highest of a channel. */
function spanOf(samples: readonly Sample[], channel: number): { min: number; max: number } | null {
  const values = samples.flatMap(({ values: all }) => (all[channel] == null ? [] : [all[channel] as number]));
  return values.length === 0 ? null : { min: Math.min(...values), max: Math.max(...values) };
}

/** Watches feed, signal and ground together while places are moved: lowest and highest, a trace, a tone, and which went first. */
export function Watch({ bench, circuit, open, onOpen }: { bench: Bench; circuit: CircuitView; open: boolean; onOpen: (open: boolean) => void }) {
  const [samples, setSamples] = useState<readonly Sample[]>([]);
  const [running, setRunning] = useState(false);
  const [place, setPlace] = useState<string | null>(null);
  const [toned, setToned] = useState(true);
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

  const places = movedPlaces(circuit);
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
    onOpen(false);
  };
  return (
    <Dialog.Root
      open={open}
      onOpenChange={(next) => {
        if (!next) setRunning(false);
        onOpen(next);
      }}
    >
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-black/60" />
        <Dialog.Content className="fixed left-1/2 top-1/2 z-40 max-h-[calc(100dvh-1.5rem)] w-[min(56rem,calc(100vw-1.5rem))] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-2xl border border-line bg-panel p-5 shadow-2xl">
          <Dialog.Title className="text-xl font-bold">{t.title(circuit.title)}</Dialog.Title>
          <Dialog.Description className="mb-3 mt-1 text-sm text-soft">{t.hint}</Dialog.Description>
          <ul className="m-0 grid list-none gap-2 p-0 sm:grid-cols-3">
            {channels.map(({ name, measurement }, index) => {
              const span = spanOf(samples, index);
              const value = samples.at(-1)?.values[index];
              const window = windows?.[index];
              const out = isOutside(value, window);
              return (
                <li key={name} className={`rounded-xl border p-3 ${earliest === index ? "border-ember" : "border-line"}`}>
                  <p className="m-0 text-sm text-soft">
                    {name} {placeWord(measurement.red.split("@")[1] ?? "")}
                  </p>
                  <p className={`readout m-0 text-3xl font-bold ${out ? "text-ember" : ""}`}>{value == null ? "–" : formatQuantity(value, "V")}</p>
                  <p className="readout m-0 text-sm text-lamp">{window ? formatWindow(window.low, window.high, "V") : " "}</p>
                  <p className="readout m-0 text-sm text-soft">{span ? t.span(formatQuantity(span.min, "V"), formatQuantity(span.max, "V")) : " "}</p>
                </li>
              );
            })}
          </ul>
          <div className="my-3 h-56">
            <Suspense fallback={<p className="grid h-full place-items-center text-soft">{messages.states.loading}</p>}>
              <WatchChart samples={samples} names={channels.map(({ name }) => name)} windows={windows ?? []} />
            </Suspense>
          </div>
          {earliest >= 0 && (
            <p role="status" className="mb-3 rounded-xl bg-caution px-4 py-2.5 font-bold">
              {t.first(channels[earliest]?.name ?? "", (firstOut[earliest]?.seconds ?? 0).toFixed(1), placeText(firstOut[earliest]?.place ?? null))}
            </p>
          )}
          {problem !== null && (
            <p role="alert" className="mb-3 text-ember">
              {problem}
            </p>
          )}
          <PlaceChoice places={places} place={place} onPlace={setPlace} />
          <div className="mt-4 flex flex-wrap gap-2">
            <button type="button" onClick={running ? () => setRunning(false) : start} className="h-12 flex-1 rounded-xl bg-lamp px-5 font-bold text-on-lamp">
              {running ? t.stop : t.start}
            </button>
            <button type="button" aria-pressed={toned} onClick={() => setToned(!toned)} className="h-12 rounded-xl border border-line px-4 text-ink">
              {toned ? t.toneOn : t.toneOff}
            </button>
            <button
              type="button"
              disabled={samples.length === 0}
              onClick={enter}
              className="h-12 rounded-xl border border-lamp px-4 font-bold text-ink disabled:opacity-50"
            >
              {t.enter(channels[signal]?.name ?? "")}
            </button>
            <Dialog.Close className="h-12 rounded-xl px-4 text-soft">{messages.bench.close}</Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
