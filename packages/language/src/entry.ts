import { z } from "zod";
import { circuitSchema } from "./circuit";
import { codeSchema, factsSchema, leftOpenSchema } from "./job";
import { keysOf } from "./keys";
import { beyondLimits, isLikelyMoment } from "./limits";
import { OUTCOMES, STAGES, WAITS } from "./names";
import { measurementSchema, readingSchema, valueSchema } from "./reading";
import { setupSchema } from "./setup";

/** The battery before anything else is believed: at rest, cranking, against its rating. */
export const batterySchema = z.object({
  restVolts: z.number().min(0).max(20),
  crankingVolts: z.number().min(0).max(20).optional(),
  temperature: z.number().min(-50).max(120).optional().describe("of the battery, degC"),
  ratedAmps: z.number().min(50).max(3000).optional().describe("rated cold-cranking current"),
  measuredAmps: z.number().min(0).max(3000).optional().describe("what a conductance tester shows"),
  charged: z.boolean().optional().describe("measured again after it was charged or replaced"),
});
export type Battery = z.infer<typeof batterySchema>;

/** A replacement part against the old one and the specification. */
export const partSchema = z.object({
  number: z.string().optional(),
  source: z.enum(["original", "other"]).optional(),
  shape: z.boolean().optional().describe("shape and connector match the old part"),
  variant: z.string().optional().describe("as printed on it, where variants look alike"),
  oldOhms: z.union([z.number().min(0), z.literal("OL")]).optional(),
  newOhms: z.union([z.number().min(0), z.literal("OL")]).optional(),
  twinOhms: z
    .union([z.number().min(0), z.literal("OL")])
    .optional()
    .describe("the same part of the other bank, cylinder or position"),
  oldTemperature: z.number().min(-60).max(1000).optional().describe("of the old part when its ohms were measured, degC"),
  newTemperature: z.number().min(-60).max(1000).optional().describe("of the new part when its ohms were measured, degC"),
  seal: z.string().optional().describe("gasket, seal ring or sealant"),
  torque: z.string().optional().describe("as the book gives it, with its unit"),
  torqueSource: z.string().optional(),
});
export type Part = z.infer<typeof partSchema>;

