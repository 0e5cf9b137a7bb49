import type { Analysis, CircuitView } from "@fox-lamp/core";
import { type Dispatch, type ReactNode, type RefObject, type SetStateAction, useState } from "react";
import { useAppSelector } from "../../../app/store";
import { useWide } from "../../../ui/room";
import { CircuitPanel } from "../drawing/CircuitPanel";
import { ActPanel } from "../entry/ActPanel";
import type { Start } from "../own-test/draft";
import { Suspects } from "../suspects/Suspects";
import type { Bench } from "../use-bench";
import { KeyLine } from "./BenchHeader";
import { Guide } from "./Guide";
import type { Opened } from "./opened";
import type { Verb } from "./Palette";
import { type View, Views } from "./Views";

interface Props {
  readonly id: string;
  readonly bench: Bench;
  readonly analysis: Analysis;
  readonly circuit: CircuitView;
  readonly minutes: number;
  readonly log: ReactNode;
  readonly verbs: readonly Verb[];
  readonly opened: Opened;
  readonly onOpen: Dispatch<SetStateAction<Opened>>;
  readonly inputRef: RefObject<HTMLInputElement | null>;
  readonly onRead: (() => void) | null;
  /** Begins a test of one's own with leads already put on. */
  readonly onStart: (start: Start) => void;
}

/** Suspects, circuit and test side by side; where there is no room for that, one of them at a time. The test comes first in reading order. */
export function BenchBody({ id, bench, analysis, circuit, minutes, log, verbs, opened, onOpen, inputRef, onRead, onStart }: Props) {
  const leftHand = useAppSelector((store) => store.settings.leftHand);
  const [view, setView] = useState<View>("test");
  const { diagnosis, circuits } = analysis;
  const decided = diagnosis.verdict.status === "proven" || diagnosis.verdict.status === "nothing-found";
  const only = (name: View): string => (view === name ? "" : "max-lg:hidden");
  const wide = useWide();
  const drawing = (
    <CircuitPanel bench={bench} analysis={analysis} circuit={circuit} drawnTest={decided && bench.ownScene === null ? null : bench.test} onStart={onStart} />
  );
  return (
    <main
      id="content"
      aria-busy={bench.busy}
      className={`flex flex-1 flex-col lg:grid lg:grid-rows-[auto_1fr] ${leftHand ? "lg:grid-cols-[21.5rem_1fr_17rem]" : "lg:grid-cols-[17rem_1fr_21.5rem]"}`}
    >
      <h1 className="sr-only">{bench.job?.title}</h1>
      <Views
        view={view}
        onView={setView}
        leading={Math.max(0, ...diagnosis.units.map(({ probability }) => probability))}
        readings={bench.state.readings.length}
      />
      <div
        className={`flex min-w-0 flex-1 flex-col border-line bg-panel px-4 py-3 lg:row-span-2 lg:row-start-1 lg:py-4 ${only("test")} ${leftHand ? "lg:col-start-1 lg:border-r" : "lg:col-start-3 lg:border-l"}`}
      >
        <Guide bench={bench} decided={decided} />
        <ActPanel
          job={id}
          bench={bench}
          analysis={analysis}
          minutes={minutes}
          decided={decided}
          opened={opened}
          onOpen={onOpen}
          inputRef={inputRef}
          onRead={onRead}
          onStart={onStart}
          // In a narrow room the drawing stands between what the test is and where its value is typed.
          drawing={wide ? null : drawing}
        />
        <KeyLine verbs={verbs} />
      </div>
      {wide && <div className="col-start-2 row-start-1 min-w-0 px-5 pt-3">{drawing}</div>}
      <div className={`min-w-0 border-line px-4 py-4 lg:col-start-2 lg:row-start-2 lg:border-t lg:px-5 lg:py-3 ${only("readings")}`}>{log}</div>
      <aside
        className={`min-w-0 border-line px-4 py-4 lg:row-span-2 lg:row-start-1 ${only("suspects")} ${leftHand ? "lg:col-start-3 lg:border-l" : "lg:col-start-1 lg:border-r"}`}
      >
        <Suspects
          diagnosis={diagnosis}
          circuits={circuits}
          selected={bench.selected}
          onSelect={bench.select}
          measured={bench.state.readings.length + bench.state.codes.length > 0}
          whyNot={bench.whyNot?.sentence ?? null}
          onTest={(test) => {
            bench.choose(test);
            setView("test");
          }}
        />
      </aside>
    </main>
  );
}
