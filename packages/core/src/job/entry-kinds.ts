import type { Code, Entry, EntryKind, EntryOf, Value } from "@fox-lamp/language";
import type { Conditions } from "../procedures";
import type { JobReading, JobState, Said } from "./state";

type Mutable<T> = { -readonly [K in keyof T]: T[K] };

/** A job's state while its entries are folded. */
export interface JobDraft
  extends Mutable<
    Omit<
      JobState,
      | "readings"
      | "tasks"
      | "failed"
      | "skipped"
      | "decisions"
      | "located"
      | "repairs"
      | "verifications"
      | "notes"
      | "photos"
      | "recordings"
      | "captures"
      | "marks"
      | "circuitEdits"
      | "codes"
    >
  > {
  readonly readings: JobReading[];
  readonly tasks: Map<string, Said<EntryOf<"task">["body"]>>;
  readonly failed: Map<string, boolean>;
  readonly skipped: JobState["skipped"][number][];
  readonly decisions: Said<EntryOf<"decision">["body"]>[];
  readonly located: Said<EntryOf<"located">["body"]>[];
  readonly repairs: Said<EntryOf<"repair">["body"]>[];
  readonly verifications: Said<EntryOf<"verification">["body"]>[];
  readonly notes: Said<EntryOf<"note">["body"]>[];
  readonly photos: Said<EntryOf<"photo">["body"]>[];
  readonly recordings: Said<EntryOf<"recording">["body"]>[];
  readonly captures: Said<EntryOf<"capture">["body"]>[];
  readonly marks: Said<EntryOf<"mark">["body"]>[];
  readonly circuitEdits: JobState["circuitEdits"][number][];
  codes: Code[];
}

/** What an entry may need to know of the entries beside it. */
export interface Beside {
  /** Bodies of all readings, taken back ones too, by entry. */
  readonly readings: ReadonlyMap<string, EntryOf<"reading">["body"]>;
  /** How many readings were entered up to this entry, taken back ones too. */
  readonly taken: number;
}

type Timed<K extends EntryKind> = Pick<Entry, "id" | "at" | "by"> & { readonly body: EntryOf<K>["body"] };

/** Everything the rules of a job need to know of a kind of entry. */
export interface EntryKindRecord<K extends EntryKind> {
  /** What it changes in the job. */
  readonly apply: (draft: JobDraft, entry: Timed<K>, beside: Beside) => void;
  /** Other entries and attachments it names, under other names. Left out where it names none. */
  readonly renamed?: (body: EntryOf<K>["body"], rename: (id: string) => string) => EntryOf<K>["body"];
  /** Other entries it names, which must be there; attachments are not among them. */
  readonly names?: (body: EntryOf<K>["body"]) => readonly string[];
  /** "Undo" takes it back. */
  readonly undoable?: true;
}

/** An entry's body with who said it when. */
function saidBy<B extends object>({ id, at, by, body }: Pick<Entry, "id" | "at" | "by"> & { readonly body: B }): Said<B> {
  return { ...body, entry: id, at, by };
}

function valuesBefore(readings: Beside["readings"], replaced: string | undefined): Value[] {
  const values: Value[] = [];
  for (let body = readings.get(replaced ?? ""); body !== undefined; body = readings.get(body.replaces ?? "")) values.push(body.reading.value);
  return values.reverse();
}

function knownOf({ temperature, pressure }: EntryOf<"conditions">["body"]): Conditions {
  return { ...(temperature === undefined ? {} : { temperature }), ...(pressure === undefined ? {} : { pressure }) };
}

