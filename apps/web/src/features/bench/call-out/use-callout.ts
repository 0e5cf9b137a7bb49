import { type CircuitView, type JobReading, measurementOf } from "@fox-lamp/core";
import { type Callout, type Expect, isWordMeter, type NextTest, parseShorthand, unitOfReading, type Value } from "@fox-lamp/language";
import { useEffect, useRef, useState } from "react";
import { reasonOf, statusOf, useEndCalloutMutation, useOpenCalloutMutation, usePutCalloutMutation, useReadInstrumentsMutation } from "../../../app/api";
import { readingTitle, setupText, testTitle, within } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { toast } from "../../../ui/toast";
import { vehicleName } from "../../../ui/vehicle";
import type { Bench } from "../use-bench";

/** How often a connected instrument is read for the call-out, how long a taken reading stays up once it is judged, and at most, milliseconds. */
const LIVE_MS = 1200;
const TAKEN_MS = 5000;
const UNJUDGED_MS = 60_000;

/** What stands on the call-out while a test is at hand. */
function forTest(job: NonNullable<Bench["job"]>, circuits: readonly CircuitView[], test: NextTest, value: Value | null): Callout {
  const { expect } = test;
  return {
    job: job.id,
    vehicle: vehicleName(job.vehicle),
    title: testTitle(test, circuits),
    how: `${messages.bench.meter[test.meter]}, ${setupText(test.setup)}`,
    low: expect.low,
    high: expect.high,
    unit: unitOfReading(test),
    word: expect.word ?? null,
    value,
    taken: false,
    fits: value === null ? null : within(value, expect),
  };
}

function forReading(job: NonNullable<Bench["job"]>, circuits: readonly CircuitView[], { reading }: JobReading, window: Expect | null): Callout {
  return {
    job: job.id,
    vehicle: vehicleName(job.vehicle),
    title: readingTitle(reading, circuits),
    how: setupText(reading.setup ?? {}),
    low: window?.low ?? null,
    high: window?.high ?? null,
    unit: unitOfReading(reading),
    word: window?.word ?? null,
    value: reading.value,
    taken: true,
    fits: within(reading.value, window),
  };
}

/**
 * Puts what the bench is about on other devices, from the moment it is switched on: the test at hand, what is typed, what a
 * connected instrument shows, and for a few seconds what was taken.
 */
export function useCallout(bench: Bench): { readonly code: string | null; readonly start: () => Promise<void>; readonly stop: () => void } {
  const [code, setCode] = useState<string | null>(null);
  const [live, setLive] = useState<{ test: string; value: Value } | null>(null);
  const [shown, setShown] = useState<string | null>(null);
  const [open] = useOpenCalloutMutation();
  const [put] = usePutCalloutMutation();
  const [end] = useEndCalloutMutation();
  const [read] = useReadInstrumentsMutation();
  const { job, test, text, state, analysis } = bench;
  const last = state.readings.at(-1);
  const simulated = job?.simulated === true;

  // The newest reading when the page came up is no news.
  const lastEntry = last?.entry ?? "";
  const seen = useRef<string | null>(null);
  useEffect(() => {
    const before = seen.current;
    seen.current = lastEntry;
    if (before !== null && before !== lastEntry && lastEntry !== "") setShown(lastEntry);
  }, [lastEntry]);
  useEffect(() => {
    if (code === null || !simulated || test === null || isWordMeter(test.meter)) return;
    const timer = setInterval(async () => {
      const answer = await read({ job: job.id, measurements: [measurementOf(test)] });
      const value = "data" in answer ? answer.data?.values[0] : undefined;
      if (value !== undefined) setLive({ test: test.test, value });
    }, LIVE_MS);
    return () => clearInterval(timer);
  }, [code, simulated, test, job, read]);

  const parsed = parseShorthand(text);
  const typed = parsed.ok ? parsed.value : null;
  const taken = shown !== null ? state.readings.find(({ entry }) => entry === shown) : undefined;
  const window = taken ? (analysis?.windows[taken.reading.id] ?? null) : null;
  // Its time runs from the moment it is known whether it fits: an analysis may take longer than a glance at the wall.
  const judged = window !== null;
  useEffect(() => {
    if (shown === null) return;
    const timer = setTimeout(() => setShown(null), judged ? TAKEN_MS : UNJUDGED_MS);
    return () => clearTimeout(timer);
  }, [shown, judged]);
  const circuits = analysis?.circuits ?? [];
  const content =
    code === null || !job
      ? null
      : taken && typed === null
        ? forReading(job, circuits, taken, window)
        : test
          ? forTest(job, circuits, test, typed ?? (live?.test === test.test ? live.value : null))
          : null;
  const key = JSON.stringify(content);
  useEffect(() => {
    const asked: Callout | null = JSON.parse(key);
    if (code === null || asked === null) return;
    const timer = setTimeout(async () => {
      // A call-out that ended meanwhile, or ran out, shows nothing: it is off here too.
      const answer = await put({ code, state: asked });
      if ("error" in answer && statusOf(answer.error) === 404) setCode(null);
    }, 120);
    return () => clearTimeout(timer);
  }, [code, key, put]);

  // The server makes the code: one that nobody guesses.
  const start = async (): Promise<void> => {
    if (code !== null || !job) return;
    const answer = await open(job.id);
    if ("error" in answer) toast.error(reasonOf(answer.error) ?? messages.states.failed);
    else setCode(answer.data.code);
  };
  const stop = (): void => {
    if (code !== null) void end(code);
    setCode(null);
  };
  return { code, start, stop };
}
