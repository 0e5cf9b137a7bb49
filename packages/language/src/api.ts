import { z } from "zod";
import { circuitSchema } from "./circuit";
import { entrySchema, newEntrySchema } from "./entry";
import { codeSchema, foundBeforeSchema, leftOpenSchema, vehicleSchema } from "./job";
import { MOST_CIRCUITS, MOST_MOMENTS } from "./limits";
import { DATE_LANGUAGES, INSTRUMENTS, OUTCOMES, PAPERS, ROLES, STAGES, WAITS } from "./names";
import { measurementSchema, valueSchema } from "./reading";

/** Shapes of the HTTP interface, shared by server and client. */
export const personSchema = z.object({
  id: z.uuid(),
  name: z.string(),
  role: z.enum(ROLES),
  username: z.string(),
  active: z.boolean().describe("false once a foreman has taken the access back"),
});
export type Person = z.infer<typeof personSchema>;

/** What a shop has decided: tools at hand, policy where practitioners disagree, what an hour costs. */
export const shopSettingsSchema = z.object({
  bench: z.array(z.enum(INSTRUMENTS)).nullable().default(null).describe("instruments at hand; null = all"),
  policy: z
    .object({
      bypass: z.enum(["wire", "resistor", "both"]).default("resistor"),
      resistance: z.boolean().default(true).describe("whether parts are measured in ohms"),
      groundMillivolts: z.number().min(10).max(500).default(100).describe("highest drop of a ground while working"),
      crankingMillivolts: z.number().min(50).max(1000).default(300).describe("highest drop of a ground while cranking"),
      piercing: z.enum(["never", "last"]).default("last"),
      changeLoomFrom: z.number().int().min(1).max(20).default(4).describe("damaged wires from which the loom is changed"),
      cleanFirst: z.boolean().default(true).describe("whether an air-flow sensor is cleaned and tested again before it is replaced"),
      part: z.enum(["original", "either"]).default("either"),
      learnt: z.enum(["off", "half", "full"]).default("full").describe("how much what was found before counts"),
    })
    .prefault({}),
  moneyPerHour: z.number().min(0).max(1000).default(0),
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/u)
    .nullable()
    .default(null)
    .describe("three letters, such as EUR; null = amounts without a name"),
  report: z
    .object({
      letterhead: z.string().max(600).default("").describe("lines below the shop's name: address, telephone"),
      logo: z
        .string()
        .max(200_000)
        .regex(/^data:image\/(?:png|jpeg);base64,[A-Za-z0-9+/=]+$/u, { error: "is no picture; expected PNG or JPEG" })
        .nullable()
        .default(null),
      paper: z.enum(PAPERS).default("A4"),
      dates: z.enum(DATE_LANGUAGES).default("en-GB"),
    })
    .prefault({})
    .describe("how reports look"),
  seaLevelKPa: z.number().min(90).max(110).default(101.325).describe("pressure the weather service reports, reduced to sea level"),
  altitudeMetres: z.number().min(-400).max(5000).default(0).describe("of the workshop: what the outside air should show"),
  keepPhotosMonths: z.number().int().min(1).max(600).nullable().default(null).describe("photos older than this are removed; null = kept"),
  keepClosedJobsMonths: z.number().int().min(1).max(600).nullable().default(null).describe("jobs closed longer ago are removed; null = kept"),
});
export type ShopSettings = z.infer<typeof shopSettingsSchema>;

export const shopSchema = z.object({ id: z.uuid(), name: z.string(), people: z.array(personSchema), settings: shopSettingsSchema });
export type Shop = z.infer<typeof shopSchema>;

export const jobSummarySchema = z.object({
  id: z.uuid(),
  number: z.number().int(),
  title: z.string(),
  complaint: z.string(),
  stage: z.enum(STAGES),
  vehicle: vehicleSchema,
  codes: z.array(z.string()),
  readings: z.number().int(),
  simulated: z.boolean(),
  assignedTo: z.string().nullable(),
  waitingFor: z.enum(WAITS).nullable(),
  outcome: z.enum(OUTCOMES).nullable(),
  waitingSince: z.string().nullable(),
  promisedAt: z.string().nullable().describe("when the customer gets the vehicle"),
  updatedAt: z.string(),
});
export type JobSummary = z.infer<typeof jobSummarySchema>;

