import type { Circuit, Code, Entry, EntryOf, Instrument, Reading, ShopSettings, Stage, Value } from "@fox-lamp/language";
import { INSTRUMENTS } from "@fox-lamp/language";
import type { Conditions } from "../tests";

/** A reading as it stands in a job, with the entry that holds it. */
export interface JobReading {
  readonly entry: string;
  readonly at: string;
  readonly by: string;
  readonly minutes: number;
  readonly reading: Reading & { readonly id: string };
  /** Values it had before it was corrected, the first one first. */
  readonly was: readonly Value[];
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
  for (const entry of sorted) if (entry.kind === "retraction") gone.add(entry.body.entry);
  const readings = new Map(sorted.flatMap((entry) => (entry.kind === "reading" ? [[entry.id, entry.body] as const] : [])));
  for (const [id, { replaces }] of readings) if (replaces !== undefined && !gone.has(id)) gone.add(replaces);
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
        const was = valuesBefore(readings, entry.body.replaces);
        state.readings.push({ entry: entry.id, at: entry.at, by: entry.by, minutes, reading: { ...reading, id: reading.id ?? `r${taken}` }, was });
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
  // A corrected reading stands where the first one stood.
  const order = new Map([...readings.keys()].map((id, index) => [id, index]));
  const placeOf = (id: string): number => order.get(firstOf(readings, id)) ?? 0;
  state.readings.sort((a, b) => placeOf(a.entry) - placeOf(b.entry));
  return state;
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

/** The part of a job the diagnosis is computed from. @param settings what the shop has decided; the job's own list of tools wins */
export function diagnosedPart(
  job: { circuits: Circuit[]; bench: Instrument[] | null },
  state: JobState,
  settings: ShopSettings | null = null,
): {
  circuits: Circuit[];
  readings: Reading[];
  skipped: string[];
  bench?: Instrument[];
  policy?: Record<string, unknown>;
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
    ...(settings === null ? {} : { policy: { ...settings.policy, moneyPerHour: settings.moneyPerHour } }),
    ...benchOf(job.bench, settings),
  };
}

/** Tools at hand: the job's own list, else the shop's; nothing said where all are there. A shop that never pierces has no piercing probe. */
function benchOf(own: Instrument[] | null, settings: ShopSettings | null): { bench?: Instrument[] } {
  const listed = own ?? settings?.bench ?? null;
  if (settings?.policy.piercing !== "never") return listed === null ? {} : { bench: listed };
  return { bench: (listed ?? INSTRUMENTS).filter((tool) => tool !== "pierce") };
}
