import { z } from "zod";
import { codeSchema } from "./job";
import { STAGES } from "./names";
import { readingSchema } from "./reading";

const entryBody = {
  complaint: z.object({ text: z.string().min(1), when: z.string().optional() }),
  code: codeSchema,
  conditions: z.object({
    temperature: z.number().optional(),
    pressure: z.number().optional(),
    intermittent: z.boolean().optional().describe("whether the fault comes and goes; left out = as before"),
    hints: z.array(z.string()).optional().describe("what is known of the car's life; left out = as before"),
  }),
  reading: z.object({ reading: readingSchema, minutes: z.number().min(0).optional(), replaces: z.string().optional() }),
  skip: z.object({ test: z.string().min(1), reason: z.string().min(1) }),
  decision: z.looseObject({ decision: z.string().min(1), unit: z.string().nullable().optional(), probability: z.number().optional() }),
  repair: z.looseObject({ text: z.string().min(1) }),
  verification: z.looseObject({ text: z.string().min(1) }),
  stage: z.object({ stage: z.enum(STAGES) }),
  note: z.object({ text: z.string().min(1) }),
  retraction: z.object({ entry: z.string().min(1) }),
};

const base = {
  id: z.uuid().describe("made on the device, UUIDv7"),
  at: z.iso.datetime({ offset: true }),
  by: z.string().min(1),
};

/** One thing that happened in a job. Entries are only ever added; `retraction` takes one back. */
export const newEntrySchema = z.discriminatedUnion("kind", [
  z.object({ ...base, kind: z.literal("complaint"), body: entryBody.complaint }),
  z.object({ ...base, kind: z.literal("code"), body: entryBody.code }),
  z.object({ ...base, kind: z.literal("conditions"), body: entryBody.conditions }),
  z.object({ ...base, kind: z.literal("reading"), body: entryBody.reading }),
  z.object({ ...base, kind: z.literal("skip"), body: entryBody.skip }),
  z.object({ ...base, kind: z.literal("decision"), body: entryBody.decision }),
  z.object({ ...base, kind: z.literal("repair"), body: entryBody.repair }),
  z.object({ ...base, kind: z.literal("verification"), body: entryBody.verification }),
  z.object({ ...base, kind: z.literal("stage"), body: entryBody.stage }),
  z.object({ ...base, kind: z.literal("note"), body: entryBody.note }),
  z.object({ ...base, kind: z.literal("retraction"), body: entryBody.retraction }),
]);
export type NewEntry = z.infer<typeof newEntrySchema>;
export type EntryKind = NewEntry["kind"];
export type EntryOf<K extends EntryKind> = Extract<NewEntry, { kind: K }>;

/** An entry as stored: the server gives the sequence number. */
export const entrySchema = z.intersection(newEntrySchema, z.object({ job: z.uuid(), seq: z.number().int().positive() }));
export type Entry = NewEntry & { job: string; seq: number };