export const jobDetailSchema = z.object({
  id: z.uuid(),
  number: z.number().int(),
  title: z.string(),
  vehicleId: z.uuid(),
  vehicle: vehicleSchema,
  assignedTo: z.string().nullable(),
  bench: z.array(z.enum(INSTRUMENTS)).nullable(),
  circuits: z.array(circuitSchema).describe("as edited up to now"),
  startedWith: z.array(circuitSchema).describe("before any entry edited them"),
  simulated: z.boolean().describe("whether a virtual car stands behind the job, whose instruments can be read"),
  entries: z.array(entrySchema),
  found: z
    .array(foundBeforeSchema.extend({ minutes: z.number().nullable().describe("on the clock to the verdict, in the middle of these jobs") }))
    .describe("what closed and proven jobs of this shop found, by family and unit"),
});
export type JobDetail = Omit<z.infer<typeof jobDetailSchema>, "entries"> & { entries: z.infer<typeof entrySchema>[] };

export const appendSchema = z.object({ entries: z.array(newEntrySchema).min(1).max(200) });
export type Append = z.infer<typeof appendSchema>;

/** Measurements to take on a job's virtual car, all in the same moment. */
export const instrumentSchema = z.object({ measurements: z.array(measurementSchema).min(1).max(12) });
export const instrumentAnswerSchema = z.object({ values: z.array(valueSchema) });
export type InstrumentAnswer = z.infer<typeof instrumentAnswerSchema>;

/** What the call-out shows: one value, its window, and what was made of it. */
export const calloutSchema = z.object({
  job: z.uuid(),
  vehicle: z.string(),
  title: z.string(),
  /** How it is measured, in a line. */
  how: z.string(),
  low: z.number().nullable(),
  high: z.number().nullable(),
  unit: z.string(),
  word: z.string().nullable().describe("the word a healthy circuit shows, where words are read"),
  value: valueSchema.nullable().describe("the last value, or the one being typed"),
  taken: z.boolean().describe("whether the value was taken as a reading"),
  fits: z.boolean().nullable(),
});
export type Callout = z.infer<typeof calloutSchema>;

/** The customer's page of a report, as whoever has its address sees it: nothing else of the job. */
export const sharedPageSchema = z.object({
  shop: z.string().max(200),
  letterhead: z.string().max(600),
  logo: z.string().max(200_000).nullable(),
  page: z.string().max(200),
  vehicle: z.string().max(400),
  vehicleDetails: z.string().max(400),
  sections: z.array(z.object({ title: z.string().max(200), lines: z.array(z.string().max(4000)).max(200) })).max(20),
});
export type SharedPage = z.infer<typeof sharedPageSchema>;

export const shareSchema = z.object({ code: z.string(), by: z.string(), createdAt: z.string(), expiresAt: z.string() });
/** An address under which a customer's page can be seen until it expires. */
export type Share = z.infer<typeof shareSchema>;
export const newShareSchema = z.object({ page: sharedPageSchema, days: z.number().int().min(1).max(90).default(30) });

export const problemSchema = z.object({ code: z.string(), where: z.string(), message: z.string() });

const shortName = z
  .string()
  .trim()
  .regex(/^[a-zA-Z0-9._-]{2,30}$/u, { error: "a short name has 2 to 30 letters, digits, dots or dashes" });
const newPassword = z.string().min(8, { error: "expected at least 8 characters" }).max(128);
const fullName = z.string().trim().min(1, { error: "expected a name" }).max(80);
const ownEmail = z.email({ error: "is not an e-mail address" }).optional();

/** The first person of an installation, who makes its shop. */
export const firstForemanSchema = z.object({
  code: z.string().trim().min(1, { error: "expected the code that stands where Fox Lamp was started" }).max(40),
  shop: z.string().trim().min(1, { error: "expected the shop's name" }).max(120),
  name: fullName,
  username: shortName,
  password: newPassword,
  email: ownEmail,
});
export type FirstForeman = z.infer<typeof firstForemanSchema>;

