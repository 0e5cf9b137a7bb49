import type { JobState } from "./state";

type TakenCapture = JobState["captures"][number];

/** A capture that showed trouble before a repair, and the one that was taken of the same channels since; null while there is none. */
export interface CaptureAgain {
  readonly before: TakenCapture;
  readonly after: TakenCapture | null;
}

/** Captures that are due again after a repair: the ones in which something stood out, each with its latest repetition. */
export function capturesAgain({ captures, repairs }: Pick<JobState, "captures" | "repairs">): CaptureAgain[] {
  const repaired = repairs.at(-1)?.at;
  if (repaired === undefined) return [];
  const since = captures.filter(({ at }) => at > repaired);
  const shown = captures.filter(({ at, findings, known }) => at <= repaired && findings.length > 0 && known !== true);
  // Of several of the same channels the last one counts.
  const before = new Map(shown.map((one) => [[...one.channels].sort().join(" "), one]));
  return [...before.values()].map((one) => ({
    before: one,
    after: since.filter(({ channels }) => one.channels.every((channel) => channels.includes(channel))).at(-1) ?? null,
  }));
}
