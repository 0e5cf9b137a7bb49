import { z } from "zod";
import { KEY_STATES } from "./names";
import { parsePoint } from "./points";
import { ADDED_KINDS, STIMULI } from "./setup-words";

const pointSchema = z
  .string()
  .refine((text) => parsePoint(text) !== null, {
    error: (issue) => `"${String(issue.input)}" is not a point; expected [circuit:]pin@place such as sig@sensor, or bat+, bat-, engine, chassis`,
  })
  .describe("[circuit:]pin@place, or bat+ bat- engine chassis");

const addedSchema = z
  .strictObject({
    kind: z.enum(ADDED_KINDS),
    from: pointSchema,
    to: pointSchema,
    ohms: z.number().positive().optional(),
  })
  .refine((added) => added.kind !== "resistor" || added.ohms !== undefined, {
    error: "a resistor needs its ohms",
    path: ["ohms"],
  });
export type Added = z.infer<typeof addedSchema>;

/** A known value as it is, or with how far the truth may lie from it to either side, in its own unit. */
function known<T extends z.ZodType<number | string>>(value: T) {
  return z.union([value, z.strictObject({ value, within: z.number().positive().optional() })]);
}

/** What the technician knows independently of the circuit. degC, kPa, %, level. */
export const truthSchema = z.strictObject({
  temperature: known(z.number().min(-80).max(400)).optional(),
  pressure: known(z.number().min(-100).max(300_000)).optional(),
  position: known(z.number().min(-20).max(120)).optional(),
  level: known(z.union([z.enum(["high", "low"]), z.number()])).optional(),
});
export type Truth = z.infer<typeof truthSchema>;
/** The state of the car and of the leads while a reading is taken. */
export const setupSchema = z.strictObject({
  key: z.enum(KEY_STATES).optional(),
  rpm: z.number().min(0).max(20_000).optional(),
  open: z.array(z.string().min(1)).optional(),
  add: z.array(addedSchema).optional(),
  stimulus: z.strictObject({ kind: z.enum(STIMULI), at: z.string().optional() }).optional(),
  steel: z.enum(["at", "away"]).optional().describe("whether steel stands before the tip of a wheel sensor, where nobody knows which level that is"),
  truth: truthSchema.optional(),
});
export type Setup = z.infer<typeof setupSchema>;
