import type { Battery, Circuit, Code, EntryOf, Facts, Outcome, Reading, Stage, Value, Wait } from "@fox-lamp/language";
import type { Conditions } from "../procedures";

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

/** What an entry says, with which entry it is, when and by whom. */
export type Said<T> = T & { readonly entry: string; readonly at: string; readonly by: string };

/** A circuit put on the job's sheet, changed, or taken off it. */
export type CircuitEdit = EntryOf<"circuit">["body"];

/** What a job is now: a fold over its entries. */
export interface JobState {
  readonly stage: Stage;
  readonly complaint: string;
  readonly when: string | null;
  /** What was already replaced or worked on. */
  readonly previous: string | null;
  readonly mileageKm: number | null;
  /** Whether the complaint was there when looked for; null while nobody has looked. */
  readonly confirmation: Said<EntryOf<"confirmation">["body"]> | null;
  /** The battery as last measured. */
  readonly battery: Said<Battery> | null;
  /** The battery as first measured, where that was another time. */
  readonly batteryBefore: Said<Battery> | null;
  /** Codes as saved before anything was cleared. */
  readonly codes: readonly Code[];
  readonly cleared: Said<EntryOf<"cleared">["body"]> | null;
  /** What the module stored when it was asked again, the last time. */
  readonly rescan: Said<EntryOf<"rescan">["body"]> | null;
  readonly recordings: readonly Said<EntryOf<"recording">["body"]>[];
  readonly captures: readonly Said<EntryOf<"capture">["body"]>[];
  readonly marks: readonly Said<EntryOf<"mark">["body"]>[];
  readonly circuitEdits: readonly CircuitEdit[];
  readonly conditions: Conditions;
  /** What is known of the car's life. */
  readonly hints: readonly string[];
  /** What is known of the car besides readings. */
  readonly facts: Facts;
  /** Whether the fault comes and goes; null while nobody has said. */
  readonly intermittent: boolean | null;
  readonly readings: readonly JobReading[];
  readonly skipped: readonly { readonly entry: string; readonly test: string; readonly reason: string }[];
  readonly decisions: readonly Said<EntryOf<"decision">["body"]>[];
  readonly located: readonly Said<EntryOf<"located">["body"]>[];
  /** Tasks answered so far, by their name; the last answer counts. */
  readonly tasks: ReadonlyMap<string, Said<EntryOf<"task">["body"]>>;
  /** Tests that somebody said are to be repeated after the repair, or are not; by the entry of their reading. */
  readonly failed: ReadonlyMap<string, boolean>;
  readonly repairs: readonly Said<EntryOf<"repair">["body"]>[];
  readonly verifications: readonly Said<EntryOf<"verification">["body"]>[];
  readonly notes: readonly Said<EntryOf<"note">["body"]>[];
  readonly photos: readonly Said<EntryOf<"photo">["body"]>[];
  readonly closing: Said<EntryOf<"closing">["body"]> | null;
  readonly waiting: { readonly for: Wait; readonly text?: string | undefined; readonly since: string } | null;
  /** When the customer gets the vehicle; null where nothing is promised. */
  readonly promised: string | null;
  readonly assigned: EntryOf<"assigned">["body"] | null;
  /** The entry that "undo" takes back: the last one that changed the bench. */
  readonly undoable: string | null;
}

/** How the job ended; null while it is open. */
export function outcomeOf(state: Pick<JobState, "closing" | "stage">): Outcome | null {
  return state.stage === "closed" ? (state.closing?.outcome ?? null) : null;
}

/** The circuits on a job's sheet: those it started with, as edited since. */
export function circuitsOf(start: readonly Circuit[], { circuitEdits }: Pick<JobState, "circuitEdits">): Circuit[] {
  let circuits = [...start];
  for (const edit of circuitEdits) {
    if ("remove" in edit) circuits = circuits.filter(({ id }) => id !== edit.remove);
    else if (circuits.some(({ id }) => id === edit.circuit.id)) circuits = circuits.map((circuit) => (circuit.id === edit.circuit.id ? edit.circuit : circuit));
    else circuits.push(edit.circuit);
  }
  return circuits;
}

/** What a job is called: its circuits, or what it lacks. */
export function titleOfJob(circuits: readonly Circuit[]): string {
  return circuits.map((circuit) => circuit.title ?? circuit.id).join(", ");
}