const entryBody = {
  complaint: z.object({
    text: z.string().min(1),
    when: z.string().optional(),
    previous: z.string().optional().describe("what was already replaced or worked on"),
    mileageKm: z.number().min(0).optional(),
  }),
  confirmation: z.object({ seen: z.boolean().describe("whether the complaint was there when looked for"), text: z.string().optional() }),
  battery: batterySchema,
  code: codeSchema,
  cleared: z.object({ codes: z.array(z.string()) }).describe("codes were cleared in the module, after they were saved"),
  rescan: z.object({ codes: z.array(codeSchema) }).describe("what the module stored when it was asked again"),
  recording: z.object({
    recording: z.uuid(),
    title: z.string().min(1),
    seconds: z.number().min(0),
    channels: z.array(z.string()),
    findings: z.array(z.string()),
  }),
  capture: z.object({
    capture: z.uuid(),
    title: z.string().min(1),
    seconds: z.number().min(0),
    channels: z.array(z.string()),
    setup: setupSchema.optional(),
    findings: z.array(z.string()),
    known: z.boolean().optional().describe("stored as known good for this vehicle and its sisters"),
  }),
  mark: z
    .object({ capture: z.uuid(), channel: z.string().min(1), from: z.number(), to: z.number(), word: z.string().min(1), text: z.string().optional() })
    .describe("what somebody saw on a trace that the analysis does not say"),
  circuit: z.union([z.object({ circuit: circuitSchema }), z.object({ remove: z.string().min(1) })]),
  conditions: z.object({
    temperature: z.number().optional(),
    pressure: z.number().optional(),
    intermittent: z.boolean().optional().describe("whether the fault comes and goes; left out = as before"),
    hints: z.array(z.string()).optional().describe("what is known of the car's life; left out = as before"),
    facts: factsSchema.optional().describe("what is known of the car besides readings, all of it; left out = as before"),
  }),
  reading: z.object({ reading: readingSchema, minutes: z.number().min(0).optional(), replaces: z.string().optional() }),
  skip: z.object({ test: z.string().min(1), reason: z.string().min(1) }),
  decision: z.looseObject({ decision: z.string().min(1), unit: z.string().nullable().optional(), probability: z.number().optional() }),
  located: z.object({
    unit: z.string().min(1),
    way: z.enum(["look", "wiggle", "measured", "found"]),
    place: z.string().min(1).describe("stretch, contact or branch"),
    text: z.string().optional(),
    wires: z.number().int().min(0).optional().describe("how many wires are damaged"),
    remedy: z.enum(["wire", "loom", "contact", "part", "clean", "module"]).optional(),
  }),
  task: z.object({ task: z.string().min(1), done: z.boolean(), text: z.string().optional() }),
  repair: z.looseObject({
    text: z.string().min(1),
    unit: z.string().optional().describe("what it was done to; left out where that is none of the job's units"),
    act: z.enum(["fitted", "repaired", "cleaned"]).optional(),
    part: partSchema.optional().describe("the new part, where one was fitted"),
    wiring: z
      .object({
        stretch: z.string().optional().describe("between which places"),
        wires: z.number().int().min(0).optional().describe("how many"),
        how: z.enum(["spliced", "replaced", "loom"]).optional(),
        sleeve: z.string().optional(),
        routing: z.string().optional(),
      })
      .optional()
      .describe("what was done to wires"),
    test: z.string().optional().describe("the test that will show that it works"),
    photo: z.uuid().optional().describe("the photo of it"),
    minutes: z.number().min(0).optional(),
  }),
  verification: z.looseObject({
    text: z.string().min(1),
    check: z.enum(["repeat", "drive", "desired", "complaint"]).optional(),
    of: z.string().optional().describe("the entry of the reading that failed"),
    measurement: measurementSchema.optional(),
    before: valueSchema.optional(),
    value: valueSchema.optional(),
    fits: z.boolean().optional(),
  }),
  failed: z
    .object({ reading: z.string().min(1).describe("the entry of the reading"), failed: z.boolean() })
    .describe("a test is to be repeated after the repair, or not"),
  closing: z.object({
    outcome: z.enum(OUTCOMES),
    text: z.string().optional(),
    plan: z.string().optional().describe("what to do when it comes back"),
    despite: z.string().optional().describe("why it is closed although something is still outside"),
    left: leftOpenSchema.optional().describe("what is left undecided"),
  }),
  waiting: z.object({ for: z.enum(WAITS).nullable(), text: z.string().optional() }),
  promised: z.object({
    at: z.iso.datetime({ offset: true }).nullable().describe("when the customer gets the vehicle; null = nothing is promised"),
    text: z.string().optional(),
  }),
  assigned: z.object({ person: z.uuid().nullable(), name: z.string() }),
  photo: z.object({ photo: z.uuid(), caption: z.string(), width: z.number().int().positive(), height: z.number().int().positive() }),
  stage: z.object({ stage: z.enum(STAGES) }),
  note: z.object({ text: z.string().min(1), customer: z.boolean().optional().describe("stands on the customer's page") }),
  retraction: z.object({ entry: z.string().min(1) }),
};

const base = {
  id: z.uuid().describe("made on the device, UUIDv7"),
  at: z.iso.datetime({ offset: true }).refine(isLikelyMoment, { error: "is no moment anybody could have entered something at" }),
  by: z.string().min(1),
};

type Bodies = typeof entryBody;
export type EntryKind = keyof Bodies;

/** An entry of one kind. */
export type EntryOf<K extends EntryKind> = z.infer<z.ZodObject<typeof base>> & { kind: K; body: z.infer<Bodies[K]> };
export type NewEntry = { [K in EntryKind]: EntryOf<K> }[EntryKind];

/** Every kind of entry. */
export const ENTRY_KINDS = keysOf(entryBody);

const [first, ...rest] = ENTRY_KINDS.map((kind) => z.object({ ...base, kind: z.literal(kind), body: entryBody[kind] }));

/** One thing that happened in a job. Entries are only ever added; `retraction` takes one back. */
export const newEntrySchema = z.discriminatedUnion("kind", [first as NonNullable<typeof first>, ...rest]).superRefine((entry, context) => {
  const beyond = beyondLimits(entry);
  if (beyond !== null) context.addIssue({ code: "custom", path: [...beyond.path], message: beyond.message });
}) as unknown as z.ZodType<NewEntry>;

/** An entry as stored: the server gives the sequence number, and says who was signed in. */
export const entrySchema = z.intersection(
  newEntrySchema,
  z.object({
    job: z.uuid(),
    seq: z.number().int().positive(),
    person: z.uuid().nullable().optional().describe("who was signed in; null for what was brought in with a file"),
    imported: z.boolean().optional().describe("brought in with a file: name and time are the file's own"),
  }),
);
export type Entry = NewEntry & { job: string; seq: number; person?: string | null | undefined; imported?: boolean | undefined };
