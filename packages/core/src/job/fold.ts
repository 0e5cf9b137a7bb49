import type { Circuit, Code, Entry, EntryOf, Instrument, Reading, Stage } from "@fox-lamp/language";
import type { Conditions } from "../tests";

/** A reading as it stands in a job, with the entry that holds it. */
export interface JobReading {
  readonly entry: string;
  readonly at: string;
  readonly by: string;
  readonly minutes: number;
  readonly reading: Reading & { readonly id: string };
}

/** What a job is now: a fold over its entries. */
export interface JobState {
  readonly stage: Stage;
  readonly complaint: string;
  readonly when: string | null;
  readonly codes: readonly Code[];
  readonly conditions: Conditions;
  /** What is known of the car's life. */
  readonly hints: readonly string[];
  /** Whether the fault comes and goes; null while nobody has said. */
  readonly intermittent: boolean | null;
  readonly readings: readonly JobReading[];
  readonly skipped: readonly { readonly entry: string; readonly test: string; readonly reason: string }[];
  readonly decisions: readonly EntryOf<"decision">["body"][];
  readonly repairs: readonly string[];
  readonly verifications: readonly string[];
  readonly notes: readonly string[];
  /** The entry that "undo" takes back: the last one that changed the bench. */
  readonly undoable: string | null;
}

type Timed = Pick<Entry, "id" | "at" | "by" | "kind" | "body"> & { readonly seq?: number };

/**
 * Folds entries into the state of a job. Entries are taken in the server's order, those not yet numbered last by their
 * time-ordered ids; retracted and replaced entries are left out. Readings are named r1, r2 ... in the order they were taken.
 */
export function foldJob(entries: readonly Timed[]): JobState {
  const sorted = [...entries].sort((a, b) => (a.seq ?? Number.POSITIVE_INFINITY) - (b.seq ?? Number.POSITIVE_INFINITY) || (a.id < b.id ? -1 : 1)) as (Timed &
    Entry)[];
  const gone = new Set<string>();
  for (const entry of sorted) {
    if (entry.kind === "retraction") gone.add(entry.body.entry);
    if (entry.kind === "reading" && entry.body.replaces !== undefined) gone.add(entry.body.replaces);
  }
  const state = {
    stage: "complaint" as Stage,
    complaint: "",
    when: null as string | null,
    codes: [] as Code[],
    conditions: {} as Conditions,
    hints: [] as readonly string[],
    intermittent: null as boolean | null,
    readings: [] as JobReading[],
    skipped: [] as { entry: string; test: string; reason: string }[],
    decisions: [] as EntryOf<"decision">["body"][],
    repairs: [] as string[],
    verifications: [] as string[],
    notes: [] as string[],
    undoable: null as string | null,
  };
  let taken = 0;
  for (const entry of sorted) {
    if (entry.kind === "reading") taken += 1;
    if (gone.has(entry.id)) continue;
    switch (entry.kind) {
      case "complaint":
        state.complaint = entry.body.text;
        state.when = entry.body.when ?? null;
        break;
      case "code":
        state.codes = [...state.codes.filter(({ code }) => code !== entry.body.code), entry.body];
        break;
      case "conditions":
        state.conditions = knownOf(entry.body);
        state.hints = entry.body.hints ?? state.hints;
        state.intermittent = entry.body.intermittent ?? state.intermittent;
        break;
      case "reading": {
        const { reading, minutes = 0 } = entry.body;
        state.readings.push({ entry: entry.id, at: entry.at, by: entry.by, minutes, reading: { ...reading, id: reading.id ?? `r${taken}` } });
        state.undoable = entry.id;
        break;
      }
      case "skip":
        state.skipped.push({ entry: entry.id, ...entry.body });
        state.undoable = entry.id;
        break;
      case "decision":
        state.decisions.push(entry.body);
        break;
      case "repair":
        state.repairs.push(entry.body.text);
        break;
      case "verification":
        state.verifications.push(entry.body.text);
        break;
      case "stage":
        state.stage = entry.body.stage;
        break;
      case "note":
        state.notes.push(entry.body.text);
        break;
      case "retraction":
        break;
    }
  }
  return state;
}

function knownOf({ temperature, pressure }: EntryOf<"conditions">["body"]): Conditions {
  return { ...(temperature === undefined ? {} : { temperature }), ...(pressure === undefined ? {} : { pressure }) };
}

/** The part of a job the diagnosis is computed from. */
export function diagnosedPart(
  job: { circuits: Circuit[]; bench: Instrument[] | null },
  state: JobState,
): {
  circuits: Circuit[];
  readings: Reading[];
  skipped: string[];
  bench?: Instrument[];
  conditions: Conditions;
  hints: string[];
  codes: Code[];
  intermittent?: boolean;
} {
  return {
    circuits: job.circuits,
    readings: state.readings.map(({ reading }) => reading),
    skipped: state.skipped.map(({ test }) => test),
    conditions: state.conditions,
    hints: [...state.hints],
    codes: [...state.codes],
    ...(state.intermittent === null ? {} : { intermittent: state.intermittent }),
    ...(job.bench === null ? {} : { bench: job.bench }),
  };
}
