import { z } from "zod";
import { circuitSchema, circuitsSchema } from "./circuit";
import { MOST_CIRCUITS, MOST_ENTRIES } from "./limits";
import { INSTRUMENTS } from "./names";
import { measurementSchema, readingSchema } from "./reading";
import { setupSchema } from "./setup";

/** Accepts every version of a format ever published and says clearly what it cannot read. */
function formatOf(name: string) {
  const current = `fox-lamp/${name}@1`;
  return z
    .string()
    .refine((text) => text === current, { error: (issue) => `"${String(issue.input)}" cannot be read; expected "${current}"` })
    .optional();
}

export const vehicleSchema = z.looseObject({
  name: z.string().optional(),
  make: z.string().optional(),
  model: z.string().optional(),
  year: z.number().int().optional(),
  engine: z.string().optional(),
  plate: z.string().optional(),
  mileageKm: z.number().min(0).optional(),
});
export type Vehicle = z.infer<typeof vehicleSchema>;

export const codeSchema = z.looseObject({
  code: z.string().min(1),
  status: z.string().optional().describe("current, pending or history"),
  freezeFrame: z.record(z.string(), z.unknown()).optional(),
});
export type Code = z.infer<typeof codeSchema>;

/** A virtual car behind a job: its instruments can be read instead of typed. */
export const simulatedSchema = z.object({
  faults: z
    .array(z.lazy(() => faultRefSchema))
    .max(2, { error: "expected at most two faults" })
    .default([]),
  seed: z.number().int().default(1),
  misses: z.number().min(0).max(1).optional().describe("share of moments in which the fault is not there"),
  consequences: z.record(z.string(), z.array(z.string())).optional().describe("codes that follow when a circuit's signal is lost"),
  circuits: z.array(circuitSchema).max(MOST_CIRCUITS).optional().describe("circuits the car has that nobody has put on the sheet yet"),
  scope: z
    .object({
      during: z
        .array(z.strictObject({ from: z.number(), to: z.number() }))
        .max(100)
        .optional()
        .describe("when the faults are there on a trace, s; always unless given"),
      brokenTeeth: z.array(z.number().int().min(0)).max(100).optional().describe("teeth that have broken out of the wheel, from 0"),
      seized: z.array(z.string().min(1)).max(8).optional().describe("circuits whose valve does not move though its winding pulls"),
    })
    .optional()
    .describe("what only a scope sees of the car"),
});
export type Simulated = z.infer<typeof simulatedSchema>;

export const ENGINE_STATES = ["starts", "does-not-start", "stalls"] as const;
export const CODE_FACTS = ["none", "cleared-before"] as const;
/** What the engine does, besides starting or not. */
export const SYMPTOMS = ["long-cranking", "limp-mode", "hard-cold-start", "rough-idle", "surges", "no-power", "fans-always", "pings"] as const;
export type Symptom = (typeof SYMPTOMS)[number];
export const LAMP_STATES = ["on", "off", "goes-out", "never-lit"] as const;

/** What a job could not decide: who is still suspected, how likely, and the test that tells them apart. */
export const leftOpenSchema = z.object({
  job: z.number().int().optional().describe("number of the job that left it open"),
  units: z
    .array(z.object({ unit: z.string().min(1), probability: z.number().min(0).max(1) }))
    .min(1)
    .max(20),
  test: z.object({ title: z.string(), measurement: measurementSchema }).optional().describe("what separates them next time"),
});
export type LeftOpen = z.infer<typeof leftOpenSchema>;

/** What is known of a car besides readings; what is left out is not known. */
export const factsSchema = z
  .looseObject({
    engine: z.enum(ENGINE_STATES).optional(),
    codes: z.enum(CODE_FACTS).optional().describe("none: the module was asked and stores none; cleared-before: somebody cleared them before this job"),
    lamp: z.enum(LAMP_STATES).optional().describe("the module's lamp while the engine runs, or never lit, not even with the key"),
    symptoms: z.array(z.enum(SYMPTOMS)).optional().describe("what the engine does; weighs nothing, and says whose loss would do that"),
    leftOpen: leftOpenSchema.optional().describe("what an earlier job on this car left undecided"),
    altitudeMetres: z.number().min(-400).max(5000).optional().describe("where the car stands, metres above the sea"),
    learnt: z.enum(["off"]).optional().describe("off: what was found on other cars is left out of account"),
  })
  .describe("what is known of the car besides readings");
export type Facts = z.infer<typeof factsSchema>;

/** What was found before on circuits of a family: how many closed and proven jobs named a unit. */
export const foundBeforeSchema = z.strictObject({
  family: z.string().min(1),
  unit: z.string().min(1).describe("without its circuit: sensor, wire:sig, contact:sig@sensor"),
  model: z.number().min(0).describe("jobs on vehicles of this make and model"),
  shop: z.number().min(0).describe("jobs on all vehicles, those of this model among them"),
});
export type FoundBefore = z.infer<typeof foundBeforeSchema>;