/** What the front door shows before anybody is signed in. */
export const frontSchema = z.object({
  /** No shop yet: the first visitor makes it. */
  empty: z.boolean(),
  /** The demo's people and how they enter; empty for a real shop. */
  demo: z.array(z.object({ name: z.string(), role: z.enum(ROLES), username: z.string(), password: z.string() })),
});
export type Front = z.infer<typeof frontSchema>;

export const meSchema = personSchema.extend({
  shop: z.uuid(),
  email: z.string().nullable(),
  owner: z.boolean().describe("whether this person may open further shops on the installation"),
});
export type Me = z.infer<typeof meSchema>;

export const newInvitationSchema = z.object({ name: fullName, role: z.enum(ROLES) });
export const invitationSchema = z.object({ code: z.string(), name: z.string(), role: z.enum(ROLES), shop: z.string(), expiresAt: z.string() });
export type Invitation = z.infer<typeof invitationSchema>;
export const acceptInvitationSchema = z.object({ name: fullName, username: shortName, password: newPassword, email: ownEmail });
export type AcceptInvitation = z.infer<typeof acceptInvitationSchema>;
export const changePersonSchema = z.object({ role: z.enum(ROLES).optional(), active: z.boolean().optional() });

/** A code with which somebody sets a new password, once. */
export const passwordResetSchema = z.object({ code: z.string(), expiresAt: z.string() });
export type PasswordReset = z.infer<typeof passwordResetSchema>;
export const newPasswordSchema = z.object({ password: newPassword });

/** A shop as the installation's owner sees it. */
export const shopOfHouseSchema = z.object({ id: z.uuid(), name: z.string(), people: z.number().int(), jobs: z.number().int() });
export type ShopOfHouse = z.infer<typeof shopOfHouseSchema>;
export const newShopSchema = z.object({ name: z.string().trim().min(1, { error: "expected the shop's name" }).max(120), foreman: fullName });

const REMOVED = ["job", "photo", "person"] as const;
export type RemovedThing = (typeof REMOVED)[number];
/** The trace of something that was taken out of the record for good. */
export const removalSchema = z.object({
  id: z.uuid(),
  what: z.enum(REMOVED),
  subject: z.uuid().describe("what it was: the id of the job, photo or person"),
  jobNumber: z.number().int().nullable(),
  by: z.string(),
  reason: z.string(),
  at: z.string(),
});
export type Removal = z.infer<typeof removalSchema>;
export const removeSchema = z.object({ reason: z.string().trim().min(1, { error: "expected a reason" }).max(500) });

/** A new job: on a vehicle of the register, or on a new one. */
export const newJobSchema = z.object({
  vehicleId: z.uuid().optional(),
  vehicle: vehicleSchema.optional(),
  circuits: z.array(circuitSchema).max(MOST_CIRCUITS).default([]),
  entries: z.array(newEntrySchema).min(1).max(200),
});
export type NewJob = z.input<typeof newJobSchema>;

/** A vehicle of the register with its circuits as known so far. */
export const registeredVehicleSchema = z.object({ id: z.uuid(), details: vehicleSchema, circuits: z.array(circuitSchema) });
export type RegisteredVehicle = z.infer<typeof registeredVehicleSchema>;
export const vehicleFileSchema = registeredVehicleSchema.extend({
  jobs: z.array(jobSummarySchema),
  leftOpen: leftOpenSchema.nullable().describe("what the latest closed job on it left undecided"),
  /** Other vehicles of the same make, model and engine. */
  sisters: z.array(registeredVehicleSchema),
});
export type VehicleFile = z.infer<typeof vehicleFileSchema>;

/** What the scan adapter is asked. */
export const scanRequestSchema = z.discriminatedUnion("do", [
  z.object({ do: z.literal("codes") }),
  z.object({ do: z.literal("clear") }),
  z.object({ do: z.literal("command"), circuit: z.string(), on: z.boolean() }),
  z.object({ do: z.literal("live"), seconds: z.number().min(0).max(120).default(0).describe("0 = one moment"), drive: z.boolean().default(false) }),
]);
export type ScanRequest = z.input<typeof scanRequestSchema>;

