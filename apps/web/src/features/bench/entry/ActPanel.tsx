import { type Analysis, measurementId, measurementOf } from "@fox-lamp/core";
import { printShorthand } from "@fox-lamp/language";
import type { Dispatch, ReactNode, RefObject, SetStateAction } from "react";
import { CardLink } from "../../../app/CardLink";
import { groundLimit } from "../../../circuit/wording";
import { messages } from "../../../messages";
import type { Start } from "../own-test/draft";
import { type Opened, openedAfter } from "../page/opened";
import { Steps } from "../proof/Steps";
import { VerdictPanel } from "../proof/VerdictPanel";
import type { Bench } from "../use-bench";
import { NextPanel } from "./NextPanel";
import { Override } from "./Override";
import { PercentOf } from "./PercentOf";
import { PlanView } from "./PlanView";
import { Questions } from "./Questions";
import { Symptom } from "./Symptom";

const t = messages.bench;

/** The last number read at the same points in the same state, as it would be typed. */
function sameAs({ test, state }: Bench): string | null {
  if (test === null || test.record !== undefined) return null;
  const id = measurementId(measurementOf(test));
  const before = state.readings.filter(({ reading }) => (reading.circuit ?? test.circuit) === test.circuit && measurementId(reading) === id).at(-1);
  return typeof before?.reading.value === "number" ? printShorthand(before.reading.value, 4) : null;
}

interface Props {
  readonly job: string;
  readonly bench: Bench;
  readonly analysis: Analysis;
  readonly minutes: number;
  readonly decided: boolean;
  readonly opened: Opened;
  readonly onOpen: Dispatch<SetStateAction<Opened>>;
  readonly inputRef: RefObject<HTMLInputElement | null>;
  readonly onRead: (() => void) | null;
  /** The circuit's drawing where it has no column of its own; null where it has. */
  readonly drawing: ReactNode;
  /** Begins a test of one's own with leads already put on. */
  readonly onStart: (start: Start) => void;
}

/** The one thing to do now: the next test, or the verdict, or what is left when no test would settle more. */
export function ActPanel({ job, bench, analysis, minutes, decided, opened, onOpen, inputRef, onRead, drawing, onStart }: Props) {
  const { diagnosis, circuits } = analysis;
  const { verdict, stake } = diagnosis;
  const { state, test } = bench;
  const toggle = (what: Exclude<Opened, null>) => (open: boolean) => onOpen((now) => openedAfter(now, what, open));
  const family = bench.diagnosed?.circuits.find(({ id }) => id === test?.circuit)?.family;
  const overridden = state.decisions.some(({ decision }) => decision === "override");
  const asked = <Questions job={job} questions={diagnosis.ask ?? []} circuits={circuits} />;
  return (
    <>
      {(verdict.status === "contradiction" || verdict.status === "unknown-fault") && (
        <div className="mb-4 rounded-xl bg-caution px-4 py-3">
          <p className="m-0 font-bold">{verdict.status === "contradiction" ? t.contradiction : t.fitsNoFault}</p>
          <Steps steps={verdict.steps ?? []} />
        </div>
      )}
      {decided && bench.ownScene === null ? (
        <>
          {drawing}
          <VerdictPanel
            job={job}
            diagnosis={diagnosis}
            circuits={circuits}
            readings={state.readings}
            minutes={minutes}
            recorded={bench.recorded}
            passing={bench.passing}
            onRecord={bench.record}
            onAgain={bench.readAgain}
          />
        </>
      ) : test ? (
        <>
          {bench.passing && <Symptom value={bench.symptom} onChange={bench.setSymptom} />}
          <NextPanel
            circuit={bench.own}
            circuits={circuits}
            tests={bench.tests}
            test={test}
            text={bench.text}
            onText={bench.setText}
            engineering={bench.engineering}
            onTake={bench.take}
            onChoose={bench.choose}
            onSkip={bench.skip}
            busy={bench.busy}
            inputRef={inputRef}
            othersOpen={opened === "others"}
            onOthers={toggle("others")}
            skipOpen={opened === "skip"}
            onSkipping={toggle("skip")}
            onOwn={() => onOpen("own")}
            onCavity={(red) => onStart({ circuit: test.circuit, red, black: test.black, like: test })}
            onLeaveOwn={bench.ownScene === null ? null : () => bench.setOwnScene(null)}
            onRead={onRead}
            reading={bench.instrumentBusy}
            same={sameAs(bench)}
            drawing={drawing}
            book={bench.book}
            shelf={bench.onShelf}
            onBook={bench.setBook}
            limit={groundLimit(test, bench.own, bench.shop?.settings.policy)}
          />
          {test.meter === "scan" && (
            <PercentOf
              circuit={bench.job?.circuits.find(({ id }) => id === test.circuit)}
              text={bench.text}
              onSay={(said) => bench.enter({ kind: "circuit", body: { circuit: said } })}
            />
          )}
          <div className="mt-1 flex flex-wrap gap-x-4">
            {/^T\d+b?$/u.test(test.technique) && <CardLink card={test.technique.toLowerCase()} words={messages.cards.about} job={job} circuit={test.circuit} />}
            {family !== undefined && <CardLink card={`family-${family}`} words={messages.cards.aboutFamily} job={job} circuit={test.circuit} />}
          </div>
          <div className="mt-4 space-y-3">
            {asked}
            {bench.told?.plan && test === bench.offered[0] && <PlanView plan={bench.told.plan} />}
            {overridden ? <p className="text-sm text-soft">{t.overridden}</p> : stake && <Override stake={stake} onOverride={bench.override} />}
          </div>
        </>
      ) : (
        <div className="space-y-3">
          {drawing}
          <p className="text-soft">
            {t.nothingLeft} {verdict.separate}
          </p>
          {asked}
        </div>
      )}
    </>
  );
}