/** One record for each kind of entry: its name in the schema, and what it means. A missing one does not compile. */
export const ENTRY_RECORDS: { readonly [K in EntryKind]: EntryKindRecord<K> } = {
  complaint: {
    apply: (draft, { body }) => {
      draft.complaint = body.text;
      draft.when = body.when ?? null;
      draft.previous = body.previous ?? draft.previous;
      draft.mileageKm = body.mileageKm ?? draft.mileageKm;
    },
  },
  confirmation: {
    apply: (draft, entry) => {
      draft.confirmation = saidBy(entry);
    },
  },
  battery: {
    apply: (draft, entry) => {
      draft.batteryBefore ??= draft.battery;
      draft.battery = saidBy(entry);
    },
  },
  code: {
    apply: (draft, { body }) => {
      draft.codes = [...draft.codes.filter(({ code }) => code !== body.code), body];
    },
  },
  cleared: {
    apply: (draft, entry) => {
      draft.cleared = saidBy(entry);
    },
  },
  rescan: {
    apply: (draft, entry) => {
      draft.rescan = saidBy(entry);
    },
  },
  recording: {
    apply: (draft, entry) => draft.recordings.push(saidBy(entry)),
    renamed: (body, rename) => ({ ...body, recording: rename(body.recording) }),
  },
  capture: {
    apply: (draft, entry) => {
      // Said again, as known good for one: the last word counts.
      const known = draft.captures.findIndex(({ capture }) => capture === entry.body.capture);
      if (known < 0) draft.captures.push(saidBy(entry));
      else draft.captures[known] = { ...saidBy(entry), at: draft.captures[known]?.at ?? entry.at };
    },
    renamed: (body, rename) => ({ ...body, capture: rename(body.capture) }),
  },
  mark: {
    apply: (draft, entry) => draft.marks.push(saidBy(entry)),
    renamed: (body, rename) => ({ ...body, capture: rename(body.capture) }),
  },
  circuit: { apply: (draft, { body }) => draft.circuitEdits.push(body) },
  conditions: {
    apply: (draft, { body }) => {
      draft.conditions = knownOf(body);
      draft.hints = body.hints ?? draft.hints;
      draft.facts = body.facts ?? draft.facts;
      draft.intermittent = body.intermittent ?? draft.intermittent;
    },
  },
  reading: {
    apply: (draft, { id, at, by, body }, { readings, taken }) => {
      const { reading, minutes = 0 } = body;
      // What the fold made of it: only what was there before can be replaced.
      const replaces = readings.get(id)?.replaces;
      draft.readings.push({ entry: id, at, by, minutes, reading: { ...reading, id: reading.id ?? `r${taken}` }, was: valuesBefore(readings, replaces) });
    },
    renamed: (body, rename) => {
      const { capture } = body.reading;
      const reading = capture === undefined ? body.reading : { ...body.reading, capture: { ...capture, id: rename(capture.id) } };
      return { ...body, reading, ...(body.replaces === undefined ? {} : { replaces: rename(body.replaces) }) };
    },
    names: ({ replaces }) => (replaces === undefined ? [] : [replaces]),
    undoable: true,
  },
  skip: {
    apply: (draft, { id, body }) => draft.skipped.push({ entry: id, ...body }),
    undoable: true,
  },
  decision: { apply: (draft, entry) => draft.decisions.push(saidBy(entry)) },
  located: { apply: (draft, entry) => draft.located.push(saidBy(entry)) },
  task: { apply: (draft, entry) => draft.tasks.set(entry.body.task, saidBy(entry)) },
  repair: {
    apply: (draft, entry) => draft.repairs.push(saidBy(entry)),
    renamed: (body, rename) => (body.photo === undefined ? body : { ...body, photo: rename(body.photo) }),
  },
  verification: {
    apply: (draft, entry) => draft.verifications.push(saidBy(entry)),
    renamed: (body, rename) => (body.of === undefined ? body : { ...body, of: rename(body.of) }),
    names: ({ of }) => (of === undefined ? [] : [of]),
  },
  failed: {
    apply: (draft, { body }) => draft.failed.set(body.reading, body.failed),
    renamed: (body, rename) => ({ ...body, reading: rename(body.reading) }),
    names: ({ reading }) => [reading],
  },
  closing: {
    apply: (draft, entry) => {
      draft.closing = saidBy(entry);
    },
  },
  waiting: {
    apply: (draft, { at, body }) => {
      // Who said it again waits since the first time.
      const since = draft.waiting?.for === body.for ? draft.waiting.since : at;
      draft.waiting = body.for === null ? null : { for: body.for, text: body.text, since };
    },
  },
  promised: {
    apply: (draft, { body }) => {
      draft.promised = body.at;
    },
  },
  assigned: {
    apply: (draft, { body }) => {
      draft.assigned = body;
    },
  },
  photo: {
    apply: (draft, entry) => draft.photos.push(saidBy(entry)),
    renamed: (body, rename) => ({ ...body, photo: rename(body.photo) }),
  },
  stage: {
    apply: (draft, { body }) => {
      draft.stage = body.stage;
    },
  },
  note: { apply: (draft, entry) => draft.notes.push(saidBy(entry)) },
  retraction: {
    apply: () => undefined,
    renamed: ({ entry }, rename) => ({ entry: rename(entry) }),
    names: ({ entry }) => [entry],
  },
};

/** A kind's record, for an entry whose kind is known only when it runs. */
function recordOf<K extends EntryKind>(kind: K): EntryKindRecord<K> {
  return ENTRY_RECORDS[kind];
}

/** Folds one entry into a job. */
export function applyEntry<K extends EntryKind>(draft: JobDraft, entry: Timed<K> & { readonly kind: K }, beside: Beside): void {
  const { apply, undoable } = recordOf(entry.kind);
  apply(draft, entry, beside);
  if (undoable) draft.undoable = entry.id;
}

/** An entry with the entries and attachments it names under other names. */
export function renameIn<K extends EntryKind>(entry: EntryOf<K>, rename: (id: string) => string): EntryOf<K> {
  const { renamed } = recordOf(entry.kind);
  return { ...entry, id: rename(entry.id), ...(renamed === undefined ? {} : { body: renamed(entry.body, rename) }) };
}

/** The other entries an entry names, which must be there. */
export function namedBy<K extends EntryKind>({ kind, body }: EntryOf<K>): readonly string[] {
  return recordOf(kind).names?.(body) ?? [];
}
