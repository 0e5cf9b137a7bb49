import { z } from "zod";
import { MOST_SHELF_ITEMS } from "./limits";
import { SHELF_KINDS, shelfRecordSchema } from "./spec";

/** A record judged by physics: why it cannot be, and faults it lets pass. */
export const judgedRecordSchema = z.object({
  problems: z.array(z.object({ code: z.string(), reason: z.string() })),
  passes: z.array(z.string()).describe("faults a sound circuit's window would show and this limit lets pass"),
});

/** One thing on the shop's shelf. */
export const storedSpecSchema = judgedRecordSchema.extend({
  id: z.uuid(),
  item: shelfRecordSchema,
  importId: z.uuid().nullable().describe("the import it came with"),
  by: z.string(),
  at: z.string(),
});
export type StoredSpec = z.infer<typeof storedSpecSchema>;

/** What is looked for on the shelf. */
export const shelfQuerySchema = z.object({
  q: z.string().max(200).default(""),
  kind: z.enum(SHELF_KINDS).optional(),
  family: z.string().max(60).optional(),
  vehicle: z.uuid().optional().describe("only what holds for this vehicle"),
  bad: z
    .enum(["yes", "no"])
    .default("no")
    .transform((word) => word === "yes")
    .describe("only what cannot be"),
});
export type ShelfQuery = z.infer<typeof shelfQuerySchema>;

/** The latest of what was found, and how much there is in all. */
export const shelfPageSchema = z.object({ items: z.array(storedSpecSchema), count: z.number().int() });
export type ShelfPage = z.infer<typeof shelfPageSchema>;

const itemsSchema = z
  .array(shelfRecordSchema)
  .min(1, { error: "expected one record at least" })
  .max(MOST_SHELF_ITEMS, { error: `expected at most ${MOST_SHELF_ITEMS} records at once` });

/** Records that are about to be put on the shelf, and what there is to say of each. */
export const shelfLookSchema = z.object({ items: itemsSchema });
export const shelfLookAnswerSchema = z.array(judgedRecordSchema.extend({ twin: z.uuid().nullable().describe("the same on the shelf already") }));
export type ShelfLookAnswer = z.infer<typeof shelfLookAnswerSchema>;

/** An import: all of it comes, or nothing. */
export const shelfImportSchema = z.object({
  name: z.string().min(1).max(200).describe("the file's name"),
  items: itemsSchema,
  twins: z.enum(["skip", "keep"]).default("skip").describe("what is on the shelf already"),
});
export type ShelfImport = z.input<typeof shelfImportSchema>;

export const storedImportSchema = z.object({
  id: z.uuid(),
  name: z.string(),
  by: z.string(),
  at: z.string(),
  count: z.number().int().describe("records that came with it"),
  left: z.number().int().describe("of these still on the shelf"),
  undone: z.boolean(),
});
export type StoredImport = z.infer<typeof storedImportSchema>;
