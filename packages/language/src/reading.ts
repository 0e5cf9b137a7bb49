import { z } from "zod";
import { captureStretchSchema } from "./capture";
import { METERS, meterWords } from "./meters";
import { setupSchema } from "./setup";

const spanSchema = z.strictObject({ min: z.number(), max: z.number(), avg: z.number().optional() });

/** A number in the meter's base unit, `"OL"`, `"live"`, a word, or min/max/avg. */
export const valueSchema = z.union([z.number(), z.string().min(1), spanSchema]);
export type Value = z.infer<typeof valueSchema>;

/** A measurement before its value: where the leads go, with what, in which state. */
export const measurementSchema = z.looseObject({
  id: z.string().min(1).optional(),
  circuit: z.string().min(1).optional(),
  meter: z.enum(METERS),
  red: z.string().min(1),
  black: z.string().min(1).optional(),
  setup: setupSchema.optional(),
  pid: z.string().optional(),
  unit: z.string().optional(),
  ac: z.enum(["true-rms", "average-responding"]).optional().describe("how the AC range rectifies; true-rms unless given"),
  coupling: z.enum(["dc", "ac"]).optional().describe("a scope's input; dc unless given, ac shows a small ring without the level it rides on"),
  range: z.number().positive().optional().describe("full scale of the chosen range in base units; above it OL shows"),
  record: z.literal("min-max").optional().describe("watched for a while; the value is {min, max, avg}"),
});
export type Measurement = z.infer<typeof measurementSchema>;

/** What a book says a reading should be, in the reading's unit: kept and judged beside what is computed, never instead of it. */
export const limitsSchema = z
  .strictObject({ low: z.number().optional(), high: z.number().optional(), source: z.string().optional() })
  .refine(({ low, high }) => low !== undefined || high !== undefined, { error: "limits need a low or a high" })
  .refine(({ low, high }) => low === undefined || high === undefined || low <= high, { error: "the low limit lies above the high one" })
  .describe("what a book says this reading should be, with its source");
export type Limits = z.infer<typeof limitsSchema>;

export const readingSchema = measurementSchema
  .extend({
    value: valueSchema,
    at: z.string().optional(),
    by: z.string().optional(),
    note: z.string().optional(),
    symptom: z.boolean().optional(),
    limits: limitsSchema.optional(),
    capture: captureStretchSchema.optional().describe("the stretch of a stored capture it was read from"),
  })
  .superRefine((reading, context) => {
    const { words, numbers, open } = meterWords(reading.meter);
    if (open) return;
    const { value } = reading;
    if (typeof value === "string" ? words.includes(value) : numbers) return;
    const allowed = words.map((word) => `"${word}"`).join(", ");
    const expected = !numbers ? allowed : `a number, ${allowed} or {min, max, avg}`;
    context.addIssue({
      code: "custom",
      path: ["value"],
      message: `${JSON.stringify(value)} is not a value of meter ${reading.meter}; expected ${expected}`,
    });
  });
export type Reading = z.infer<typeof readingSchema>;
