import type { Analysis, CircuitView, JobReading, JobState } from "@fox-lamp/core";
import { type Reading, unitOfReading, type Value } from "@fox-lamp/language";
import { namedInTurn, nextName } from "../../app/reading-names";
import type { useEnter } from "../../app/use-job";
import { readingTitle, valueText, within } from "../../circuit/wording";
import { messages } from "../../messages";
import { toast } from "../../ui/toast";

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

/** What is entered besides the reading at hand: corrections, readings of one moment, what was decided. @param analysis null while there is none */
export function enteringOf(enter: ReturnType<typeof useEnter>, state: JobState, analysis: Analysis | null) {
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

  return { correct, readAgain, takeBack, recorded, record, override, enterReadings };
}
