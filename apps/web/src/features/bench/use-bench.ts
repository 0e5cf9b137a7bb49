import { measurementOf } from "@fox-lamp/core";
import { isWordMeter, type Reading, unitOfReading, type Value } from "@fox-lamp/language";
import { useEffect, useMemo, useReducer } from "react";
import { reasonOf, useReadInstrumentsMutation } from "../../app/api";
import { nextName } from "../../app/reading-names";
import { useEnter } from "../../app/use-job";
import { useShelfLimits } from "../../app/use-shelf-limits";
import { useAnalysis, useOpening, useTold, useWhyNot } from "../../circuit/use-analysis";
import { messages } from "../../messages";
import { toast } from "../../ui/toast";
import { type Book, deskAfter, keepDesk, keptDesk, type OwnScene, testAtHand } from "./desk";
import { enteringOf } from "./entering";
import { useForesight } from "./entry/use-foresight";
import { useSlipQuestions } from "./entry/use-slip-questions";
import { limitsOf, readingOf, typedText } from "./reading-at-hand";
import { circuitsShown, voltsMeasured } from "./shown";
import { useBenchJob } from "./use-bench-job";

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
  const { ofTest, drawn } = circuitsShown(analysis, test, desk);
  const measured = useMemo(() => voltsMeasured(state.readings, test?.setup ?? {}, drawn?.id), [state.readings, drawn?.id, test]);
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
  const entering = enteringOf(enter, state, analysis);
  /** What was said to the question whether a reading fits: it was another value, it is taken back and measured again, or it stays. */
  const answer = (said: { readonly was: Value } | "again" | "keep"): void => {
    const asked = questions.question;
    questions.close();
    if (asked === null || said === "keep") return;
    const taken = state.readings.find(({ entry }) => entry === asked.entry);
    if (taken === undefined) return;
    if (said !== "again") {
      entering.correct(taken, said.was);
      return;
    }
    entering.takeBack(asked.entry);
    act({ do: "choose", test: asked.test });
  };

  return {
    ...entering,
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
    own: ofTest,
    circuit: drawn,
    /** Another circuit than the test's own is drawn. */
    foreign: drawn !== ofTest,
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
    take,
    undo: state.undoable === null ? null : (): void => entering.takeBack(state.undoable as string),
    readInstrument: job?.simulated === true ? readInstrument : null,
    instrumentBusy,
  };
}

export type Bench = ReturnType<typeof useBench>;
