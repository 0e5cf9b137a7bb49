import { type Dispatch, lazy, type RefObject, type SetStateAction, Suspense } from "react";
import { titleOf } from "../../../circuit/wording";
import type { TraceAt } from "../../../trace/desk/traced-job";
import type { useCallout } from "../call-out/use-callout";
import type { Start } from "../own-test/draft";
import type { Bench } from "../use-bench";
import { type Opened, openedAfter } from "./opened";
import type { useVerbs } from "./use-verbs";

// What is opened over the bench comes when it is opened: the bench itself should not wait for it.
const CalloutDialog = lazy(async () => ({ default: (await import("../call-out/CalloutDialog")).CalloutDialog }));
const OwnTest = lazy(async () => ({ default: (await import("../own-test/OwnTest")).OwnTest }));
const Palette = lazy(async () => ({ default: (await import("./Palette")).Palette }));
const SlipQuestion = lazy(async () => ({ default: (await import("../entry/SlipQuestion")).SlipQuestion }));
const HandWatch = lazy(async () => ({ default: (await import("../watch/HandWatch")).HandWatch }));
const TracesDialog = lazy(async () => ({ default: (await import("../trace/TracesDialog")).TracesDialog }));
const Watch = lazy(async () => ({ default: (await import("../watch/Watch")).Watch }));

interface Props {
  readonly bench: Bench;
  /** The job. */
  readonly id: string;
  readonly opened: Opened;
  readonly onOpened: Dispatch<SetStateAction<Opened>>;
  /** Leads that were put on before one's own test was opened. */
  readonly start: Start | null;
  /** Opens one's own test with leads put on. */
  readonly onStart: (start: Start) => void;
  /** One's own test was closed. */
  readonly onStarted: () => void;
  readonly traceAt: TraceAt;
  readonly onTraceAt: (at: TraceAt) => void;
  readonly callout: ReturnType<typeof useCallout>;
  readonly verbs: ReturnType<typeof useVerbs>;
  readonly inputRef: RefObject<HTMLInputElement | null>;
}

/** What is opened over the bench: one's own test, the watch, the palette, the call-out, and the question about a slip. */
export function OverBench({ bench, id, opened, onOpened, start, onStart, onStarted, traceAt, onTraceAt, callout, verbs, inputRef }: Props) {
  const { analysis, circuit } = bench;
  const toggle = (what: Exclude<Opened, null>) => (open: boolean) => onOpened((now) => openedAfter(now, what, open));
  return (
    <>
      <Suspense>
        {analysis && circuit && opened === "own" && (
          <OwnTest
            bench={bench}
            start={start}
            circuits={analysis.circuits}
            onOpen={(open) => {
              onStarted();
              toggle("own")(open);
            }}
            onMeasure={bench.setOwnScene}
          />
        )}
        {circuit &&
          opened === "watch" &&
          (bench.readInstrument === null ? (
            <HandWatch bench={bench} circuit={circuit} onOpen={toggle("watch")} />
          ) : (
            <Watch bench={bench} circuit={circuit} open onOpen={toggle("watch")} />
          ))}
        {analysis && opened === "palette" && (
          <Palette
            job={id}
            vehicle={bench.job?.vehicleId ?? ""}
            open
            onOpen={toggle("palette")}
            verbs={verbs}
            tests={bench.tests}
            circuits={analysis.circuits}
            onTest={bench.choose}
            suspects={analysis.diagnosis.units.map(({ unit, probability }) => ({ unit, probability, title: titleOf(unit, analysis.circuits) }))}
            onSuspect={bench.select}
            onPlace={(red) => circuit && onStart({ circuit: circuit.id, red, black: null, like: null })}
            circuit={circuit ?? null}
          />
        )}
        {opened === "traces" && bench.job && (
          <TracesDialog job={bench.job} state={bench.state} enter={bench.enter} at={traceAt} onAt={onTraceAt} onOpen={toggle("traces")} />
        )}
        {opened === "callout" && (
          <CalloutDialog
            code={callout.code}
            open
            onOpen={toggle("callout")}
            onStop={() => {
              callout.stop();
              onOpened(null);
            }}
          />
        )}
      </Suspense>
      <Suspense>
        {bench.question !== null && (
          <SlipQuestion
            question={bench.question}
            onAnswer={(said) => {
              bench.answer(said);
              if (said === "again") inputRef.current?.focus();
            }}
          />
        )}
      </Suspense>
    </>
  );
}
