import type { CarriedCapture, Circuit, Code, Entry, Instrument, JobFile, NewEntry, Simulated, Stage, Vehicle } from "@fox-lamp/language";
import { carriedCaptureSchema, circuitsSchema, leftOpenSchema, newEntrySchema, OUTCOMES, parseOrThrow, STAGES } from "@fox-lamp/language";
import { z } from "zod";
import { renameIn } from "./entry-kinds";
import { foldJob } from "./fold";
import { circuitsOf, titleOfJob } from "./state";

/** A job file taken apart: what describes the job, and what happened in it. */
export interface TakenApart {
  readonly title: string;
  readonly vehicle: Vehicle;
  readonly bench: Instrument[] | null;
  readonly circuits: Circuit[];
  /** The virtual car behind the job; null for a real one. */
  readonly simulated: Simulated | null;
  readonly entries: NewEntry[];
  /** Photos and recordings by the ids the entries name. */
  readonly photos: NonNullable<JobFile["photos"]>;
  readonly recordings: Readonly<Record<string, unknown>>;
  /** Captures, as the file carries them, under new ids. */
  readonly captures: readonly CarriedCapture[];
}

/** Where ids, times and names of entries come from; the core has no clock and no randomness of its own. */
export interface EntryMaker {
  readonly id: () => string;
  readonly at: (minutes: number) => string;
  readonly by: string;
}

const closingSchema = z.object({
  outcome: z.enum(OUTCOMES),
  text: z.string().optional(),
  plan: z.string().optional(),
  despite: z.string().optional(),
  left: leftOpenSchema.optional(),
});

type Draft = { [K in NewEntry["kind"]]: { kind: K; body: Extract<NewEntry, { kind: K }>["body"] } }[NewEntry["kind"]];

function textOf(value: unknown): string {
  if (typeof value === "string") return value;
  if (typeof value === "object" && value !== null && "text" in value) return String((value as { text: unknown }).text);
  return JSON.stringify(value);
}

/** What of a job is not in its entries. */
export interface JobHeader {
  readonly vehicle: Vehicle;
  readonly bench: Instrument[] | null;
  /** The circuits it started with; entries edit them. */
  readonly circuits: readonly Circuit[];
  readonly simulated: Simulated | null;
}

/**
 * A job as a file that any reader of `job@1` understands, with all its entries besides, so that nothing is lost.
 * @param attachments photos and recordings by their ids, captures with theirs
 */
export function fileOfJob(header: JobHeader, entries: readonly Entry[], attachments: Pick<JobFile, "photos" | "recordings" | "captures"> = {}): JobFile {
  const state = foldJob(entries);
  const { temperature, pressure, position } = state.conditions;
  const conditions = {
    ...(temperature === undefined ? {} : { temperature }),
    ...(pressure === undefined ? {} : { pressure }),
    ...(position === undefined ? {} : { position }),
  };
  const plain = ({ job: _job, seq: _seq, person: _person, imported: _imported, ...entry }: Entry): NewEntry => entry as NewEntry;
  return {
    format: "fox-lamp/job@1",
    vehicle: header.vehicle,
    complaint: state.complaint,
    ...(state.when === null ? {} : { when: state.when }),
    codes: [...state.codes],
    ...(header.bench === null ? {} : { bench: header.bench }),
    ...(state.hints.length > 0 ? { hints: [...state.hints] } : {}),
    ...(Object.keys(state.facts).length > 0 ? { facts: state.facts } : {}),
    ...(state.intermittent === null ? {} : { intermittent: state.intermittent }),
    ...(Object.keys(conditions).length > 0 ? { conditions } : {}),
    ...(header.simulated === null ? {} : { simulated: header.simulated }),
    stage: state.stage,
    circuits: circuitsOf(header.circuits, state),
    startedWith: header.circuits,
    readings: state.readings.map(({ reading, minutes, at, by }) => ({ ...reading, at: reading["at"] ?? at, by: reading["by"] ?? by, minutes })),
    decisions: state.decisions.map(({ entry: _entry, ...decision }) => decision),
    repairs: state.repairs.map(({ entry: _entry, ...repair }) => repair),
    verifications: state.verifications.map(({ entry: _entry, ...verification }) => verification),
    entries: entries.map(plain),
    ...attachments,
  };
}

