import { measurementId, measurementOf } from "@fox-lamp/core";
import { printShorthand } from "@fox-lamp/language";
import { lazy, Suspense, useEffect, useRef, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { useNavigate, useParams } from "react-router";
import { themeToggled } from "../../app/settings";
import { useAppDispatch, useAppSelector } from "../../app/store";
import { CircuitDrawing } from "../../circuit/drawing/CircuitDrawing";
import { groundLimit, setupText, titleOf, within } from "../../circuit/wording";
import { messages } from "../../messages";
import { Plain, PlainPage } from "../../ui/states";
import { BenchHeader, KeyLine } from "./BenchHeader";
import { ChipRow } from "./ChipRow";
import { CircuitStrip } from "./CircuitStrip";
import { Guide } from "./Guide";
import { isKnown, Known } from "./Known";
import { Log } from "./Log";
import { NextPanel } from "./NextPanel";
import { Override } from "./Override";
import type { Verb } from "./Palette";
import { PlanView } from "./PlanView";
import { Questions } from "./Questions";
import { Steps } from "./Steps";
import { Suspects } from "./Suspects";
import { Symptom } from "./Symptom";
import { type Bench, useBench } from "./use-bench";
import { useCallout } from "./use-callout";
import { VerdictPanel } from "./VerdictPanel";

const t = messages.bench;

// What is opened over the bench comes when it is opened: the bench itself should not wait for it.
const CalloutDialog = lazy(async () => ({ default: (await import("./CalloutDialog")).CalloutDialog }));
const OwnTest = lazy(async () => ({ default: (await import("./own-test/OwnTest")).OwnTest }));
const Palette = lazy(async () => ({ default: (await import("./Palette")).Palette }));
const SlipQuestion = lazy(async () => ({ default: (await import("./SlipQuestion")).SlipQuestion }));
const Watch = lazy(async () => ({ default: (await import("./Watch")).Watch }));

/** What is open over the bench. */
type Opened = "others" | "skip" | "own" | "palette" | "callout" | "watch" | null;

/** The last number read at the same points in the same state, as it would be typed. */
function sameAs({ test, state }: Bench): string | null {
  if (test === null || test.record !== undefined) return null;
  const id = measurementId(measurementOf(test));
  const before = state.readings.filter(({ reading }) => (reading.circuit ?? test.circuit) === test.circuit && measurementId(reading) === id).at(-1);
  return typeof before?.reading.value === "number" ? printShorthand(before.reading.value, 4) : null;
}

/** Digits anywhere start an entry. */
function useDigits(input: React.RefObject<HTMLInputElement | null>, onKey: (key: string) => void): void {
  const latest = useRef(onKey);
  latest.current = onKey;
  useEffect(() => {
    const startEntry = (event: KeyboardEvent): void => {
      const { target } = event;
      const typing = target instanceof HTMLElement && (target.matches("input, select, textarea") || target.isContentEditable);
      if (typing || event.ctrlKey || event.metaKey || event.altKey || !/^[\d.,-]$/u.test(event.key) || !input.current) return;
      if (document.querySelector("[role=dialog]") !== null) return;
      event.preventDefault();
      input.current.focus();
      latest.current(event.key);
    };
    window.addEventListener("keydown", startEntry);
    return () => window.removeEventListener("keydown", startEntry);
  }, [input]);
}

/** What is being computed, once it takes longer than a moment; it can be stopped. */
function Progress({ bench: { progress, cancelled, cancel, again } }: { bench: Bench }) {
  if (!progress && !cancelled) return null;
  return (
    <p role="status" className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line bg-panel px-5 py-2 text-sm">
      {progress && (
        <>
          <progress value={progress.done} max={progress.total} className="h-2 w-32 accent-[var(--lamp)]" />
          <span className="min-w-0 flex-1 truncate">{t.computingWhat(progress.what)}</span>
        </>
      )}
      {cancelled && <span className="flex-1">{t.cancelled}</span>}
      <button type="button" onClick={cancelled ? again : cancel} className="h-9 rounded-lg border border-line px-3 font-bold text-ink">
        {cancelled ? t.computeAgain : t.cancel}
      </button>
    </p>
  );
}

/** The bench: circuit, next test, suspects and readings of a job. */
export function BenchPage() {
  const { id = "" } = useParams();
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const leftHand = useAppSelector((store) => store.settings.leftHand);
  const bench = useBench(id);
  const callout = useCallout(bench);
  const [opened, setOpened] = useState<Opened>(null);
  const input = useRef<HTMLInputElement>(null);
  const { job, state, analysis, test, circuit, computing, text, setText } = bench;
  useDigits(input, (key) => setText(text + key));
  const taken = state.readings.length;
  // After a reading is taken the letters are verbs again.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the count says when
  useEffect(() => input.current?.blur(), [taken]);
  const read = async (): Promise<void> => {
    await bench.readInstrument?.();
    input.current?.focus();
  };

  const toggle = (what: Exclude<Opened, null>) => (open: boolean) => setOpened(open ? what : null);
  const openCallout = (): void => {
    void callout.start();
    setOpened("callout");
  };
  const verbs: Verb[] = [
    ...(bench.readInstrument && test ? [{ key: "R", name: t.keys.read, run: () => void read() }] : []),
    { key: "O", name: t.keys.others, run: () => setOpened("others") },
    { key: "B", name: t.keys.own, run: () => setOpened("own") },
    { key: "S", name: t.keys.skip, run: () => setOpened("skip") },
    { key: "U", name: t.keys.undo, run: () => bench.undo?.() },
    ...(bench.readInstrument && circuit ? [{ key: "W", name: t.keys.watch, run: () => setOpened("watch") }] : []),
    { key: "C", name: t.keys.callout, run: openCallout },
    { key: "P", name: t.keys.paper, run: () => void navigate(`/jobs/${id}/paper`) },
    { key: "T", name: t.keys.theme, run: () => void dispatch(themeToggled()) },
    { key: "K", name: t.keys.palette, run: () => setOpened("palette") },
    { key: null, name: t.keys.settings, run: () => void navigate("/settings") },
  ];
  const keys = verbs.flatMap(({ key }) => (key === null ? [] : [key.toLowerCase()]));
  useHotkeys(
    [...keys, "mod+k"],
    (event, { keys: pressed, mod }) => {
      event.preventDefault();
      const letter = mod === true ? "k" : pressed?.[0];
      verbs.find(({ key }) => key?.toLowerCase() === letter)?.run();
    },
    { enabled: opened === null && bench.question === null },
    [verbs],
  );

  if (bench.missing) return <PlainPage>{messages.states.noJob}</PlainPage>;
  if (bench.failed && !job) return <PlainPage retry={bench.retry}>{messages.states.failed}</PlainPage>;
  if (!job) return <PlainPage>{messages.states.loading}</PlainPage>;
  const minutes = state.readings.reduce((sum, reading) => sum + reading.minutes, 0);
  const { verdict } = analysis?.diagnosis ?? { verdict: null };
  const decided = verdict?.status === "proven" || verdict?.status === "nothing-found";
  const recorded = state.decisions.some((decision) => decision.unit === verdict?.unit && decision.decision === verdict?.status);
  const record = (): void => {
    if (!verdict) return;
    const failed = state.readings.filter(({ reading }) => within(reading.value, analysis?.windows[reading.id]) === false).map(({ reading }) => reading.id);
    bench.enter(
      {
        kind: "decision",
        body: { decision: verdict.status, unit: verdict.unit, probability: verdict.probability, group: verdict.group, because: verdict.because, failed },
      },
      { kind: "stage", body: { stage: "repair" } },
    );
  };
  const { stake } = analysis?.diagnosis ?? { stake: null };
  const overridden = state.decisions.some(({ decision }) => decision === "override");
  const override = (): void => {
    if (!stake) return;
    bench.enter({ kind: "decision", body: { decision: "override", unit: stake.unit, probability: 1 - stake.wrong, lossMinutes: stake.lossMinutes } });
  };
  const free = bench.ownScene !== null;
  // The record of what was read is there whatever becomes of its analysis: what broke it can be taken back.
  const log = (
    <Log
      readings={state.readings}
      windows={analysis?.windows ?? {}}
      doubtful={analysis?.diagnosis.doubtful ?? []}
      circuits={analysis?.circuits ?? []}
      onUndo={bench.undo}
      onCorrect={bench.correct}
      onTakeBack={bench.takeBack}
      policy={bench.shop?.settings.policy}
    />
  );
  return (
    <>
      <BenchHeader job={job} stage={state.stage} minutes={minutes} onPalette={() => setOpened("palette")} onCallout={openCallout} />
      {bench.failure !== null && (
        <p role="alert" className="border-b border-line bg-caution px-5 py-3">
          {t.failed}: {bench.failure}
        </p>
      )}
      <Progress bench={bench} />
      {(!analysis || !circuit) && (
        <main id="content" className="flex flex-1 flex-col" aria-busy={bench.busy}>
          <h1 className="sr-only">{job.title}</h1>
          {bench.failure === null && !bench.cancelled && <Plain>{t.computing}</Plain>}
          {(bench.failure !== null || bench.cancelled) && <div className="border-t border-line px-5 py-4">{log}</div>}
        </main>
      )}
      {analysis && circuit && (
        <main
          id="content"
          aria-busy={bench.busy}
          className={`grid flex-1 ${leftHand ? "lg:grid-cols-[21.5rem_1fr_17rem]" : "lg:grid-cols-[17rem_1fr_21.5rem]"}`}
        >
          <aside className={`order-3 border-line px-4 py-4 ${leftHand ? "lg:order-3 lg:border-l" : "lg:order-1 lg:border-r"}`}>
            <Suspects
              diagnosis={analysis.diagnosis}
              circuits={analysis.circuits}
              selected={bench.selected}
              onSelect={bench.select}
              measured={state.readings.length + state.codes.length > 0}
              whyNot={bench.whyNot?.sentence ?? null}
              onTest={bench.choose}
            />
          </aside>
          <div className="order-1 flex min-w-0 flex-col lg:order-2">
            <div className="px-3 pt-3 lg:px-5">
              <CircuitStrip circuits={analysis.circuits} diagnosis={analysis.diagnosis} shown={circuit.id} onShow={bench.show} />
              <div className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1">
                <h1 className="text-lg font-bold">{circuit.title}</h1>
                {isKnown(circuit.quantity) && (
                  <Known
                    key={`${circuit.id}${String(state.conditions[circuit.quantity])}`}
                    quantity={circuit.quantity}
                    conditions={state.conditions}
                    onSet={(conditions) => bench.enter({ kind: "conditions", body: conditions })}
                  />
                )}
                <label className="flex items-center gap-2 text-sm text-soft" title={t.comesAndGoesHint}>
                  <input
                    type="checkbox"
                    checked={bench.passing}
                    onChange={(event) => bench.enter({ kind: "conditions", body: { ...state.conditions, intermittent: event.target.checked } })}
                    className="size-4 accent-[var(--lamp)]"
                  />
                  {t.comesAndGoes}
                </label>
                <span className="text-sm text-soft" aria-live="polite">
                  {computing ? t.computing : test ? setupText(test.setup) : ""}
                </span>
              </div>
              {bench.told?.move && (
                <p className="mb-2 mt-1 text-sm text-soft" role="status">
                  <span className="sr-only">{t.changed}: </span>
                  <span className="readout text-lamp">{bench.told.move.reading}</span> {bench.told.move.sentence}
                </p>
              )}
              <ChipRow diagnosis={analysis.diagnosis} circuits={analysis.circuits} />
              <CircuitDrawing
                circuit={circuit}
                circuits={analysis.circuits}
                diagnosis={analysis.diagnosis}
                test={(decided && !free) || bench.foreign ? null : test}
                healthy={test && !bench.foreign ? bench.healthy : undefined}
                measured={bench.measured}
                selected={bench.selected}
                onSelect={bench.select}
              />
              {test && !bench.foreign && <p className="hidden pb-2 text-xs text-soft lg:block">{t.healthyVolts}</p>}
            </div>
            <div className="hidden border-t border-line px-5 py-3 lg:block">{log}</div>
          </div>
          <div className={`order-2 border-line bg-panel px-4 py-4 ${leftHand ? "lg:order-1 lg:border-r" : "lg:order-3 lg:border-l"}`}>
            <Guide bench={bench} decided={decided} />
            {(verdict?.status === "contradiction" || verdict?.status === "unknown-fault") && (
              <div className="mb-4 rounded-xl bg-caution px-4 py-3">
                <p className="m-0 font-bold">{verdict.status === "contradiction" ? t.contradiction : t.fitsNoFault}</p>
                <Steps steps={verdict.steps ?? []} />
              </div>
            )}
            {decided && !free ? (
              <VerdictPanel
                job={id}
                diagnosis={analysis.diagnosis}
                circuits={analysis.circuits}
                readings={state.readings}
                minutes={minutes}
                recorded={recorded}
                passing={bench.passing}
                onRecord={record}
              />
            ) : test ? (
              <>
                {bench.passing && <Symptom value={bench.symptom} onChange={bench.setSymptom} />}
                <NextPanel
                  circuit={bench.own}
                  circuits={analysis.circuits}
                  tests={bench.tests}
                  test={test}
                  text={text}
                  onText={setText}
                  engineering={bench.engineering}
                  onTake={bench.take}
                  onChoose={bench.choose}
                  onSkip={bench.skip}
                  busy={bench.busy}
                  inputRef={input}
                  othersOpen={opened === "others"}
                  onOthers={toggle("others")}
                  skipOpen={opened === "skip"}
                  onSkipping={toggle("skip")}
                  onOwn={() => setOpened("own")}
                  onRead={bench.readInstrument === null ? null : () => void read()}
                  reading={bench.instrumentBusy}
                  same={sameAs(bench)}
                  limit={groundLimit(test, bench.own, bench.shop?.settings.policy)}
                />
                <div className="mt-4 space-y-3">
                  <Questions job={id} questions={analysis.diagnosis.ask ?? []} circuits={analysis.circuits} />
                  {bench.told?.plan && test === bench.offered[0] && <PlanView plan={bench.told.plan} />}
                  {overridden ? <p className="text-sm text-soft">{t.overridden}</p> : stake && <Override stake={stake} onOverride={override} />}
                </div>
              </>
            ) : (
              <div className="space-y-3">
                <p className="text-soft">
                  {t.nothingLeft} {verdict?.separate}
                </p>
                <Questions job={id} questions={analysis.diagnosis.ask ?? []} circuits={analysis.circuits} />
              </div>
            )}
            <KeyLine verbs={verbs} />
          </div>
          <div className="order-4 border-t border-line px-4 py-4 lg:hidden">{log}</div>
          <Suspense>
            {opened === "own" && <OwnTest bench={bench} circuits={analysis.circuits} onOpen={toggle("own")} onMeasure={bench.setOwnScene} />}
            {opened === "watch" && bench.readInstrument !== null && <Watch bench={bench} circuit={circuit} open onOpen={toggle("watch")} />}
            {opened === "palette" && (
              <Palette
                open
                onOpen={toggle("palette")}
                verbs={verbs}
                tests={bench.tests}
                onTest={bench.choose}
                suspects={analysis.diagnosis.units.map(({ unit, probability }) => ({ unit, probability, title: titleOf(unit, analysis.circuits) }))}
                onSuspect={bench.setSelected}
              />
            )}
          </Suspense>
        </main>
      )}
      <Suspense>
        {opened === "callout" && (
          <CalloutDialog
            code={callout.code}
            open
            onOpen={toggle("callout")}
            onStop={() => {
              callout.stop();
              setOpened(null);
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
              if (said === "again") input.current?.focus();
            }}
          />
        )}
      </Suspense>
    </>
  );
}
