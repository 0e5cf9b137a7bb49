import type { Circuit, Code, Instrument, JobFile, NewEntry, Simulated, Stage, Vehicle } from "@fox-lamp/language";
import { STAGES } from "@fox-lamp/language";

/** A job file taken apart: what describes the job, and what happened in it. */
export interface TakenApart {
  readonly title: string;
  readonly vehicle: Vehicle;
  readonly bench: Instrument[] | null;
  readonly circuits: Circuit[];
  /** The virtual car behind the job; null for a real one. */
  readonly simulated: Simulated | null;
  readonly entries: NewEntry[];
}

/** Where ids, times and names of entries come from; the core has no clock and no randomness of its own. */
export interface EntryMaker {
  readonly id: () => string;
  readonly at: (minutes: number) => string;
  readonly by: string;
}

type Draft = { [K in NewEntry["kind"]]: { kind: K; body: Extract<NewEntry, { kind: K }>["body"] } }[NewEntry["kind"]];

function textOf(value: unknown): string {
  if (typeof value === "string") return value;
  if (typeof value === "object" && value !== null && "text" in value) return String((value as { text: unknown }).text);
  return JSON.stringify(value);
}

/** Turns a checked job file into a job's header and its entries, one for everything the file records. */
export function takeApart(file: JobFile, maker: EntryMaker): TakenApart {
  const drafts: Draft[] = [];
  if (file.complaint) drafts.push({ kind: "complaint", body: { text: file.complaint, ...(typeof file["when"] === "string" ? { when: file["when"] } : {}) } });
  for (const code of file.codes ?? []) drafts.push({ kind: "code", body: code as Code });
  const conditions = file["conditions"];
  const known = typeof conditions === "object" && conditions !== null ? (conditions as { temperature?: number }) : {};
  const said = {
    ...known,
    ...(file.hints === undefined ? {} : { hints: file.hints }),
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
  const stage = STAGES.find((known) => known === file["stage"]) ?? ((file.readings ?? []).length > 0 ? "bench" : "complaint");
  drafts.push({ kind: "stage", body: { stage: stage satisfies Stage } });
  let minutes = 0;
  const entries = drafts.map((draft): NewEntry => {
    minutes += draft.kind === "reading" ? (draft.body.minutes ?? 1) : 0.5;
    return { id: maker.id(), at: maker.at(minutes), by: maker.by, ...draft } as NewEntry;
  });
  const vehicle: Vehicle = typeof file.vehicle === "string" ? { name: file.vehicle } : (file.vehicle ?? {});
  const title = file.circuits.map((circuit) => circuit.title ?? circuit.id).join(", ");
  return { title, vehicle, bench: file.bench ?? null, circuits: file.circuits, simulated: file.simulated ?? null, entries };
}