/** The entries of a file that carries them, under new ids; what refers to an entry or an attachment follows. */
function carriedEntries(file: JobFile, maker: EntryMaker): Pick<TakenApart, "entries" | "photos" | "recordings" | "captures"> {
  const given = (file.entries ?? []).map((entry, index) => parseOrThrow(newEntrySchema, entry, `entries[${index}]`));
  const { photos = {}, recordings = {} } = file;
  const carried = (file.captures ?? []).map((capture, index) => parseOrThrow(carriedCaptureSchema, capture, `captures[${index}]`));
  const names = [...given.map(({ id }) => id), ...Object.keys(photos), ...Object.keys(recordings), ...carried.map(({ id }) => id)];
  const ids = new Map(names.map((id) => [id, maker.id()]));
  const renamed = (id: string): string => ids.get(id) ?? id;
  const underNew = <T>(kept: Readonly<Record<string, T>>): Record<string, T> =>
    Object.fromEntries(Object.entries(kept).map(([id, value]) => [renamed(id), value]));
  const entries = given.map((entry) => renameIn(entry, renamed) as NewEntry);
  const captures = carried.map((capture) => ({ ...capture, id: renamed(capture.id) }));
  return { entries, photos: underNew(photos), recordings: underNew(recordings), captures };
}

/**
 * Turns a checked job file into a job's header and its entries: those it carries, else one for everything the file records.
 * @throws BadInput for an entry that cannot be
 */
export function takeApart(file: JobFile, maker: EntryMaker): TakenApart {
  const vehicle: Vehicle = typeof file.vehicle === "string" ? { name: file.vehicle } : (file.vehicle ?? {});
  const header = { vehicle, bench: file.bench ?? null, simulated: file.simulated ?? null };
  if (file.entries !== undefined) {
    const started = file["startedWith"] ?? file.circuits;
    const circuits = Array.isArray(started) && started.length === 0 ? [] : parseOrThrow(circuitsSchema, started, "startedWith");
    return { ...header, title: titleOfJob(file.circuits), circuits, ...carriedEntries(file, maker) };
  }
  const drafts: Draft[] = [];
  if (file.complaint) drafts.push({ kind: "complaint", body: { text: file.complaint, ...(typeof file["when"] === "string" ? { when: file["when"] } : {}) } });
  for (const code of file.codes ?? []) drafts.push({ kind: "code", body: code as Code });
  const conditions = file["conditions"];
  const known = typeof conditions === "object" && conditions !== null ? (conditions as { temperature?: number }) : {};
  const said = {
    ...known,
    ...(file.hints === undefined ? {} : { hints: file.hints }),
    ...(file.facts === undefined ? {} : { facts: file.facts }),
    ...(file.intermittent === undefined ? {} : { intermittent: file.intermittent }),
  };
  if (Object.keys(said).length > 0) drafts.push({ kind: "conditions", body: said });
  for (const reading of file.readings ?? []) {
    const minutes = typeof reading["minutes"] === "number" ? { minutes: reading["minutes"] } : {};
    drafts.push({ kind: "reading", body: { reading, ...minutes } });
  }
  for (const decision of file.decisions ?? []) {
    drafts.push({
      kind: "decision",
      body: typeof decision === "object" && decision !== null && "decision" in decision ? (decision as { decision: string }) : { decision: textOf(decision) },
    });
  }
  for (const repair of file.repairs ?? []) drafts.push({ kind: "repair", body: { text: textOf(repair) } });
  for (const verification of file.verifications ?? []) drafts.push({ kind: "verification", body: { text: textOf(verification) } });
  const closing = closingSchema.safeParse(file["closing"]);
  if (closing.success) drafts.push({ kind: "closing", body: closing.data });
  const stage = STAGES.find((known) => known === file["stage"]) ?? ((file.readings ?? []).length > 0 ? "bench" : "complaint");
  drafts.push({ kind: "stage", body: { stage: stage satisfies Stage } });
  let minutes = 0;
  const entries = drafts.map((draft): NewEntry => {
    minutes += draft.kind === "reading" ? (draft.body.minutes ?? 1) : 0.5;
    return { id: maker.id(), at: maker.at(minutes), by: maker.by, ...draft } as NewEntry;
  });
  return { ...header, title: titleOfJob(file.circuits), circuits: file.circuits, entries, photos: {}, recordings: {}, captures: [] };
}
