import { useEffect, useRef, useState } from "react";
import { useParams } from "react-router";
import { DeadEnd } from "../../../app/DeadEnd";
import { KeepReading } from "../../../app/KeepReading";
import { messages } from "../../../messages";
import type { TraceAt } from "../../../trace/desk/traced-job";
import { PlainPage } from "../../../ui/states";
import { useCallout } from "../call-out/use-callout";
import { Log } from "../log/Log";
import type { Start } from "../own-test/draft";
import { useBench } from "../use-bench";
import { BenchBody } from "./BenchBody";
import { BenchHeader } from "./BenchHeader";
import { Notices } from "./Notices";
import { OpeningBench } from "./OpeningBench";
import { OverBench } from "./OverBench";
import type { Opened } from "./opened";
import { useAskedTest } from "./use-asked-test";
import { useDigits } from "./use-digits";
import { useSentNumbers } from "./use-sent-numbers";
import { useVerbs } from "./use-verbs";

/** Stages at which a car is known to be sound again: what it reads then is something to compare with. */
const HEALED: ReadonlySet<string> = new Set(["check", "closed"]);

/** The bench: circuit, next test, suspects and readings of a job. */
export function BenchPage() {
  const { id = "" } = useParams();
  const bench = useBench(id);
  useAskedTest(bench);
  useSentNumbers(bench);
  const callout = useCallout(bench);
  const [opened, setOpened] = useState<Opened>(null);
  const [start, setStart] = useState<Start | null>(null);
  const [traceAt, setTraceAt] = useState<TraceAt>({});
  const input = useRef<HTMLInputElement>(null);
  const { job, state, analysis, circuit, text, setText } = bench;
  useDigits(input, (key) => setText(text + key));
  const taken = state.readings.length;
  // After a reading is taken the letters are verbs again.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the count says when
  useEffect(() => input.current?.blur(), [taken]);
  const read = async (): Promise<void> => {
    // A number waits in the field for its key; a word is taken already, and the letters stay verbs.
    if ((await bench.readInstrument?.()) === "typed") input.current?.focus();
  };
  const begin = (from: Start): void => {
    setStart(from);
    setOpened("own");
  };
  const showTrace = (at: TraceAt): void => {
    setTraceAt(at);
    setOpened("traces");
  };
  const openCallout = (): void => {
    void callout.start();
    setOpened("callout");
  };
  const verbs = useVerbs(bench, { id, opened, open: setOpened, onCallout: openCallout, onRead: () => void read() });

  if (bench.missing) return <DeadEnd>{messages.states.noJob}</DeadEnd>;
  if (bench.failed && !job) return <DeadEnd retry={bench.retry}>{messages.states.failed}</DeadEnd>;
  if (!job) return <PlainPage>{messages.states.loading}</PlainPage>;
  const minutes = state.readings.reduce((sum, reading) => sum + reading.minutes, 0);
  // The record of what was read is there whatever becomes of its analysis: what broke it can be taken back.
  const log = (
    <Log
      job={job.id}
      readings={state.readings}
      windows={analysis?.windows ?? bench.opening?.windows ?? {}}
      calculators={analysis?.calculators ?? {}}
      split={bench.shelfSplit}
      keep={(reading) => (HEALED.has(state.stage) ? <KeepReading job={job} reading={reading} /> : null)}
      limitNotes={analysis?.limitNotes ?? {}}
      doubtful={analysis?.diagnosis.doubtful ?? []}
      circuits={analysis?.circuits ?? bench.opening?.circuits ?? []}
      onUndo={bench.undo}
      onTrace={({ id: capture, from, to }) => showTrace({ capture, stretch: { from, to } })}
      onCorrect={bench.correct}
      onTakeBack={bench.takeBack}
      policy={bench.shop?.settings.policy}
    />
  );
  return (
    <>
      <BenchHeader
        job={job}
        stage={state.stage}
        minutes={minutes}
        onPalette={() => setOpened("palette")}
        onCallout={openCallout}
        onTraces={() => showTrace({})}
      />
      <Notices bench={bench} />
      {analysis && circuit ? (
        <BenchBody
          id={id}
          bench={bench}
          analysis={analysis}
          circuit={circuit}
          minutes={minutes}
          log={log}
          verbs={verbs}
          opened={opened}
          onOpen={setOpened}
          inputRef={input}
          onRead={bench.readInstrument === null ? null : () => void read()}
          onStart={begin}
        />
      ) : (
        <OpeningBench title={job.title} opening={bench.opening} working={bench.failure === null && !bench.cancelled} busy={bench.busy} log={log} />
      )}
      <OverBench
        bench={bench}
        id={id}
        opened={opened}
        onOpened={setOpened}
        start={start}
        onStart={begin}
        onStarted={() => setStart(null)}
        traceAt={traceAt}
        onTraceAt={setTraceAt}
        callout={callout}
        verbs={verbs}
        inputRef={input}
      />
    </>
  );
}
