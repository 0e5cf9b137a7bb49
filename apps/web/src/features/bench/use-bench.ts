import { type CircuitView, type JobReading, type JobState, measurementOf } from "@fox-lamp/core";
import { circuitOfUnit, isWordMeter, type NextTest, parsePoint, printShorthand, type Reading, type Setup, unitOfReading, type Value } from "@fox-lamp/language";
import { useEffect, useMemo, useReducer } from "react";
import { reasonOf, useReadInstrumentsMutation } from "../../app/api";
import { namedInTurn, nextName } from "../../app/reading-names";
import { useEnter } from "../../app/use-job";
import { type ShelfLimits, useShelfLimits } from "../../app/use-shelf-limits";
import { limitsTyped } from "../../circuit/limits";
import { useAnalysis, useOpening, useTold, useWhyNot } from "../../circuit/use-analysis";
import { readingTitle, valueText, within } from "../../circuit/wording";
import { messages } from "../../messages";
import { toast } from "../../ui/toast";
import { type Book, deskAfter, keepDesk, keptDesk, type OwnScene, testAtHand } from "./desk";
import { useForesight } from "./entry/use-foresight";
import { useSlipQuestions } from "./entry/use-slip-questions";
import { useBenchJob } from "./use-bench-job";

/** A test with its value as a reading of the language. */
function readingOf(test: NextTest, value: Value, id: string, unit?: string): Reading & { id: string } {
  // Lowest and highest are a recording, whatever the test asked for.
  const record = typeof value === "object" ? { record: "min-max" as const } : {};
  return { ...measurementOf(test), ...record, id, value, ...(unit === undefined ? {} : { unit }) };
}

/** What a reading must share with a test for its volts to be written on the same drawing: key and plugs, nothing added. */
function setupKey({ key = "on", open = [], add = [] }: Setup): string {
  return JSON.stringify([key, [...open].sort(), add]);
}

/** A number as it would be typed. */
function typedText(value: Value): string {
  if (typeof value === "number") return printShorthand(value, 4);
  if (typeof value === "string") return value;
  return `${printShorthand(value.min, 4)} to ${printShorthand(value.max, 4)}`;
}

/** A book's limits as a reading carries them: what was typed, else what the shelf says; nothing while they are none. */
function limitsOf({ text, source, withoutShelf = false }: Book, unit: string, shelf: ShelfLimits | null): Pick<Reading, "limits"> {
  const typed = text.trim() === "" ? null : limitsTyped(text, unit);
  if (typed === null && shelf !== null && !withoutShelf) return { limits: shelf.used.limits };
  return typed?.ok ? { limits: { ...typed.limits, ...(source.trim() === "" ? {} : { source: source.trim() }) } } : {};
}

/** What was entered, in a few words: the reading with its value, or the test that could not be done. */
function undoneText(entry: string, { readings, skipped }: JobState, circuits: readonly CircuitView[] = []): string {
  const taken = readings.find((candidate) => candidate.entry === entry);
  if (taken !== undefined)
    return `${taken.reading.id}, ${readingTitle(taken.reading, circuits)}: ${valueText(taken.reading.value, unitOfReading(taken.reading))}`;
  const skip = skipped.find((candidate) => candidate.entry === entry);
  return skip === undefined ? "" : messages.bench.couldNot(skip.reason);
}

/** Reading once more where the leads are, or were a moment ago, minutes. */
const AGAIN_MINUTES = 1;

