import type { Entry, EntryOf } from "@fox-lamp/language";
import { applyEntry, type JobDraft } from "./entry-kinds";
import type { JobState } from "./state";

type Folded = Pick<Entry, "id" | "at" | "by" | "kind" | "body"> & { readonly seq?: number };

function emptyJob(): JobDraft {
  return {
    stage: "complaint",
    complaint: "",
    when: null,
    previous: null,
    mileageKm: null,
    confirmation: null,
    battery: null,
    batteryBefore: null,
    codes: [],
    cleared: null,
    rescan: null,
    recordings: [],
    captures: [],
    marks: [],
    circuitEdits: [],
    conditions: {},
    hints: [],
    facts: {},
    intermittent: null,
    readings: [],
    skipped: [],
    decisions: [],
    located: [],
    tasks: new Map(),
    failed: new Map(),
    repairs: [],
    verifications: [],
    notes: [],
    photos: [],
    closing: null,
    waiting: null,
    promised: null,
    assigned: null,
    undoable: null,
  };
}

/**
 * Folds entries into the state of a job. Entries are taken in the server's order, those not yet numbered last by their
 * time-ordered ids; retracted and replaced entries are left out; whoever takes a retraction back puts back what it took. Readings are named r1, r2 ... in the order they were taken.
 */
export function foldJob(entries: readonly Folded[]): JobState {
  const inOrder = (a: Folded, b: Folded): number => (a.seq ?? Number.POSITIVE_INFINITY) - (b.seq ?? Number.POSITIVE_INFINITY) || (a.id < b.id ? -1 : 1);
  const sorted = [...entries].sort(inOrder) as (Folded & Entry)[];
  const gone = takenBack(sorted);
  const readings = new Map<string, EntryOf<"reading">["body"]>();
  for (const entry of sorted) {
    if (entry.kind !== "reading") continue;
    // Only what was there before can be replaced: two that name each other replace nobody.
    const { replaces, ...body } = entry.body;
    readings.set(entry.id, replaces !== undefined && readings.has(replaces) ? entry.body : body);
  }
  for (const [id, { replaces }] of readings) if (replaces !== undefined && !gone.has(id)) gone.add(replaces);
  const draft = emptyJob();
  let taken = 0;
  for (const entry of sorted) {
    if (entry.kind === "reading") taken += 1;
    if (!gone.has(entry.id)) applyEntry(draft, entry, { readings, taken });
  }
  // A corrected reading stands where the first one stood.
  const order = new Map([...readings.keys()].map((id, index) => [id, index]));
  const placeOf = (id: string): number => order.get(firstOf(readings, id)) ?? 0;
  draft.readings.sort((a, b) => placeOf(a.entry) - placeOf(b.entry));
  return draft;
}

/** What retractions took back; one that was taken back itself takes nothing. The latest word counts. */
function takenBack(sorted: readonly Entry[]): Set<string> {
  const gone = new Set<string>();
  for (const entry of [...sorted].reverse()) if (entry.kind === "retraction" && !gone.has(entry.id)) gone.add(entry.body.entry);
  return gone;
}

/** The entry a chain of corrections started from. */
function firstOf(readings: ReadonlyMap<string, EntryOf<"reading">["body"]>, id: string): string {
  let first = id;
  for (let before = readings.get(first)?.replaces; before !== undefined; before = readings.get(first)?.replaces) first = before;
  return first;
}