/** Values of the module's data over time: a list for every channel, as long as `seconds`. */
/** Names of channels are drawn in charts and tables: words, signs of measure, and nothing a page could take for its own. */
const channelName = z
  .string()
  .min(1)
  .max(80)
  .regex(/^[^<>&"'`\p{Cc}]*$/u, { error: "holds a sign that no channel's name may have" });

export const recordingSchema = z.object({
  title: z.string().max(200),
  seconds: z.array(z.number()).max(MOST_MOMENTS),
  channels: z
    .array(
      z.object({
        name: channelName,
        circuit: z.string().max(80).nullable(),
        unit: z.string().max(20),
        values: z.array(z.number().nullable()).max(MOST_MOMENTS),
      }),
    )
    .max(64),
});
export type Recording = z.infer<typeof recordingSchema>;

export const scanAnswerSchema = z.object({
  codes: z.array(codeSchema).optional(),
  lamp: z.boolean().optional(),
  recording: recordingSchema.optional(),
  done: z.boolean().optional(),
});
export type ScanAnswer = z.infer<typeof scanAnswerSchema>;

/** What figures are asked of: a time, a person, a vehicle, a family; what is left out is all of it. */
export const figuresQuerySchema = z.object({
  from: z.iso.date().optional().describe("jobs opened on this day or later"),
  to: z.iso.date().optional().describe("jobs opened on this day or earlier"),
  person: z.uuid().optional(),
  vehicle: z.string().max(100).optional().describe("words of the vehicle: name, make, model, plate"),
  family: z.string().max(60).optional().describe("the family of the circuit at fault"),
});
export type FiguresQuery = z.infer<typeof figuresQuerySchema>;

/** How the shop does. */
export const figuresSchema = z.object({
  jobs: z.number(),
  closed: z.number(),
  proven: z.number(),
  clockMinutes: z.number().nullable().describe("minutes on the clock from the first reading to the verdict, in the middle of the jobs where a clock ran"),
  clocked: z.number().describe("jobs of which that is known"),
  partsSaved: z.number().describe("jobs in which no part was at fault, so that none had to be replaced"),
  moneySaved: z.number(),
  partMinutes: z.number().describe("minutes that one part not replaced is counted as"),
  comebacks: z.number().describe("jobs on a vehicle for a code that an earlier closed job of the last 90 days had"),
  overrides: z.array(z.object({ job: z.uuid(), number: z.number(), unit: z.string(), probability: z.number().nullable(), right: z.boolean().nullable() })),
  faults: z.array(z.object({ vehicle: z.string(), unit: z.string(), circuit: z.string().describe("the circuit's title"), count: z.number() })),
  outcomes: z.record(z.string(), z.number()),
  months: z.array(z.object({ month: z.string().describe("2026-03"), opened: z.number(), proven: z.number(), minutes: z.number().nullable() })),
  families: z.array(z.string()).describe("families of circuits at fault, whatever is asked"),
});
export type Figures = z.infer<typeof figuresSchema>;

/** One job as a row of the figures. */
export const figureRowSchema = z.object({
  number: z.number().int(),
  vehicle: z.string(),
  circuits: z.string(),
  complaint: z.string(),
  codes: z.string(),
  stage: z.enum(STAGES),
  outcome: z.enum(OUTCOMES).nullable(),
  unit: z.string().nullable(),
  minutes: z.number().nullable(),
  readings: z.number(),
  person: z.string().nullable(),
  opened: z.string(),
  touched: z.string(),
});
export type FigureRow = z.infer<typeof figureRowSchema>;

export const YARD_SORTS = ["touched", "opened", "promised", "waiting"] as const;
/** What the yard shows: words, whose jobs, what they wait for, a code, how long nobody touched them, in which order. */
export const yardQuerySchema = z.object({
  q: z.string().max(200).default(""),
  mine: z
    .enum(["yes", "no"])
    .default("no")
    .transform((word) => word === "yes"),
  person: z.union([z.uuid(), z.literal("nobody")]).optional(),
  waiting: z.enum([...WAITS, "any"]).optional(),
  code: z.string().max(20).optional(),
  idleDays: z.coerce.number().int().min(0).max(3650).optional().describe("nobody touched it for so many days"),
  promised: z
    .enum(["yes", "no"])
    .default("no")
    .transform((word) => word === "yes")
    .describe("only jobs that are promised for a time"),
  sort: z.enum(YARD_SORTS).default("touched"),
});
export type YardQuery = z.infer<typeof yardQuerySchema>;
