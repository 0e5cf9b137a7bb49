import type { JobReading, JobState } from "./state";

const MOST_REPEATED = 3;

const listed = (decision: JobState["decisions"][number], name: string): unknown[] => (Array.isArray(decision[name]) ? (decision[name] as unknown[]) : []);

/** Whether a reading can be taken again the same way. */
export function canRepeat({ reading }: JobReading): boolean {
  return reading.meter !== "look" && reading.meter !== "gauge";
}

/**
 * The tests to repeat once it is repaired: of every verdict the readings that prove it and were outside their window, else those it rests
 * on; what somebody added by hand or crossed out counts before that. A reading that was outside and proves nothing is none of them.
 */
export function failedReadings(state: JobState): JobState["readings"] {
  const wanted = new Set<string>();
  for (const decision of state.decisions) {
    const [failed, because] = [listed(decision, "failed"), listed(decision, "because")];
    const both = because.filter((id) => failed.includes(id));
    const own = both.length > 0 ? both : because.length > 0 ? because : failed;
    const shown = state.readings.filter((taken) => own.includes(taken.reading.id) && canRepeat(taken));
    for (const { entry } of shown.slice(0, MOST_REPEATED)) wanted.add(entry);
  }
  return state.readings.filter(({ entry }) => state.failed.get(entry) ?? wanted.has(entry));
}

/** Something that is not as it should be although the work is done: a test that fails again, or codes that came back. */
export type StillOutside =
  | { readonly kind: "test"; readonly entry: string; readonly reading: string; readonly circuit: string | undefined }
  | { readonly kind: "codes"; readonly codes: readonly string[] };

/** What is still outside after the repair, as far as it was looked at. */
export function stillOutside(state: JobState): readonly StillOutside[] {
  const lastOf = (entry: string) => state.verifications.filter(({ of }) => of === entry).at(-1);
  const tests = state.readings.flatMap(({ entry, reading }): StillOutside[] =>
    lastOf(entry)?.fits === false ? [{ kind: "test", entry, reading: reading.id, circuit: reading.circuit }] : [],
  );
  const { stayed, fresh } = codesAfter(state);
  const codes = [...stayed, ...fresh];
  return codes.length === 0 ? tests : [...tests, { kind: "codes", codes }];
}

/** What became of the codes: those that are gone, those that stayed, those of them that were foreseen to, and those that are new. */
export interface CodesAfter {
  readonly asked: boolean;
  readonly gone: readonly string[];
  readonly stayed: readonly string[];
  readonly foreseen: readonly string[];
  readonly fresh: readonly string[];
}

/** Codes before and after: nothing is said of them before the module was asked again. */
export function codesAfter(state: JobState): CodesAfter {
  const { cleared, rescan } = state;
  if (cleared === null || rescan === null || rescan.at < cleared.at) return { asked: false, gone: [], stayed: [], foreseen: [], fresh: [] };
  const before = state.codes.map(({ code }) => code);
  const after = rescan.codes.map(({ code }) => code);
  const stayed = before.filter((code) => after.includes(code));
  const unexplained = state.decisions.flatMap((decision) => listed(decision, "unexplained"));
  return {
    asked: true,
    gone: before.filter((code) => !after.includes(code)),
    stayed,
    foreseen: stayed.filter((code) => unexplained.includes(code)),
    fresh: after.filter((code) => !before.includes(code)),
  };
}
