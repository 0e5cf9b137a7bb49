import type { JobState } from "./state";

/** A pause longer than this is no work on the job: it lay, or somebody went home. Milliseconds. */
const LONGEST_PAUSE_MS = 60 * 60_000;
const MS_A_MINUTE = 60_000;

/**
 * Minutes on the clock from the first reading to the first verdict: the time between entries, pauses of more than an hour left out.
 * @returns null where nothing was read or nothing was proven, and where all of it was entered in one go, as with a file
 */
export function minutesToVerdict({ readings, decisions }: Pick<JobState, "readings" | "decisions">): number | null {
  const verdict = decisions.find(({ decision }) => decision === "proven" || decision === "nothing-found");
  if (verdict === undefined || readings.length === 0) return null;
  const end = Date.parse(verdict.at);
  const moments = readings
    .map(({ at }) => Date.parse(at))
    .filter((at) => at <= end)
    .sort((a, b) => a - b);
  if (moments.length === 0) return null;
  const worked = [...moments, end].reduce((sum, at, index, all) => {
    const pause = index === 0 ? 0 : at - (all[index - 1] ?? at);
    return sum + (pause > LONGEST_PAUSE_MS ? 0 : pause);
  }, 0);
  return worked === 0 ? null : Number((worked / MS_A_MINUTE).toFixed(1));
}
