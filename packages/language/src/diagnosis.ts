import { z } from "zod";
import { METERS } from "./meters";
import { INSTRUMENTS } from "./names";
import { setupSchema } from "./setup";

const probability = z.number().min(0).max(1);

/** What a healthy circuit shows: a numeric window, or the one word it shows. */
export const expectSchema = z.object({
  low: z.number().nullable(),
  high: z.number().nullable(),
  unit: z.string(),
  word: z.string().optional().describe("lit, beep, OL ... when a healthy circuit shows a word"),
});
export type Expect = z.infer<typeof expectSchema>;

export const VERDICT_STATUSES = ["proven", "narrowing", "contradiction", "nothing-found", "unknown-fault"] as const;

export const verdictSchema = z.object({
  status: z.enum(VERDICT_STATUSES),
  unit: z.string().nullable(),
  probability,
  group: z.array(z.string()),
  open: z.array(z.string()),
  because: z.array(z.string()),
  separate: z.string().nullable().describe("what would separate a group, or what would settle an open rival"),
  refuted: z.array(z.object({ unit: z.string(), by: z.array(z.string()) })),
  untested: z.array(z.string()).optional().describe("units that the readings neither accuse nor clear: less likely, and nobody may say more"),
  steps: z.array(z.string()).optional().describe("what to do now, where no test would settle more: repair and check, next time, contradiction"),
  seen: z
    .array(z.string())
    .optional()
    .describe("of what nothing-found does not exclude: what leads for how it looks alone, while all that was measured is sound"),
  also: z.object({ unit: z.string(), probability }).optional().describe("a second fault beside the unit, where no single fault explains the readings"),
});

export const nextTestSchema = z.object({
  test: z.string(),
  circuit: z.string(),
  title: z.string(),
  meter: z.enum(METERS),
  red: z.string(),
  black: z.string().nullable(),
  setup: setupSchema,
  unit: z.string().optional().describe("unit of a scan value that is not in volts"),
  record: z.literal("min-max").optional(),
  scope: z
    .object({
      coupling: z.enum(["dc", "ac"]),
      voltsPerDivision: z.number(),
      secondsPerDivision: z.number(),
      triggerVolts: z.number().nullable(),
    })
    .optional()
    .describe("how a scope is set for the signal expected"),
  expect: expectSchema,
  gainBits: z.number(),
  minutes: z.number(),
  wayMinutes: z.number().optional().describe("of these minutes, what it takes to get to the leads' places and to unplug; 0 where one is there already"),
  technique: z.string(),
  proves: z.string(),
  needs: z.array(z.enum(INSTRUMENTS)),
  cause: z
    .enum(["owed", "kind"])
    .optional()
    .describe("why it is done though others may tell more: a verdict owes it, or hangs on what it shows of the kind of circuit"),
  along: z
    .array(z.object({ test: z.string(), circuit: z.string(), title: z.string() }))
    .optional()
    .describe("module values that stand on the screen in the same go and are worth reading along"),
  why: z.string(),
  ifLow: z.string().nullable(),
  ifExpected: z.string().nullable(),
  ifHigh: z.string().nullable(),
  outcomes: z.array(
    z.object({
      key: z.enum(["low", "expected", "high", "word"]),
      label: z.string(),
      low: z.number().nullable(),
      high: z.number().nullable(),
      word: z.string().nullable(),
      probability,
      units: z.array(z.object({ unit: z.string(), title: z.string(), probability })),
    }),
  ),
  cautions: z.array(z.string()),
});
export type NextTest = z.infer<typeof nextTestSchema>;

export const suspectSchema = z.object({
  fault: z.string(),
  probability,
  for: z.array(z.string()),
  against: z.array(z.string()),
  why: z.string(),
  history: z.string().optional().describe("the part of why that tells what was found before, where that moved it"),
});

export const doubtfulSchema = z.object({
  reading: z.string(),
  probability,
  slip: z.string(),
  suggested: z.number().nullable().describe("the value that would fit if the slip happened"),
  why: z.string(),
});

export const questionSchema = z.object({
  circuit: z.string(),
  parameter: z.string().describe("the parameter the sheet leaves out, as files name it"),
  title: z.string(),
  gainBits: z.number(),
  minutes: z.number(),
});
/** Something the sheet leaves out that would tell more of the fault if it were looked up. */
export type Question = z.infer<typeof questionSchema>;

/** A test and what would follow each of its outcomes. */
export interface Plan {
  test: string;
  title: string;
  minutes: number;
  branches: { label: string; probability: number; unit: string | null; title: string; certainty: number; next: Plan | null }[];
}

export const planSchema: z.ZodType<Plan> = z.lazy(() =>
  z.object({
    test: z.string(),
    title: z.string(),
    minutes: z.number(),
    branches: z.array(
      z.object({
        label: z.string(),
        probability,
        unit: z.string().nullable().describe("what would lead then; null for nothing wrong"),
        title: z.string(),
        certainty: probability,
        next: planSchema.nullable(),
      }),
    ),
  }),
);

/** What replacing the leading part now would risk, against the next test. */
export const stakeSchema = z.object({
  unit: z.string(),
  title: z.string(),
  wrong: probability.describe("probability that the part is not to blame"),
  lossMinutes: z.number().describe("minutes of work lost on average by replacing now"),
  nextMinutes: z.number().nullable(),
  lossMoney: z.number().nullable().describe("the same in money, where the policy says what an hour costs"),
  sentence: z.string(),
});
export type Stake = z.infer<typeof stakeSchema>;

export const diagnosisSchema = z.object({
  format: z.literal("fox-lamp/diagnosis@1"),
  verdict: verdictSchema,
  verdicts: z.array(verdictSchema).optional().describe("every proven verdict, where faults in circuits that share nothing are proven each for itself"),
  unexplained: z.array(z.string()).optional().describe("codes that no verdict explains"),
  units: z.array(z.object({ unit: z.string(), probability })),
  healthy: probability.optional().describe("that nothing is wrong in any circuit"),
  unknown: probability.optional().describe("that something is wrong which no fault of the circuits' models explains"),
  suspects: z.array(suspectSchema),
  doubtful: z.array(doubtfulSchema),
  next: z.array(nextTestSchema),
  confirm: z
    .array(z.object({ reading: z.string(), without: probability.describe("of the verdict, if this reading is taken for a slip"), why: z.string() }))
    .optional()
    .describe(
      "readings a proven verdict hangs on, the weightiest first, and one that lies far from what it expects: better taken once more before anything is replaced",
    ),
  ask: z.array(questionSchema).optional().describe("what the sheets leave out and would tell more if it were looked up, the most telling first"),
  booked: z
    .array(
      z.object({
        reading: z.string(),
        circuit: z.string(),
        parameter: z.string(),
        title: z.string(),
        low: z.number(),
        high: z.number(),
        source: z.string().optional(),
      }),
    )
    .optional()
    .describe("published limits of readings that count as values of a sheet"),
  stake: stakeSchema.nullable().optional(),
  plan: planSchema.nullable().optional().describe("the next test and what would follow each of its outcomes; diagnose prints it"),
});
export type Diagnosis = z.infer<typeof diagnosisSchema>;
