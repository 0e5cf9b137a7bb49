import type { Entry, EntryOf, Value } from "@fox-lamp/language";
import type { Conditions } from "../procedures";
import type { JobReading, JobState, Said } from "./state";

type Mutable<T> = { -readonly [K in keyof T]: T[K] };
type Timed = Pick<Entry, "id" | "at" | "by" | "kind" | "body"> & { readonly seq?: number };

/**
 * Folds entries into the state of a job. Entries are taken in the server's order, those not yet numbered last by their
 * time-ordered ids; retracted and replaced entries are left out. Readings are named r1, r2 ... in the order they were taken.
 */
export function foldJob(entries: readonly Timed[]): JobState {
  const sorted = [...entries].sort((a, b) => (a.seq ?? Number.POSITIVE_INFINITY) - (b.seq ?? Number.POSITIVE_INFINITY) || (a.id < b.id ? -1 : 1)) as (Timed &
    Entry)[];
  const gone = new Set<string>();
  for (const entry of sorted) if (entry.kind === "retraction") gone.add(entry.body.entry);
  const readings = new Map(sorted.flatMap((entry) => (entry.kind === "reading" ? [[entry.id, entry.body] as const] : [])));
  for (const [id, { replaces }] of readings) if (replaces !== undefined && !gone.has(id)) gone.add(replaces);
  const state: Mutable<JobState> = {
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
    circuitEdits: [],
    conditions: {},
    hints: [],
    intermittent: null,
    readings: [],
    skipped: [],
    decisions: [],
    located: [],
    tasks: new Map(),
    repairs: [],
    verifications: [],
    notes: [],
    photos: [],
    closing: null,
    waiting: null,
    assigned: null,
    undoable: null,
  };
  const readingsTaken: JobReading[] = [];
  const tasks = new Map<string, Said<EntryOf<"task">["body"]>>();
  state.tasks = tasks;
  let taken = 0;
  for (const entry of sorted) {
    if (entry.kind === "reading") taken += 1;
    if (gone.has(entry.id)) continue;
    switch (entry.kind) {
      case "complaint":
        state.complaint = entry.body.text;
        state.when = entry.body.when ?? null;
        state.previous = entry.body.previous ?? state.previous;
        state.mileageKm = entry.body.mileageKm ?? state.mileageKm;
        break;
      case "confirmation":
        state.confirmation = saidBy(entry);
        break;
      case "battery":
        state.batteryBefore ??= state.battery;
        state.battery = saidBy(entry);
        break;
      case "code":
        state.codes = [...state.codes.filter(({ code }) => code !== entry.body.code), entry.body];
        break;
      case "cleared":
        state.cleared = saidBy(entry);
        break;
      case "rescan":
        state.rescan = saidBy(entry);
        break;
      case "recording":
        state.recordings = [...state.recordings, saidBy(entry)];
        break;
      case "circuit":
        state.circuitEdits = [...state.circuitEdits, entry.body];
        break;
      case "conditions":
        state.conditions = knownOf(entry.body);
        state.hints = entry.body.hints ?? state.hints;
        state.intermittent = entry.body.intermittent ?? state.intermittent;
        break;
      case "reading": {
        const { reading, minutes = 0 } = entry.body;
        const was = valuesBefore(readings, entry.body.replaces);
        readingsTaken.push({ entry: entry.id, at: entry.at, by: entry.by, minutes, reading: { ...reading, id: reading.id ?? `r${taken}` }, was });
        state.undoable = entry.id;
        break;
      }
      case "skip":
        state.skipped = [...state.skipped, { entry: entry.id, ...entry.body }];
        state.undoable = entry.id;
        break;
      case "decision":
        state.decisions = [...state.decisions, saidBy(entry)];
        break;
      case "located":
        state.located = [...state.located, saidBy(entry)];
        break;
      case "task":
        tasks.set(entry.body.task, saidBy(entry));
        break;
      case "repair":
        state.repairs = [...state.repairs, saidBy(entry)];
        break;
      case "verification":
        state.verifications = [...state.verifications, saidBy(entry)];
        break;
      case "stage":
        state.stage = entry.body.stage;
        break;
      case "closing":
        state.closing = saidBy(entry);
        break;
      case "waiting":
        state.waiting = entry.body.for === null ? null : { for: entry.body.for, text: entry.body.text };
        break;
      case "assigned":
        state.assigned = entry.body;
        break;
      case "photo":
        state.photos = [...state.photos, saidBy(entry)];
        break;
      case "note":
        state.notes = [...state.notes, saidBy(entry)];
        break;
      case "retraction":
        break;
    }
  }
  // A corrected reading stands where the first one stood.
  const order = new Map([...readings.keys()].map((id, index) => [id, index]));
  const placeOf = (id: string): number => order.get(firstOf(readings, id)) ?? 0;
  state.readings = readingsTaken.sort((a, b) => placeOf(a.entry) - placeOf(b.entry));
  return state;
}

/** An entry's body with who said it when. */
function saidBy<B extends object>(entry: { readonly id: string; readonly at: string; readonly by: string; readonly body: B }): Said<B> {
  return { ...entry.body, entry: entry.id, at: entry.at, by: entry.by };
}

type Readings = ReadonlyMap<string, EntryOf<"reading">["body"]>;

/** The entry a chain of corrections started from. */
function firstOf(readings: Readings, id: string): string {
  const before = readings.get(id)?.replaces;
  return before === undefined || !readings.has(before) ? id : firstOf(readings, before);
}

function valuesBefore(readings: Readings, replaced: string | undefined): Value[] {
  const body = replaced === undefined ? undefined : readings.get(replaced);
  return body === undefined ? [] : [...valuesBefore(readings, body.replaces), body.reading.value];
}

function knownOf({ temperature, pressure }: EntryOf<"conditions">["body"]): Conditions {
  return { ...(temperature === undefined ? {} : { temperature }), ...(pressure === undefined ? {} : { pressure }) };
}