export const jobSchema = z.looseObject({
  format: formatOf("job"),
  vehicle: z.union([vehicleSchema, z.string()]).optional(),
  complaint: z.string().optional(),
  codes: z.array(codeSchema).optional(),
  bench: z.array(z.enum(INSTRUMENTS)).optional().describe("instruments at hand; left out = all"),
  policy: z.record(z.string(), z.unknown()).optional(),
  hints: z
    .array(z.string())
    .optional()
    .describe("what is known of the car's life: recent-work, water, heat, high-mileage, repaired-loom; others are kept and weigh nothing"),
  intermittent: z.boolean().optional().describe("the fault comes and goes: a reading that looks healthy may have missed it"),
  facts: factsSchema.optional(),
  learnt: z.array(foundBeforeSchema).max(2000).optional().describe("what was found before on this model and in this shop; shifts the priors"),
  simulated: simulatedSchema.optional().describe("a virtual car for demo and practice"),
  circuits: circuitsSchema,
  readings: z
    .array(readingSchema)
    .max(MOST_ENTRIES)
    .superRefine((readings, context) => {
      const seen = new Set<string>();
      readings.forEach(({ id }, index) => {
        if (id !== undefined && seen.has(id))
          context.addIssue({ code: "custom", path: [index, "id"], message: `two readings are called "${id}"; expected each id once` });
        if (id !== undefined) seen.add(id);
      });
    })
    .optional(),
  captures: z.array(z.unknown()).optional(),
  decisions: z.array(z.unknown()).optional(),
  repairs: z.array(z.unknown()).optional(),
  verifications: z.array(z.unknown()).optional(),
  entries: z.array(z.unknown()).max(MOST_ENTRIES).optional().describe("everything entered, in order; where it is there, it wins over the lists above"),
  photos: z.record(z.string(), z.object({ type: z.string(), base64: z.string() })).optional(),
  recordings: z.record(z.string(), z.unknown()).optional(),
});
export type JobFile = z.infer<typeof jobSchema>;

export const faultRefSchema = z.looseObject({
  id: z.string().regex(/^[^/]+\/[^/]+\/[^/]+$/u, { error: "a fault is circuit/unit/kind, such as ect/wire:sig/open" }),
  ohms: z.number().positive().optional(),
  severity: z.number().optional(),
});
export type FaultRef = z.infer<typeof faultRefSchema>;

/** The file `measure` and `netlist` read. */
export const measureFileSchema = z.looseObject({
  circuits: circuitsSchema,
  faults: z.array(faultRefSchema).optional(),
  measurements: z.array(measurementSchema).min(1, { error: "expected at least one measurement" }),
});
export type MeasureFile = z.infer<typeof measureFileSchema>;

/** Most channels of one capture. */
export const MOST_CHANNELS = 8;
const MOST_TRACE_SAMPLES = 20_000_000;

/** The file `trace` reads: a car, its faults, and what a scope is set to. */
export const traceFileSchema = z
  .looseObject({
    circuits: circuitsSchema,
    circuit: z.string().optional().describe("whose course the capture follows; the first unless given"),
    faults: z.array(faultRefSchema).optional(),
    setup: setupSchema.optional(),
    channels: z
      .array(
        z.union([
          z.string().min(1),
          z.strictObject({ name: z.string().min(1).optional(), red: z.string().min(1), black: z.string().min(1).optional() }),
          z.strictObject({ name: z.string().min(1).optional(), clamp: z.string().min(1) }),
        ]),
      )
      .min(1, { error: "expected at least one channel" })
      .max(MOST_CHANNELS, { error: `expected at most ${MOST_CHANNELS} channels` })
      .describe("pins (back-probed at the sensor, against bat-), `circuit:current` (a clamp), or a name with red and black, or with the point a clamp is at"),
    rate: z.number().positive().max(1e7).describe("samples a second"),
    seconds: z.number().positive().max(600),
    seed: z.number().int().default(1),
    bits: z.number().int().min(4).max(24).optional().describe("steps of the scope over twice its range"),
    range: z.number().positive().optional().describe("full scale, V"),
    coupling: z.enum(["dc", "ac"]).optional(),
    during: z
      .array(z.strictObject({ from: z.number(), to: z.number() }))
      .optional()
      .describe("when the faults are there, s; always unless given"),
    brokenTeeth: z.array(z.number().int().min(0)).optional().describe("teeth that have broken out of the wheel, from 0"),
    seized: z.array(z.string().min(1)).optional().describe("circuits whose valve does not move though its winding pulls"),
  })
  .refine(({ rate, seconds }) => rate * seconds <= MOST_TRACE_SAMPLES, {
    path: ["seconds"],
    error: `rate times seconds is over ${MOST_TRACE_SAMPLES / 1e6} million samples; expected fewer`,
  });
export type TraceFile = z.infer<typeof traceFileSchema>;
