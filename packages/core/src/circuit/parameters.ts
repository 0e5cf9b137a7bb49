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

export const pullup = (ohms: number) => ohmsParameter(50, 1e8).default(ohms).describe("pull-up inside the module, ohm");
export const pullupV = (volts: number) => z.number().min(0.2).max(16).default(volts).describe("voltage behind the pull-up, V");
export const duty = (percent: number) => z.number().min(1).max(99).default(percent).describe("% of time high");
/** A published resistance of the part with a default window. */
export const windowOf = (lo: number, hi: number) =>
  z
    .tuple([z.number().min(0), z.number().min(0)])
    .refine(([from, to]) => from < to, { error: "expected [lo, hi] with lo below hi" })
    .default([lo, hi]);

/** The middle of a window of resistances, ohms. */
export function middleOf([lo, hi]: readonly [number, number]): number {
  return lo > 0 ? Math.sqrt(lo * hi) : 0.5 * hi;
}

/** Spread of a resistance whose window is published, ln ohms: the window is the limit, 99 of 100 sound parts lie in it. */
export function windowSigma(window: readonly [number, number]): number {
  return Math.log(window[1] / middleOf(window)) / 2.6;
}

/** What a sensor that watches a wheel turn needs to know of it. */
export const wheel = {
  perRev: z.number().int().min(1).max(2000).optional().describe("transitions (both edges) per turn of the crank"),
  teeth: z.number().int().min(1).max(1000).optional().describe("teeth of the wheel, the missing ones counted"),
  missing: z.number().int().min(0).max(20).optional().describe("missing teeth"),
};

/** A wheel cannot miss all its teeth. */
export function wheelCheck(given: { teeth?: number | undefined; missing?: number | undefined }, context: z.RefinementCtx): void {
  if (given.missing === undefined || given.missing < (given.teeth ?? Number.POSITIVE_INFINITY)) return;
  context.addIssue({
    code: "custom",
    path: ["missing"],
    message: `${given.missing} missing of ${String(given.teeth)} teeth; expected fewer missing than teeth`,
  });
}

/** The wheel that parameters describe: teeth with the missing ones counted; `pulses` where nothing is said. */
export function wheelOf(
  given: { perRev?: number | undefined; teeth?: number | undefined; missing?: number | undefined },
  pulses: number,
): { teeth: number; missing: number } {
  if (given.perRev !== undefined) return { teeth: given.perRev / 2, missing: 0 };
  return given.teeth === undefined ? { teeth: pulses, missing: 0 } : { teeth: given.teeth, missing: given.missing ?? 0 };
}

/** Pulses a second of a wheel at a crankshaft speed: transitions / 2, or the teeth that are there, times turns a second. */
export function wheelHertz(
  given: { perRev?: number | undefined; teeth?: number | undefined; missing?: number | undefined },
  rpm: number,
  pulses: number,
): number {
  const perTurn = given.perRev !== undefined ? given.perRev / 2 : given.teeth !== undefined ? given.teeth - (given.missing ?? 0) : pulses;
  return (perTurn * rpm) / 60;
}

export const substitute = z
  .number()
  .optional()
  .describe("what the module reports, in the sensor's unit, under low and over high; left out: the end of its range");

/** What families with a signal between a shared reference and ground have in common. @param pulldownOhms the usual pull-down */
export const ratiometric = (pulldownOhms: number) => ({
  vref,
  limitA,
  pulldown: ohmsParameter(1e3, 1e8).default(pulldownOhms).describe("pull-down inside the module where it has no pull-up, ohm"),
  pullup: ohmsParameter(1e3, 1e8).optional().describe("pull-up inside the module, ohm"),
  pullupV: z.number().min(1).max(16).optional().describe("voltage behind the pull-up, V"),
  resistance: range,
  low,
  high,
  substitute,
});

export const transferSchema = z
  .array(z.tuple([z.number(), z.number()]))
  .min(2, { error: "expected at least two points" })
  .refine(isMonotone, { error: "expected the first column to rise and the second to only rise or only fall" });

/** A transfer line whose second column is a rate in hertz. */
export const rateSchema = z
  .array(z.tuple([z.number(), z.number().positive()]))
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
