import { z } from "zod";
import { setupSchema } from "./setup";

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
  speed: z
    .object({ t: z.array(z.number()), rpm: z.array(z.number()) })
    .optional()
    .describe("of a wheel whose teeth are known: rev/min at some moments, s"),
  coil: z
    .object({ count: z.number().int(), widthMs: z.number(), plateau: z.number(), slope: z.number(), kinkMs: z.number().nullable() })
    .optional()
    .describe("pulses of a winding behind a clamp: A, A/s at first, and ms from switching on to the kink of a pintle that moves"),
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
  facts: z
    .array(z.object({ code: z.string().min(1), channel: z.string().min(1), sentence: z.string().min(1) }))
    .optional()
    .describe("what the capture shows besides trouble"),
});
export type CaptureFile = z.infer<typeof captureFileSchema>;

/** Most bytes a stored capture may have, packed. */
export const MOST_CAPTURE_BYTES = 120_000_000;
/** Parts of a stored capture: blocks of samples and one lowest level of its pyramid a channel, each packed. */
export const capturePart = z.string().regex(/^\d{1,2}-(p|\d{1,4})$/u, { error: "expected channel and block, such as 0-12, or 0-p" });

const name = z.string().min(1).max(80);

/** A stored channel: what it is called, and where its leads were. */
export const storedChannelSchema = z.object({
  name,
  unit: z.string().max(20),
  circuit: z.string().max(80).nullable().describe("of the job; null for one that is none of its measurements"),
  red: z.string().max(80).nullable(),
  black: z.string().max(80).nullable().describe("null with a red one: a clamp around its wire"),
});
export type StoredChannel = z.infer<typeof storedChannelSchema>;

/** What is stored of a capture besides its samples. */
export const storedCaptureSchema = z.object({
  title: z.string().min(1).max(200),
  source: z.enum(["file", "simulated"]),
  start: z.number(),
  rate: z.number().positive(),
  length: z.number().int().min(2).max(20_000_000),
  channels: z.array(storedChannelSchema).min(1).max(8),
  setup: setupSchema,
  analysis: captureFileSchema,
});
export type StoredCapture = z.infer<typeof storedCaptureSchema>;

/** A stored capture as it is asked for, with the parts that are there. */
export const captureAnswerSchema = storedCaptureSchema.extend({ parts: z.array(z.string()) });
export type CaptureAnswer = z.infer<typeof captureAnswerSchema>;

/** A capture in a job file: its parts in base64. */
export const carriedCaptureSchema = storedCaptureSchema.extend({ id: z.uuid(), parts: z.record(capturePart, z.string()) });
export type CarriedCapture = z.infer<typeof carriedCaptureSchema>;

/** A capture kept as known good, of another job on the vehicle or on one of its sisters. */
export const knownCaptureSchema = z.object({
  id: z.uuid(),
  job: z.uuid(),
  number: z.number().int(),
  vehicle: z.string(),
  same: z.boolean().describe("of this very vehicle"),
  title: z.string(),
  analysis: captureFileSchema,
});
export type KnownCapture = z.infer<typeof knownCaptureSchema>;

/** Which part of which capture a reading was taken from. */
export const captureStretchSchema = z.object({ id: z.uuid(), channel: name, from: z.number(), to: z.number() });

/** What a virtual scope is asked for. */
export const scopeRequestSchema = z
  .object({
    circuit: z.string().min(1),
    channels: z
      .array(z.object({ name, red: z.string().min(1).max(80), black: z.string().min(1).max(80).nullable().describe("null: a clamp around the wire at red") }))
      .min(1)
      .max(8),
    seconds: z.number().positive().max(60),
    rate: z.number().positive().max(2e6),
    setup: setupSchema.default({}),
    bits: z.union([z.literal(8), z.literal(12)]).default(8),
    range: z.number().positive().optional(),
  })
  .refine(({ channels, seconds, rate }) => channels.length * seconds * rate <= 4_000_000, {
    path: ["seconds"],
    error: "channels times seconds times rate is over 4 million samples; expected fewer",
  });
export type ScopeRequest = z.infer<typeof scopeRequestSchema>;
