import { z } from "zod";
import { circuitSchema } from "./circuit";
import { entrySchema, newEntrySchema } from "./entry";
import { vehicleSchema } from "./job";
import { INSTRUMENTS, STAGES } from "./names";
import { measurementSchema, valueSchema } from "./reading";

/** Shapes of the HTTP interface, shared by server and client. */
export const personSchema = z.object({ id: z.uuid(), name: z.string(), role: z.enum(["technician", "foreman", "trainee"]) });
export type Person = z.infer<typeof personSchema>;

/** What a shop has decided: tools at hand, policy where practitioners disagree, what an hour costs. */
export const shopSettingsSchema = z.object({
  bench: z.array(z.enum(INSTRUMENTS)).nullable().default(null).describe("instruments at hand; null = all"),
  policy: z
    .object({
      bypass: z.enum(["wire", "resistor", "both"]).default("resistor"),
      resistance: z.boolean().default(true).describe("whether parts are measured in ohms"),
      groundMillivolts: z.number().min(10).max(500).default(100).describe("highest drop of a ground while working"),
      crankingMillivolts: z.number().min(50).max(1000).default(300).describe("highest drop of a ground while cranking"),
      piercing: z.enum(["never", "last"]).default("last"),
      changeLoomFrom: z.number().int().min(1).max(20).default(4).describe("damaged wires from which the loom is changed"),
      cleanFirst: z.boolean().default(true).describe("whether an air-flow sensor is cleaned and tested again before it is replaced"),
      part: z.enum(["original", "either"]).default("either"),
    })
    .prefault({}),
  moneyPerHour: z.number().min(0).max(1000).default(0),
});
export type ShopSettings = z.infer<typeof shopSettingsSchema>;

export const shopSchema = z.object({ id: z.uuid(), name: z.string(), people: z.array(personSchema), settings: shopSettingsSchema });
export type Shop = z.infer<typeof shopSchema>;

export const jobSummarySchema = z.object({
  id: z.uuid(),
  number: z.number().int(),
  title: z.string(),
  complaint: z.string(),
  stage: z.enum(STAGES),
  vehicle: vehicleSchema,
  codes: z.array(z.string()),
  readings: z.number().int(),
  simulated: z.boolean(),
  assignedTo: z.string().nullable(),
  updatedAt: z.string(),
});
export type JobSummary = z.infer<typeof jobSummarySchema>;

export const jobDetailSchema = z.object({
  id: z.uuid(),
  number: z.number().int(),
  title: z.string(),
  vehicle: vehicleSchema,
  assignedTo: z.string().nullable(),
  bench: z.array(z.enum(INSTRUMENTS)).nullable(),
  circuits: z.array(circuitSchema),
  simulated: z.boolean().describe("whether a virtual car stands behind the job, whose instruments can be read"),
  entries: z.array(entrySchema),
});
export type JobDetail = Omit<z.infer<typeof jobDetailSchema>, "entries"> & { entries: z.infer<typeof entrySchema>[] };

export const appendSchema = z.object({ entries: z.array(newEntrySchema).min(1).max(200) });
export type Append = z.infer<typeof appendSchema>;

/** Measurements to take on a job's virtual car, all in the same moment. */
export const instrumentSchema = z.object({ measurements: z.array(measurementSchema).min(1).max(12) });
export const instrumentAnswerSchema = z.object({ values: z.array(valueSchema) });
export type InstrumentAnswer = z.infer<typeof instrumentAnswerSchema>;

/** What the call-out shows: one value, its window, and what was made of it. */
export const calloutSchema = z.object({
  job: z.uuid(),
  vehicle: z.string(),
  title: z.string(),
  /** How it is measured, in a line. */
  how: z.string(),
  low: z.number().nullable(),
  high: z.number().nullable(),
  unit: z.string(),
  word: z.string().nullable().describe("the word a healthy circuit shows, where words are read"),
  value: valueSchema.nullable().describe("the last value, or the one being typed"),
  taken: z.boolean().describe("whether the value was taken as a reading"),
  fits: z.boolean().nullable(),
});
export type Callout = z.infer<typeof calloutSchema>;

export const problemSchema = z.object({ code: z.string(), where: z.string(), message: z.string() });
