import type { DiagnosedJob } from "@fox-lamp/core";
import { isWordMeter, type NextTest, type Reading, type Value } from "@fox-lamp/language";
import { useMemo } from "react";
import { valueTyped, wordsOf } from "../../../circuit/typed";
import { useAhead } from "../../../circuit/use-ahead";
import type { Desk } from "../desk";

/** What is at hand while nothing of it is entered. */
interface AtHand {
  /** The job as it is diagnosed, its analysis there; null while it is not. */
  readonly job: DiagnosedJob | null;
  readonly test: NextTest | null;
  readonly desk: Pick<Desk, "text" | "book" | "symptom">;
  /** A further unit the value may be typed in. */
  readonly also: string | undefined;
  /** A value as it would be entered. */
  readonly readingNow: (value: Value, unit?: string) => Reading | null;
}

/** What would be entered next, as far as that is known: what stands in the field, or each of the words a test is answered with. */
export function jobsAhead({ job, test, desk: { text }, also, readingNow }: AtHand): readonly DiagnosedJob[] {
  if (job === null || test === null) return [];
  const typed = text === "" ? null : valueTyped(text, test, also);
  const values = isWordMeter(test.meter) ? wordsOf(test).map((value) => ({ value, unit: undefined })) : typed?.ok === true ? [typed] : [];
  return values.flatMap(({ value, unit }) => {
    const reading = readingNow(value, unit);
    return reading === null ? [] : [{ ...job, readings: [...(job.readings ?? []), reading] }];
  });
}

/** Has the advice after the reading at hand worked out while somebody still looks at the meter. */
export function useForesight(atHand: AtHand): void {
  const { job, test, desk, also } = atHand;
  // biome-ignore lint/correctness/useExhaustiveDependencies: how a value is entered follows from these
  const ahead = useMemo(() => jobsAhead(atHand), [job, test, desk, also]);
  useAhead(ahead);
}
