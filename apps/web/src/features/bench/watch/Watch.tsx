import { type CircuitView, formatQuantity, formatWindow } from "@fox-lamp/core";
import { placeWord } from "@fox-lamp/language";
import { Dialog } from "radix-ui";
import { lazy, Suspense, useState } from "react";
import { messages } from "../../../messages";
import type { Bench } from "../use-bench";
import { isOutside, movedPlaces, placeText } from "./lines";
import { PlaceChoice } from "./PlaceChoice";
import { spanOf, useWatched } from "./use-watched";

const t = messages.watch;
const WatchChart = lazy(() => import("./WatchChart"));

/** The channels with what they show now, their windows, and their lowest and highest. */
function Channels({ watched: { samples, channels, windows, earliest } }: { watched: ReturnType<typeof useWatched> }) {
  return (
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
  );
}

/** Watches feed, signal and ground together while places are moved: lowest and highest, a trace, a tone, and which went first. */
export function Watch({ bench, circuit, open, onOpen }: { bench: Bench; circuit: CircuitView; open: boolean; onOpen: (open: boolean) => void }) {
  const [toned, setToned] = useState(true);
  const watched = useWatched({ bench, circuit, open, toned, onEntered: () => onOpen(false) });
  const { samples, channels, windows, signal, earliest, gone, running, problem } = watched;
  return (
    <Dialog.Root
      open={open}
      onOpenChange={(next) => {
        if (!next) watched.stop();
        onOpen(next);
      }}
    >
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-black/60" />
        <Dialog.Content className="fixed left-1/2 top-1/2 z-40 max-h-[calc(100dvh-1.5rem)] w-[min(56rem,calc(100vw-1.5rem))] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-2xl border border-line bg-panel p-5 shadow-2xl">
          <Dialog.Title className="text-xl font-bold">{t.title(circuit.title)}</Dialog.Title>
          <Dialog.Description className="mb-3 mt-1 text-sm text-soft">{t.hint}</Dialog.Description>
          <Channels watched={watched} />
          <div className="my-3 h-56">
            <Suspense fallback={<p className="grid h-full place-items-center text-soft">{messages.states.loading}</p>}>
              <WatchChart samples={samples} names={channels.map(({ name }) => name)} windows={windows ?? []} />
            </Suspense>
          </div>
          {earliest >= 0 && (
            <p role="status" className="mb-3 rounded-xl bg-caution px-4 py-2.5 font-bold">
              {t.first(channels[earliest]?.name ?? "", (gone?.seconds ?? 0).toFixed(1), placeText(gone?.place ?? null))}
            </p>
          )}
          {problem !== null && (
            <p role="alert" className="mb-3 text-ember">
              {problem}
            </p>
          )}
          <PlaceChoice places={movedPlaces(circuit)} place={watched.place} onPlace={watched.setPlace} />
          <div className="mt-4 flex flex-wrap gap-2">
            <button type="button" onClick={running ? watched.stop : watched.start} className="h-12 flex-1 rounded-xl bg-lamp px-5 font-bold text-on-lamp">
              {running ? t.stop : t.start}
            </button>
            <button type="button" aria-pressed={toned} onClick={() => setToned(!toned)} className="h-12 rounded-xl border border-edge px-4 text-ink">
              {toned ? t.toneOn : t.toneOff}
            </button>
            <button
              type="button"
              disabled={samples.length === 0}
              onClick={watched.enter}
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
