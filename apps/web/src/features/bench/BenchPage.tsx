import { diagnosedPart } from "@fox-lamp/core/job";
import { measurementOf } from "@fox-lamp/core/tests";
import { type NextTest, parsePoint, type Reading, type Setup, type Value } from "@fox-lamp/language";
import { useEffect, useMemo, useRef, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { useParams } from "react-router";
import { toast } from "sonner";
import { themeToggled } from "../../app/settings";
import { Brand, ThemeButton } from "../../app/shell";
import { useAppDispatch } from "../../app/store";
import { useEnter, useJob } from "../../app/use-job";
import { messages } from "../../messages";
import { StageRail } from "../../ui/StageRail";
import { Plain } from "../../ui/states";
import { vehicleName } from "../../ui/vehicle";
import { ChipRow } from "./ChipRow";
import { CircuitStrip } from "./CircuitStrip";
import { CircuitDrawing } from "./drawing/CircuitDrawing";
import { isKnown, Known } from "./Known";
import { Log } from "./Log";
import { NextPanel } from "./NextPanel";
import { Override } from "./Override";
import { PlanView } from "./PlanView";
import { type Question, SlipQuestion } from "./SlipQuestion";
import { Suspects } from "./Suspects";
import { analyseOnce, useAnalysis, useTold, useWhyNot } from "./use-analysis";
import { VerdictPanel } from "./VerdictPanel";
import { setupText, unitOf } from "./wording";

const t = messages.bench;

/** A test with its value as a reading of the language. */
function readingOf(test: NextTest, value: Value, id: string, unit?: string): Reading & { id: string } {
  return { ...measurementOf(test), id, value, ...(unit === undefined ? {} : { unit }) };
}

/** What a reading must share with a test for its volts to be written on the same drawing: key and plugs, nothing added. */
function setupKey({ key = "on", open = [], add = [] }: Setup): string {
  return JSON.stringify([key, [...open].sort(), add]);
}

/** The next free name r1, r2 ... that no reading of the job has had. */
function nextName(readings: readonly { reading: { id: string } }[]): string {
  const used = readings.map(({ reading }) => Number(/^r(\d+)$/u.exec(reading.id)?.[1] ?? 0));
  return `r${Math.max(0, ...used) + 1}`;
}

/** The bench: circuit, next test, suspects and readings of a job. */
export function BenchPage() {
  const { id = "" } = useParams();
  const { job, state, missing, failed, retry } = useJob(id);
  const enter = useEnter(id);
  const dispatch = useAppDispatch();
  const diagnosed = useMemo(() => (job ? diagnosedPart(job, state) : null), [job, state]);
  const { analysis, computing, failure, progress, cancelled, cancel, again } = useAnalysis(diagnosed);
  const [chosen, setChosen] = useState<string | null>(null);
  const [text, setText] = useState("");
  const [selected, setSelected] = useState<string | null>(null);
  const [question, setQuestion] = useState<Question | null>(null);
  const [checking, setChecking] = useState(false);
  const [othersOpen, setOthersOpen] = useState(false);
  const input = useRef<HTMLInputElement>(null);

  const told = useTold(diagnosed, !computing && analysis !== null);
  const whyNot = useWhyNot(diagnosed, selected);
  const [focus, setFocus] = useState<string | null>(null);
  const [symptom, setSymptom] = useState<boolean | null>(null);
  const passing = state.intermittent === true;

  const offered = analysis?.diagnosis.next ?? [];
  const focused = offered.filter((candidate) => candidate.circuit === focus);
  // A circuit chosen in the strip brings its own tests to the front.
  const tests = focused.length > 0 ? [...focused, ...offered.filter((candidate) => candidate.circuit !== focus)] : offered;
  const test = tests.find((candidate) => candidate.test === chosen) ?? tests[0] ?? null;
  const own =
    analysis?.circuits.find((candidate) => candidate.id === (test?.circuit ?? analysis.diagnosis.verdict.unit?.split("/")[0])) ?? analysis?.circuits[0];
  // A suspect chosen in another circuit brings that circuit's drawing; the test's leads stay with its own.
  const wanted = selected?.split("/")[0] ?? focus;
  const circuit = analysis?.circuits.find((candidate) => candidate.id === wanted) ?? own;
  const foreign = circuit !== own;
  const measured = useMemo(() => {
    const volts = new Map<string, number>();
    const shownIn = setupKey(test?.setup ?? {});
    for (const { reading } of state.readings) {
      if (reading.meter !== "volts-dc" || reading.black !== "bat-" || typeof reading.value !== "number" || setupKey(reading.setup ?? {}) !== shownIn) continue;
      const point = parsePoint(reading.red);
      if (point?.kind === "pin" && (reading.circuit ?? circuit?.id) === circuit?.id) volts.set(`${point.pin}@${point.place}`, reading.value);
    }
    return volts;
  }, [state.readings, circuit?.id, test]);

  const commit = (value: Value, unit?: string): void => {
    if (!test) return;
    const reading = readingOf(test, value, nextName(state.readings), unit);
    const said = passing && symptom !== null ? { symptom } : {};
    enter({ kind: "reading", body: { reading: { ...reading, ...said }, minutes: test.minutes } });
    setSymptom(null);
    setSelected(null);
    setQuestion(null);
    setText("");
    setChosen(null);
  };
  const take = async (value: Value, unit?: string): Promise<void> => {
    if (!test || !diagnosed) return;
    const reading = readingOf(test, value, "new", unit);
    setChecking(true);
    const answer = await analyseOnce({ ...diagnosed, readings: [...diagnosed.readings, reading] });
    setChecking(false);
    if (!answer.ok) {
      toast.error(answer.problem.message);
      return;
    }
    const doubt = answer.analysis.diagnosis.doubtful.find((candidate) => candidate.reading === "new");
    if (doubt) setQuestion({ doubt, value, unit: unit ?? unitOf(test), typedUnit: unit });
    else commit(value, unit);
  };
  const undo = state.undoable === null ? null : (): void => void enter({ kind: "retraction", body: { entry: state.undoable as string } });

  useHotkeys("u", () => undo?.(), [undo]);
  useHotkeys("o", () => setOthersOpen((open) => !open), []);
  useHotkeys("t", () => void dispatch(themeToggled()), [dispatch]);
  useEffect(() => {
    const startEntry = (event: KeyboardEvent): void => {
      const { target } = event;
      const typing = target instanceof HTMLElement && (target.matches("input, select, textarea") || target.isContentEditable);
      if (typing || event.ctrlKey || event.metaKey || event.altKey || !/^[\d.,-]$/u.test(event.key) || !input.current) return;
      event.preventDefault();
      input.current.focus();
      setText((before) => before + event.key);
    };
    window.addEventListener("keydown", startEntry);
    return () => window.removeEventListener("keydown", startEntry);
  }, []);

  if (missing) return <Plain>{messages.states.noJob}</Plain>;
  if (failed && !job) return <Plain retry={retry}>{messages.states.failed}</Plain>;
  if (!job) return <Plain>{messages.states.loading}</Plain>;
  const minutes = state.readings.reduce((sum, reading) => sum + reading.minutes, 0);
  const { verdict } = analysis?.diagnosis ?? { verdict: null };
  const decided = verdict?.status === "proven" || verdict?.status === "nothing-found";
  const recorded = state.decisions.some((decision) => decision.unit === verdict?.unit && decision.decision === verdict?.status);
  const record = (): void => {
    if (!verdict) return;
    enter(
      {
        kind: "decision",
        body: { decision: verdict.status, unit: verdict.unit, probability: verdict.probability, group: verdict.group, because: verdict.because },
      },
      { kind: "stage", body: { stage: "repair" } },
    );
  };

  const { stake } = analysis?.diagnosis ?? { stake: null };
  const overridden = state.decisions.some(({ decision }) => decision === "override");
  const override = (): void => {
    if (!stake) return;
    enter({ kind: "decision", body: { decision: "override", unit: stake.unit, probability: 1 - stake.wrong, lossMinutes: stake.lossMinutes } });
  };

  return (
    <>
      <header className="flex items-center gap-x-5 gap-y-1 border-b border-line px-4 py-1.5 lg:px-5">
        <Brand />
        <div className="hidden min-w-0 md:block">
          <StageRail job={id} stage={state.stage} here="bench" />
        </div>
        <span className="min-w-0 flex-1 truncate text-soft md:text-right">
          <span className="font-bold text-ink">{vehicleName(job.vehicle)}</span> {job.title}
        </span>
        <span className="readout hidden whitespace-nowrap text-soft sm:block">{Number(minutes.toFixed(0))} min</span>
        <ThemeButton />
      </header>
      {failure !== null && (
        <p role="alert" className="border-b border-line bg-caution px-5 py-3">
          {t.failed}: {failure}
        </p>
      )}
      {(progress || cancelled) && (
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
      )}
      {!analysis && failure === null && !cancelled && <Plain>{t.computing}</Plain>}
      {analysis && circuit && (
        <main id="content" aria-busy={computing} className="grid flex-1 lg:grid-cols-[17rem_1fr_21.5rem]">
          <aside className="order-3 border-line px-4 py-4 lg:order-none lg:border-r">
            <Suspects
              diagnosis={analysis.diagnosis}
              circuits={analysis.circuits}
              selected={selected}
              onSelect={(unit) => setSelected(unit === selected ? null : unit)}
              measured={state.readings.length + state.codes.length > 0}
              whyNot={whyNot?.sentence ?? null}
            />
          </aside>
          <div className="order-1 flex min-w-0 flex-col lg:order-none">
            <div className="px-3 pt-3 lg:px-5">
              <CircuitStrip
                circuits={analysis.circuits}
                diagnosis={analysis.diagnosis}
                shown={circuit.id}
                onShow={(next) => {
                  setFocus(next);
                  setSelected(null);
                  setChosen(null);
                }}
              />
              <div className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1">
                <h1 className="text-lg font-bold">{circuit.title}</h1>
                {isKnown(circuit.quantity) && (
                  <Known
                    key={`${circuit.id}${String(state.conditions[circuit.quantity])}`}
                    quantity={circuit.quantity}
                    unit={circuit.unit}
                    conditions={state.conditions}
                    onSet={(conditions) => enter({ kind: "conditions", body: conditions })}
                  />
                )}
                <label className="flex items-center gap-2 text-sm text-soft" title={t.comesAndGoesHint}>
                  <input
                    type="checkbox"
                    checked={passing}
                    onChange={(event) => enter({ kind: "conditions", body: { ...state.conditions, intermittent: event.target.checked } })}
                    className="size-4 accent-[var(--lamp)]"
                  />
                  {t.comesAndGoes}
                </label>
                <span className="text-sm text-soft" aria-live="polite">
                  {computing ? t.computing : test ? setupText(test.setup) : ""}
                </span>
              </div>
              {told?.move && (
                <p className="mb-2 mt-1 text-sm text-soft" role="status">
                  <span className="sr-only">{t.changed}: </span>
                  <span className="readout text-lamp">{told.move.reading}</span> {told.move.sentence}
                </p>
              )}
              <ChipRow diagnosis={analysis.diagnosis} circuits={analysis.circuits} />
              <CircuitDrawing
                circuit={circuit}
                diagnosis={analysis.diagnosis}
                test={decided || foreign ? null : test}
                healthy={test && !foreign ? analysis.volts[test.test] : undefined}
                measured={measured}
                selected={selected}
                onSelect={(unit) => setSelected(unit === selected ? null : unit)}
              />
              {test && !foreign && <p className="hidden pb-2 text-xs text-soft lg:block">{t.healthyVolts}</p>}
            </div>
            <div className="hidden border-t border-line px-5 py-3 lg:block">
              <Log readings={state.readings} windows={analysis.windows} doubtful={analysis.diagnosis.doubtful} onUndo={undo} />
            </div>
          </div>
          <div className="order-2 border-line bg-panel px-4 py-4 lg:order-none lg:border-l">
            {verdict?.status === "contradiction" && (
              <div className="mb-4 rounded-xl bg-caution px-4 py-3">
                <p className="m-0 font-bold">{t.contradiction}</p>
                <ul className="mb-0 mt-1 list-disc space-y-1 pl-5 text-sm">
                  {(verdict.steps ?? []).map((step) => (
                    <li key={step}>{step}</li>
                  ))}
                </ul>
              </div>
            )}
            {decided ? (
              <VerdictPanel
                job={id}
                diagnosis={analysis.diagnosis}
                circuits={analysis.circuits}
                readings={state.readings}
                minutes={minutes}
                recorded={recorded}
                onRecord={record}
              />
            ) : test ? (
              <>
                {passing && (
                  <fieldset className="mb-3 flex items-center gap-2 border-0 p-0 text-sm">
                    <legend className="float-left pr-2 text-soft">{t.symptom}</legend>
                    {(
                      [
                        [true, t.symptomAnswers.yes],
                        [false, t.symptomAnswers.no],
                        [null, t.symptomAnswers.unknown],
                      ] as const
                    ).map(([value, word]) => (
                      <button
                        key={word}
                        type="button"
                        aria-pressed={symptom === value}
                        onClick={() => setSymptom(value)}
                        className={`h-9 rounded-lg border px-3 ${symptom === value ? "border-lamp font-bold text-ink" : "border-line text-soft"}`}
                      >
                        {word}
                      </button>
                    ))}
                  </fieldset>
                )}
                <NextPanel
                  circuit={own}
                  tests={tests}
                  test={test}
                  text={text}
                  onText={setText}
                  engineering={analysis.engineering[test.test]}
                  onTake={(value, unit) => void take(value, unit)}
                  onChoose={(next) => {
                    setChosen(next);
                    setText("");
                  }}
                  onSkip={(reason) => {
                    enter({ kind: "skip", body: { test: test.test, reason } });
                    setChosen(null);
                  }}
                  busy={checking || computing}
                  inputRef={input}
                  othersOpen={othersOpen}
                  onOthers={setOthersOpen}
                />
                <div className="mt-4 space-y-3">
                  {told?.plan && test === offered[0] && <PlanView plan={told.plan} />}
                  {overridden ? <p className="text-sm text-soft">{t.overridden}</p> : stake && <Override stake={stake} onOverride={override} />}
                </div>
              </>
            ) : (
              <p className="text-soft">
                {t.nothingLeft} {verdict?.separate}
              </p>
            )}
            <p className="mb-0 mt-4 hidden gap-4 text-sm text-soft lg:flex">
              {(
                [
                  ["O", t.keys.others],
                  ["U", t.keys.undo],
                  ["T", t.keys.theme],
                ] as const
              ).map(([key, word]) => (
                <span key={key} className="flex items-center gap-2">
                  <kbd className="readout rounded border border-line px-1.5">{key}</kbd> {word}
                </span>
              ))}
            </p>
          </div>
          <div className="order-4 border-t border-line px-4 py-4 lg:hidden">
            <Log readings={state.readings} windows={analysis.windows} doubtful={analysis.diagnosis.doubtful} onUndo={undo} />
          </div>
        </main>
      )}
      <SlipQuestion
        question={question}
        onTake={(value) => commit(value, question?.typedUnit)}
        onAgain={() => {
          setQuestion(null);
          setText("");
          input.current?.focus();
        }}
      />
    </>
  );
}
