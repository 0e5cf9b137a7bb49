import type { JobReading } from "@fox-lamp/core";
import type { Diagnosis, Value } from "@fox-lamp/language";
import { useState } from "react";

/** A reading that was entered and is yet to be judged: whether it fits is asked about once the analysis has it. */
export interface Judging {
  readonly entry: string;
  readonly name: string;
  readonly test: string;
  readonly value: Value;
  readonly unit: string;
}

/** A reading that was entered and does not fit. */
export interface Question extends Judging {
  readonly doubt: Diagnosis["doubtful"][number];
}

/** What the analysis says of the readings, and whether anybody may be asked now. */
interface Judged {
  readonly readings: readonly Pick<JobReading, "entry">[];
  /** null while it is computed. */
  readonly doubtful: Diagnosis["doubtful"] | null;
  /** Something stands in the entry field: a question would take the next key. */
  readonly typing: boolean;
}

/** Asks about readings that do not fit, one after the other, in the order they were taken, and never into somebody's typing. */
export function useSlipQuestions({ readings, doubtful, typing }: Judged) {
  const [judging, setJudging] = useState<readonly Judging[]>([]);
  const [question, setQuestion] = useState<Question | null>(null);
  // Settled while it is drawn, so that an advice and the question beside it come in one picture.
  if (doubtful !== null && !typing && question === null && judging.length > 0) {
    // Somebody may have taken one back meanwhile, or a later reading may have settled it.
    const open = judging.flatMap((reading): Question[] => {
      const doubt = doubtful.find((candidate) => candidate.reading === reading.name);
      return doubt && readings.some(({ entry }) => entry === reading.entry) ? [{ ...reading, doubt }] : [];
    });
    const [next, ...rest] = open;
    setJudging(rest);
    setQuestion(next ?? null);
  }
  return {
    question,
    /** Readings wait for the analysis, and nobody types. */
    pending: judging.length > 0 && !typing,
    judge: (reading: Judging): void => setJudging((before) => [...before, reading]),
    close: (): void => setQuestion(null),
  };
}
