import { z } from "zod";
import { isMonotone } from "./curve";

/** Parameters that several families share, with the field's usual values as defaults. */
export const vref = z.number().min(1).max(16).default(5).describe("reference voltage, V");
export const limitA = z.number().min(0.005).max(5).default(0.1).describe("current limit of the reference, A");
export const ohmsParameter = (low: number, high: number) => z.number().min(low).max(high);
export const low = z.number().min(0).max(16).optional().describe("circuit-low code threshold, V");
export const high = z.number().min(0).max(16).optional().describe("circuit-high code threshold, V");
export const range = z
  .tuple([z.number().min(0), z.number().min(0)])
  .refine(([lo, hi]) => lo < hi, { error: "expected [lo, hi] with lo below hi" })
  .optional()
  .describe("published resistance of the part, ohm [lo, hi]");

export const transferSchema = z
  .array(z.tuple([z.number(), z.number()]))
  .min(2, { error: "expected at least two points" })
  .refine(isMonotone, { error: "expected the first column to rise and the second to only rise or only fall" });

export const thermistorCurveSchema = z
  .array(z.tuple([z.number().min(-80).max(400), z.number().positive()]))
  .min(2, { error: "expected at least two points [degC, ohm]" })
  .refine(isMonotone, { error: "expected rising degC and resistance that only falls" })
  .refine((curve) => (curve[0]?.[1] ?? 0) > (curve[1]?.[1] ?? 0), { error: "resistance must fall as temperature rises" });

/** Refuses a limit or a transfer point above the supply that feeds the sensor. */
export function aboveFeed(
  parameters: { vref: number; low?: number | undefined; high?: number | undefined; transfer?: readonly (readonly [number, number])[] },
  context: z.RefinementCtx,
): void {
  const refuse = (path: PropertyKey[], volts: number): void => {
    context.addIssue({ code: "custom", path, message: `${volts} V lies above the ${parameters.vref} V that feed the sensor` });
  };
  if (parameters.low !== undefined && parameters.low > parameters.vref) refuse(["low"], parameters.low);
  if (parameters.high !== undefined && parameters.high > parameters.vref) refuse(["high"], parameters.high);
  if (parameters.low !== undefined && parameters.high !== undefined && parameters.low >= parameters.high) {
    context.addIssue({ code: "custom", path: ["low"], message: `the low threshold ${parameters.low} V is not below the high threshold ${parameters.high} V` });
  }
  parameters.transfer?.forEach((point, index) => {
    if (point[1] > parameters.vref) refuse(["transfer", index, 1], point[1]);
    if (point[1] < 0) context.addIssue({ code: "custom", path: ["transfer", index, 1], message: `${point[1]} V lies below ground` });
  });
}
