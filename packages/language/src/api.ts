import { z } from "zod";
import { circuitSchema } from "./circuit";
import { entrySchema, newEntrySchema, STAGES } from "./entry";
import { INSTRUMENTS, vehicleSchema } from "./job";

/** Shapes of the HTTP interface, shared by server and client. */
export const personSchema = z.object({ id: z.uuid(), name: z.string(), role: z.enum(["technician", "foreman", "trainee"]) });
export type Person = z.infer<typeof personSchema>;

export const shopSchema = z.object({ id: z.uuid(), name: z.string(), people: z.array(personSchema) });
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
  entries: z.array(entrySchema),
});
export type JobDetail = Omit<z.infer<typeof jobDetailSchema>, "entries"> & { entries: z.infer<typeof entrySchema>[] };

export const appendSchema = z.object({ entries: z.array(newEntrySchema).min(1).max(200) });
export type Append = z.infer<typeof appendSchema>;

export const problemSchema = z.object({ code: z.string(), where: z.string(), message: z.string() });
