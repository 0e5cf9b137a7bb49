import { z } from "zod";

const KINDS = ["square", "sine", "sweep", "steady", "ringing", "irregular"] as const;
const LEVELS = ["high", "low", "mid"] as const;

const camPattern = z.object({
  degrees: z.array(z.number()).describe("crank degrees, 0 to 720, from the first active edge after the crank gap to each cam edge of both directions"),
  shiftDegrees: z.number().nullable().describe("against the known pattern, later positive; null without one"),
});

export const captureChannelSchema = z.looseObject({
  name: z.string().min(1),
  unit: z.string().optional(),
  min: z.number(),
  max: z.number(),
  mean: z.number(),
  meterDc: z.number().describe("what an averaging meter shows"),
  meterAc: z.number().describe("what a true-RMS meter's AC range shows, within 3 kHz"),
  kind: z.enum(KINDS),
  frequencyHz: z.number().nullable().describe("of teeth as they follow one another, gaps left out"),
  duty: z.number().nullable().describe("% of the time high, over whole pulses"),
  low: z.number(),
  high: z.number(),
  edges: z.number().int().min(0).describe("both directions; spikes left out"),
  missing: z.array(z.object({ t: z.number(), count: z.number().int().min(1), designed: z.boolean() })),
  dropouts: z.array(z.object({ from: z.number(), to: z.number(), level: z.enum(LEVELS), volts: z.number() })),
  glitches: z.array(z.object({ t: z.number(), volts: z.number() })),
  bursts: z.array(z.object({ t: z.number(), peak: z.number(), hz: z.number().nullable() })),
  peaks: z.array(z.object({ t: z.number(), volts: z.number() })),
  switches: z.number().int().min(0).nullable(),
});

/** What stands out in a capture; a stable code, where, and a sentence. */
export const captureFindingSchema = z.object({
  code: z.string().min(1),
  channel: z.string().min(1),
  from: z.number().describe("seconds"),
  to: z.number().describe("seconds"),
  sentence: z.string().min(1),
});

/** The analysis of a capture. */
export const captureFileSchema = z.looseObject({
  format: z.literal("fox-lamp/capture@1", { error: (issue) => `"${String(issue.input)}" cannot be read; expected "fox-lamp/capture@1"` }).optional(),
  rate: z.number().positive().optional().describe("samples a second"),
  seconds: z.number().positive().optional(),
  channels: z.array(captureChannelSchema),
  firstToFail: z.string().nullable(),
  camCrank: camPattern.extend({ cams: z.array(camPattern.extend({ name: z.string() })).optional() }),
  findings: z.array(captureFindingSchema).default([]),
});
export type CaptureFile = z.infer<typeof captureFileSchema>;
