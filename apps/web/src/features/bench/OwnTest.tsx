import { type CircuitView, formatPercent } from "@fox-lamp/core";
import { KEY_STATES, type KeyState, METERS, type Measurement, type Meter, meterWords, pinWord, placeWord, type Setup } from "@fox-lamp/language";
import { TriangleAlert } from "lucide-react";
import { Dialog } from "radix-ui";
import { type ReactNode, useState } from "react";
import { useOwnTest } from "../../circuit/use-analysis";
import { titleOf, windowText } from "../../circuit/wording";
import { messages } from "../../messages";
import type { Bench, OwnScene } from "./use-bench";

const t = messages.bench;
const own = messages.ownTest;

/** Instruments that can be chosen: all that say something of voltages, but the scope, which has its own page of a test. */
const CHOSEN_METERS: readonly Meter[] = METERS.filter((meter) => meterWords(meter).electrical && meter !== "capture");
const POSTS = ["bat-", "bat+", "chassis", "engine"] as const;
const STIMULI = ["none", "sweep", "wiggle", "tap", "steel", "hand-turn", "heat", "cool", "vacuum", "snap", "command"] as const;
/** A second lead belongs to these. */
const TWO_LEADS: readonly Meter[] = CHOSEN_METERS.filter((meter) => meterWords(meter).leads && meter !== "amps-dc");

/** Points of a circuit a lead can be put on, in words. */
function pointsOf(circuit: CircuitView): { value: string; label: string }[] {
  const pins = circuit.pins.flatMap(({ pin, places, reachesPart }) => [
    ...places.map((place) => ({ value: `${pin}@${place}`, label: `${pinWord(pin)} ${placeWord(place)}` })),
    ...(reachesPart ? [{ value: `${pin}@part`, label: `${pinWord(pin)} ${own.onPart}` }] : []),
  ]);
  return [...POSTS.map((post) => ({ value: post, label: own.posts[post] })), ...pins];
}

function Choice({ label, value, onChange, children }: { label: string; value: string; onChange: (value: string) => void; children: ReactNode }) {
  return (
    <label className="grid gap-1 text-sm text-soft">
      {label}
      <select
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className="h-11 w-full rounded-lg border border-line bg-well px-2 text-base text-ink"
      >
        {children}
      </select>
    </label>
  );
}

interface Draft {
  readonly circuit: string;
  readonly meter: Meter;
  readonly red: string;
  readonly black: string;
  readonly key: KeyState;
  readonly open: readonly string[];
  readonly stimulus: (typeof STIMULI)[number];
  readonly at: string;
  readonly record: boolean;
}

/** The measurement a draft describes; the whole job's known values are put in by the core. */
function measurementOf({ circuit, meter, red, black, key, open, stimulus, at, record }: Draft): Measurement {
  const setup: Setup = {
    key,
    ...(open.length === 0 ? {} : { open: [...open] }),
    ...(stimulus === "none" ? {} : { stimulus: { kind: stimulus, ...(stimulus === "wiggle" && at !== "" ? { at } : {}) } }),
  };
  return {
    circuit,
    meter,
    red: meter === "scan" ? `${red.split("@")[0]}@module` : red,
    ...(TWO_LEADS.includes(meter) ? { black } : {}),
    setup,
    ...(record && (meter === "volts-dc" || meter === "ohms" || meter === "scan") ? { record: "min-max" as const } : {}),
  };
}

function draftFor(circuit: CircuitView): Draft {
  const pin = circuit.pins.find(({ role }) => role === "signal")?.pin ?? circuit.pins[0]?.pin ?? "sig";
  const place = circuit.pins.find((candidate) => candidate.pin === pin)?.places.includes("sensor") ? "sensor" : "module";
  return { circuit: circuit.id, meter: "volts-dc", red: `${pin}@${place}`, black: "bat-", key: "on", open: [], stimulus: "none", at: "sensor", record: false };
}

interface Props {
  readonly bench: Bench;
  readonly circuits: readonly CircuitView[];
  readonly open: boolean;
  readonly onOpen: (open: boolean) => void;
  readonly onMeasure: (scene: OwnScene) => void;
}