/** Everything the bench knows and can do. */
export function useBench(id: string) {
  const { job, state, missing, failed, retry, shop, shopComing, known, diagnosed } = useBenchJob(id);
  const enter = useEnter(id);
  const analysing = useAnalysis(diagnosed);
  const { analysis, computing } = analysing;
  const opening = useOpening(known, analysis !== null);
  const [desk, act] = useReducer(deskAfter, id, keptDesk);
  useEffect(() => keepDesk(id, desk), [id, desk]);
  const { text, selected, focus, symptom, own: ownScene } = desk;
  const [readInstruments, { isLoading: instrumentBusy }] = useReadInstrumentsMutation();
  const told = useTold(diagnosed, !computing && analysis !== null);
  const whyNot = useWhyNot(diagnosed, selected);
  const questions = useSlipQuestions({
    readings: state.readings,
    doubtful: computing ? null : (analysis?.diagnosis.doubtful ?? null),
    typing: text !== "",
  });
  const passing = state.intermittent === true;

  const offered = analysis?.diagnosis.next ?? [];
  const focused = offered.filter((candidate) => candidate.circuit === focus);
  // A circuit chosen in the strip brings its own tests to the front; a test put together freely stands before all.
  const tests = focused.length > 0 ? [...focused, ...offered.filter((candidate) => candidate.circuit !== focus)] : offered;
  const test = testAtHand(desk, tests);
  const own: CircuitView | undefined =
    analysis?.circuits.find((candidate) => candidate.id === (test?.circuit ?? circuitOfUnit(analysis.diagnosis.verdict.unit ?? ""))) ?? analysis?.circuits[0];
  // A suspect chosen in another circuit brings that circuit's drawing; the test's leads stay with its own.
  const wanted = (selected === null ? null : circuitOfUnit(selected)) ?? (ownScene ? ownScene.test.circuit : focus);
  const circuit = analysis?.circuits.find((candidate) => candidate.id === wanted) ?? own;
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

  const shelfLimits = useShelfLimits(job, diagnosed?.circuits, state.facts?.altitudeMetres ?? shop?.settings.altitudeMetres);
  const onShelf = useMemo(() => (test === null ? null : shelfLimits.at(measurementOf(test))), [shelfLimits.at, test]);
  const shelf = onShelf?.limits ?? null;
  const type = (next: string): void => act({ do: "type", text: next, test });
  /** The reading as it will be entered, what was said of the complaint included: it is weighed once, now and as entered. */
  const readingNow = (value: Value, unit?: string): (Reading & { id: string }) | null =>
    test && {
      ...readingOf(test, value, nextName(state.readings), unit),
      ...(passing && symptom !== null ? { symptom } : {}),
      ...limitsOf(desk.book, unit ?? unitOfReading(test), unit === undefined ? shelf : null),
    };
  const engineering = ownScene ? (ownScene.engineering ?? undefined) : test ? analysis?.engineering[test.test] : undefined;
  useForesight({ job: computing || analysis === null ? null : diagnosed, test, desk, also: engineering?.unit, readingNow });
  /** Enters a reading, before anything judges it: nothing that was typed can be lost. Whether it fits is asked about afterwards. */
  const take = (value: Value, unit?: string): void => {
    const reading = readingNow(value, unit);
    if (!test || reading === null) return;
    const [entry] = enter({ kind: "reading", body: { reading, minutes: test.minutes } });
    if (entry === undefined) return;
    questions.judge({ entry, name: reading.id, test: test.test, value, unit: unit ?? unitOfReading(test) });
    act({ do: "taken" });
  };
  /** Reads the test at hand from the connected instrument: numbers go into the field, words are taken. */
  const readInstrument = async (): Promise<"typed" | "taken" | null> => {
    if (!test) return null;
    const answer = await readInstruments({ job: id, measurements: [measurementOf(test)] });
    if ("error" in answer) {
      toast.error(reasonOf(answer.error) ?? messages.bench.instrumentFailed);
      return null;
    }
    const value = answer.data.values[0];
    if (value === undefined) return null;
    if (isWordMeter(test.meter)) {
      take(value);
      return "taken";
    }
    type(typedText(value));
    return "typed";
  };

  /** Corrects a reading; what it was stays in the record. */
  const correct = (taken: JobReading, value: Value, unit?: string): void => {
    const { was: _was, ...kept } = taken;
    const reading: Reading = { ...kept.reading, value, ...(unit === undefined ? {} : { unit }) };
    enter({ kind: "reading", body: { reading, minutes: taken.minutes, replaces: taken.entry } });
  };
  /** Enters a reading once more as it was taken, with what was read now: the first one stays. */
  const readAgain = ({ reading, minutes }: JobReading, value: Value, unit?: string): void => {
    const { symptom: _symptom, ...measured } = reading;
    const again: Reading = { ...measured, id: nextName(state.readings), value, ...(unit === undefined ? {} : { unit }) };
    enter({ kind: "reading", body: { reading: again, minutes: Math.min(minutes, AGAIN_MINUTES) } });
  };
  /** Takes back what was entered, says what it was, and lets it be put back. */
  const takeBack = (entry: string): void => {
    const [retraction] = enter({ kind: "retraction", body: { entry } });
    if (retraction === undefined) return;
    toast.success(messages.bench.takenBack(undoneText(entry, state, analysis?.circuits)), {
      remedy: { label: messages.bench.putBack, run: () => void enter({ kind: "retraction", body: { entry: retraction } }) },
    });
  };

  /** What was said to the question whether a reading fits: it was another value, it is taken back and measured again, or it stays. */
  const answer = (said: { readonly was: Value } | "again" | "keep"): void => {
    const asked = questions.question;
    questions.close();
    if (asked === null || said === "keep") return;
    const taken = state.readings.find(({ entry }) => entry === asked.entry);
    if (taken === undefined) return;
    if (said !== "again") {
      correct(taken, said.was);
      return;
    }
    takeBack(asked.entry);
    act({ do: "choose", test: asked.test });
  };

  const { verdict, stake } = analysis?.diagnosis ?? { verdict: null, stake: null };
  const recorded = state.decisions.some((decision) => decision.unit === verdict?.unit && decision.decision === verdict?.status);
  /** Records the verdict with what failed, and goes on to the repair. */
  const record = (): void => {
    if (!verdict) return;
    const failed = state.readings.filter(({ reading }) => within(reading.value, analysis?.windows[reading.id]) === false).map(({ reading }) => reading.id);
    const unexplained = analysis?.diagnosis.unexplained ?? [];
    // Faults in circuits that share nothing are proven each for itself, and each is recorded.
    const others = (analysis?.diagnosis.verdicts ?? []).filter(({ unit, status }) => status === "proven" && unit !== verdict.unit);
    const decisions = [...(verdict.status === "proven" ? others : []), verdict].map(({ status, unit, probability, group, because }) => ({
      kind: "decision" as const,
      body: { decision: status, unit, probability, group, because, failed, unexplained },
    }));
    enter(...decisions);
    enter({ kind: "stage", body: { stage: "repair" } });
  };
  /** Records that a part is replaced before it is proven, with the odds of this moment. */
  const override = (): void => {
    if (!stake) return;
    enter({ kind: "decision", body: { decision: "override", unit: stake.unit, probability: 1 - stake.wrong, lossMinutes: stake.lossMinutes } });
  };

  /** Enters readings that were not taken through the test at hand, all of one moment: together or not at all. */
  const enterReadings = (taken: readonly { readonly reading: Reading; readonly minutes: number }[]): void => {
    const named = namedInTurn(
      taken.map(({ reading }) => reading),
      state.readings.map(({ reading: { id: name } }) => ({ reading: { id: name } })),
    );
    const drafts = named.map((reading, index) => ({ kind: "reading" as const, body: { reading, minutes: taken[index]?.minutes ?? 0 } }));
    enter(...drafts);
  };

  return {
    enterReadings,
    job,
    shop,
    state,
    missing,
    failed,
    retry,
    enter,
    diagnosed,
    ...analysing,
    opening,
    told,
    whyNot,
    passing,
    offered,
    tests,
    test,
    own,
    circuit,
    /** Another circuit than the test's own is drawn. */
    foreign: circuit !== own,
    healthy: test ? (ownScene?.volts ?? analysis?.volts[test.test]) : undefined,
    engineering,
    measured,
    ownScene,
    setOwnScene: (scene: OwnScene | null): void => act({ do: "own", scene }),
    text,
    setText: type,
    selected,
    select: (unit: string): void => act({ do: "select", unit }),
    question: questions.question,
    answer,
    busy: shopComing || computing || questions.pending,
    symptom,
    book: desk.book,
    onShelf,
    shelfSplit: shelfLimits.split,
    setBook: (book: Book): void => act({ do: "book", book }),
    setSymptom: (value: boolean | null): void => act({ do: "symptom", value }),
    choose: (next: string): void => act({ do: "choose", test: next }),
    show: (circuit: string): void => act({ do: "show", circuit }),
    skip: (reason: string): void => {
      if (test === null) return;
      enter({ kind: "skip", body: { test: test.test, reason } });
      act({ do: "skipped" });
    },
    recorded,
    record,
    override,
    take,
    correct,
    readAgain,
    takeBack,
    undo: state.undoable === null ? null : (): void => takeBack(state.undoable as string),
    readInstrument: job?.simulated === true ? readInstrument : null,
    instrumentBusy,
  };
}

export type Bench = ReturnType<typeof useBench>;
