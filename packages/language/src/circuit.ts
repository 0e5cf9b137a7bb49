import { z } from "zod";
import { MOST_CIRCUITS } from "./limits";

/** One circuit of a file. `with` is checked against its family's own parameter schema. */
export const circuitSchema = z.looseObject({
  id: z
    .string()
    .regex(/^[^:@/\s]+$/u, { error: "a circuit id may not be empty or hold spaces, ':', '@' or '/'" })
    .refine((id) => id !== "car", { error: '"car" is the implied circuit of battery and grounds; expected another id' }),
  family: z.string().min(1),
  title: z.string().optional(),
  with: z.record(z.string(), z.unknown()).optional(),
  access: z.record(z.string(), z.number().min(0)).optional().describe("minutes to reach each place"),
  colours: z.record(z.string(), z.string()).optional(),
  cavities: z.record(z.string(), z.union([z.string(), z.number()])).optional(),
  inline: z
    .array(z.string().regex(/^C[1-9]\d?$/u, { error: "an inline connector is named C1, C2 ..." }))
    .optional()
    .describe("inline connectors every wire of the circuit passes, from the module outwards"),
  codes: z
    .record(z.string(), z.string())
    .optional()
    .describe("the codes the module sets for it, by kind: low, high, circuit, performance, no-activity, correlation, heater ..."),
  alike: z.array(z.string().min(1)).optional().describe("ids of circuits whose sensor connector fits this one's, so that the two can be swapped"),
  shares: z.record(z.string(), z.string()).optional(),
});
export type Circuit = z.infer<typeof circuitSchema>;

export const circuitsSchema = z
  .array(circuitSchema)
  .min(1, { error: "expected at least one circuit" })
  .max(MOST_CIRCUITS, { error: `expected at most ${MOST_CIRCUITS} circuits` })
  .superRefine((circuits, context) => {
    const seen = new Set<string>();
    circuits.forEach((circuit, index) => {
      if (seen.has(circuit.id)) {
        context.addIssue({ code: "custom", path: [index, "id"], message: `two circuits are called "${circuit.id}"; expected each id once` });
      }
      seen.add(circuit.id);
    });
  });