/** Puts a test together freely and shows what it would read, and what that would tell, before anybody measures. */
export function OwnTest({ bench, circuits, open, onOpen, onMeasure }: Props) {
  const first = bench.circuit ?? circuits[0];
  const [draft, setDraft] = useState<Draft | null>(null);
  const now = draft ?? (first ? draftFor(first) : null);
  const circuit = circuits.find(({ id }) => id === now?.circuit) ?? first;
  const answer = useOwnTest(open ? bench.diagnosed : null, now === null ? null : measurementOf(now));
  if (!circuit || !now) return null;
  const set = (part: Partial<Draft>): void => setDraft({ ...now, ...part });
  const connectors = [...new Set(circuit.pins.flatMap(({ contacts }) => contacts))];
  const points = pointsOf(circuit);
  return (
    <Dialog.Root open={open} onOpenChange={onOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-black/60" />
        <Dialog.Content className="fixed left-1/2 top-1/2 z-40 max-h-[calc(100dvh-2rem)] w-[min(36rem,calc(100vw-2rem))] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-2xl border border-line bg-panel p-6 shadow-2xl">
          <Dialog.Title className="text-xl font-bold">{own.title}</Dialog.Title>
          <Dialog.Description className="mb-4 mt-1 text-sm text-soft">{own.hint}</Dialog.Description>
          <div className="grid gap-3 sm:grid-cols-2">
            {circuits.length > 1 && (
              <Choice
                label={own.circuit}
                value={circuit.id}
                onChange={(id) => {
                  const next = circuits.find((candidate) => candidate.id === id);
                  if (next) setDraft(draftFor(next));
                }}
              >
                {circuits.map(({ id, title }) => (
                  <option key={id} value={id}>
                    {title}
                  </option>
                ))}
              </Choice>
            )}
            <Choice label={own.instrument} value={now.meter} onChange={(meter) => set({ meter: meter as Meter })}>
              {CHOSEN_METERS.map((meter) => (
                <option key={meter} value={meter}>
                  {t.meter[meter]}
                </option>
              ))}
            </Choice>
            <Choice label={now.meter === "scan" ? own.value : own.red} value={now.red} onChange={(red) => set({ red })}>
              {points.map(({ value, label }) => (
                <option key={value} value={value}>
                  {label}
                </option>
              ))}
            </Choice>
            {TWO_LEADS.includes(now.meter) && (
              <Choice label={own.black} value={now.black} onChange={(black) => set({ black })}>
                {points.map(({ value, label }) => (
                  <option key={value} value={value}>
                    {label}
                  </option>
                ))}
              </Choice>
            )}
            <Choice label={own.key} value={now.key} onChange={(key) => set({ key: key as KeyState })}>
              {KEY_STATES.map((key) => (
                <option key={key} value={key}>
                  {t.key[key]}
                </option>
              ))}
            </Choice>
            <Choice label={own.stimulus} value={now.stimulus} onChange={(stimulus) => set({ stimulus: stimulus as Draft["stimulus"] })}>
              {STIMULI.map((kind) => (
                <option key={kind} value={kind}>
                  {kind === "none" ? own.nothing : t.stimulus[kind]}
                </option>
              ))}
            </Choice>
          </div>
          <fieldset className="mt-3 flex flex-wrap gap-x-4 gap-y-1 border-0 p-0 text-sm">
            <legend className="mb-1 text-soft">{own.unplugged}</legend>
            {connectors.map((place) => (
              <label key={place} className="flex h-9 items-center gap-2">
                <input
                  type="checkbox"
                  className="size-5 accent-[var(--lamp)]"
                  checked={now.open.includes(place)}
                  onChange={(event) => set({ open: event.target.checked ? [...now.open, place] : now.open.filter((other) => other !== place) })}
                />
                {placeWord(place).replace(/^at /u, "")}
              </label>
            ))}
          </fieldset>
          <div className="mt-4 min-h-28 rounded-xl border border-line p-4" aria-live="polite">
            {answer === null && <p className="text-soft">{t.computing}</p>}
            {answer !== null && !answer.ok && <p className="text-ember">{answer.problem.message}</p>}
            {answer?.ok && (
              <>
                <p className="font-bold">{answer.test.title}</p>
                <p className="readout mt-1 text-lg text-lamp">{windowText(answer.test.expect, answer.test.record !== undefined)}</p>
                <dl className="mt-2 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 text-sm">
                  {answer.test.outcomes.map((outcome) => (
                    <div key={outcome.label} className="contents">
                      <dt className="readout">
                        {t.findings[outcome.label] ?? outcome.label} <span className="text-soft">{formatPercent(outcome.probability)}</span>
                      </dt>
                      <dd className="text-soft">
                        {outcome.units
                          .slice(0, 2)
                          .map(({ unit, probability }) => `${unit === "" ? t.nothingWrong : titleOf(unit, circuits)} ${formatPercent(probability)}`)
                          .join(", ") || t.nothingWrong}
                      </dd>
                    </div>
                  ))}
                </dl>
                <p className="mt-2 text-sm text-soft">{own.price(Number(answer.test.minutes.toFixed(1)), answer.test.gainBits.toFixed(2))}</p>
                {answer.test.cautions.map((caution) => (
                  <p key={caution} className="mt-2 flex gap-2 text-sm">
                    <TriangleAlert size={16} className="mt-0.5 shrink-0 text-lamp" aria-hidden="true" />
                    {caution}
                  </p>
                ))}
              </>
            )}
          </div>
          <div className="mt-4 flex gap-2">
            <button
              type="button"
              disabled={!answer?.ok}
              onClick={() => {
                if (answer?.ok) onMeasure({ test: answer.test, engineering: answer.engineering, volts: answer.volts });
                onOpen(false);
              }}
              className="h-12 flex-1 rounded-xl bg-lamp font-bold text-on-lamp disabled:opacity-60"
            >
              {own.measure}
            </button>
            <Dialog.Close className="h-12 rounded-xl border border-line px-5 text-ink">{t.close}</Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
