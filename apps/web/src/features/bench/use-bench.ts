import { type CircuitView, diagnosedPart, type JobReading, measurementOf, type SceneVolts } from "@fox-lamp/core";
import {
  circuitOfUnit,
  type Expect,
  isWordMeter,
  type NextTest,
  parsePoint,
  printShorthand,
  type Reading,
  type Setup,
  unitOfReading,
  type Value,
} from "@fox-lamp/language";
import { useMemo, useState } from "react";
import { reasonOf, useReadInstrumentsMutation, useShopQuery } from "../../app/api";
import { nextName, useEnter, useJob } from "../../app/use-job";
import { useAnalysis, useTold, useWhyNot } from "../../circuit/use-analysis";
import { messages } from "../../messages";
import { toast } from "../../ui/toast";
import { useSlipQuestions } from "./use-slip-questions";

/** A test with its value as a reading of the language. */
function readingOf(test: NextTest, value: Value, id: string, unit?: string): Reading & { id: string } {
  return { ...measurementOf(test), id, value, ...(unit === undefined ? {} : { unit }) };
}

/** What a reading must share with a test for its volts to be written on the same drawing: key and plugs, nothing added. */
function setupKey({ key = "on", open = [], add = [] }: Setup): string {
  return JSON.stringify([key, [...open].sort(), add]);
}

/** A test chosen freely, with what the drawing shows for it. */
export interface OwnScene {
  readonly test: NextTest;
  readonly engineering: Expect | null;
  readonly volts: SceneVolts;
}

/** A number as it would be typed. */
function typedText(value: Value): string {
  if (typeof value === "number") return printShorthand(value, 4);
  if (typeof value === "string") return value;
  return `${printShorthand(value.min, 4)} to ${printShorthand(value.max, 4)}`;
}

/** Everything the bench knows and can do. */
export function useBench(id: string) {
  const { job, state, missing, failed, retry } = useJob(id);
  const { data: shop } = useShopQuery();
  const enter = useEnter(id);
  const diagnosed = useMemo(() => (job ? diagnosedPart(job, state, shop?.settings ?? null) : null), [job, state, shop]);
  const analysing = useAnalysis(diagnosed);
  const { analysis, computing } = analysing;
  const [chosen, setChosen] = useState<string | null>(null);
  const [ownScene, setOwnScene] = useState<OwnScene | null>(null);
  const [text, setText] = useState("");
  const [selected, setSelected] = useState<string | null>(null);
  // What is typed belongs to the test it was typed for, whatever the advice thinks of meanwhile.
  const [typedFor, setTypedFor] = useState<NextTest | null>(null);
  const [focus, setFocus] = useState<string | null>(null);
  const [symptom, setSymptom] = useState<boolean | null>(null);
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
  const test = ownScene?.test ?? typedFor ?? tests.find((candidate) => candidate.test === chosen) ?? tests[0] ?? null;
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

  const type = (next: string): void => {
    setText(next);
    setTypedFor((before) => (next === "" ? null : (before ?? test)));
  };
  const leave = (): void => {
    setSelected(null);
    type("");
    setChosen(null);
    setOwnScene(null);
  };
  /** The reading as it will be entered, what was said of the complaint included: it is weighed once, now and as entered. */
  const readingNow = (value: Value, unit?: string): (Reading & { id: string }) | null =>
    test && { ...readingOf(test, value, nextName(state.readings), unit), ...(passing && symptom !== null ? { symptom } : {}) };
  /** Enters a reading, before anything judges it: nothing that was typed can be lost. Whether it fits is asked about afterwards. */
  const take = (value: Value, unit?: string): void => {
    const reading = readingNow(value, unit);
    if (!test || reading === null) return;
    const [entry] = enter({ kind: "reading", body: { reading, minutes: test.minutes } });
    if (entry === undefined) return;
    questions.judge({ entry, name: reading.id, test: test.test, value, unit: unit ?? unitOfReading(test) });
    setSymptom(null);
    leave();
  };
  /** Reads the test at hand from the connected instrument: numbers go into the field, words are taken. */
  const readInstrument = async (): Promise<void> => {
    if (!test) return;
    const answer = await readInstruments({ job: id, measurements: [measurementOf(test)] });
    if ("error" in answer) {
      toast.error(reasonOf(answer.error) ?? messages.bench.instrumentFailed);
      return;
    }
    const value = answer.data.values[0];
    if (value === undefined) return;
    if (isWordMeter(test.meter)) take(value);
    else type(typedText(value));
  };

  /** Corrects a reading; what it was stays in the record. */
  const correct = (taken: JobReading, value: Value, unit?: string): void => {
    const { was: _was, ...kept } = taken;
    const reading: Reading = { ...kept.reading, value, ...(unit === undefined ? {} : { unit }) };
    enter({ kind: "reading", body: { reading, minutes: taken.minutes, replaces: taken.entry } });
  };
  const takeBack = (entry: string): void => void enter({ kind: "retraction", body: { entry } });

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
    setChosen(asked.test);
  };

  /** Enters a reading that was not taken through the test at hand. */
  const enterReading = (reading: Reading, minutes: number): void =>
    void enter({ kind: "reading", body: { reading: { ...reading, id: nextName(state.readings) }, minutes } });

  return {
    enterReading,
    job,
    shop,
    state,
    missing,
    failed,
    retry,
    enter,
    diagnosed,
    ...analysing,
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
    engineering: ownScene ? (ownScene.engineering ?? undefined) : test ? analysis?.engineering[test.test] : undefined,
    measured,
    ownScene,
    setOwnScene,
    text,
    setText: type,
    selected,
    setSelected,
    select: (unit: string): void => setSelected(unit === selected ? null : unit),
    question: questions.question,
    answer,
    busy: computing || questions.pending,
    symptom,
    setSymptom,
    choose: (next: string): void => {
      setChosen(next);
      setOwnScene(null);
      type("");
    },
    show: (next: string): void => {
      type("");
      setFocus(next);
      setSelected(null);
      setChosen(null);
      setOwnScene(null);
    },
    skip: (reason: string): void => {
      if (test === null) return;
      enter({ kind: "skip", body: { test: test.test, reason } });
      leave();
    },
    take,
    correct,
    takeBack,
    undo: state.undoable === null ? null : (): void => takeBack(state.undoable as string),
    readInstrument: job?.simulated === true ? readInstrument : null,
    instrumentBusy,
  };
}

export type Bench = ReturnType<typeof useBench>;
