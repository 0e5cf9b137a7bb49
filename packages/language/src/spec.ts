import { z } from "zod";
import { circuitsSchema } from "./circuit";
import { METERS } from "./meters";
import { setupSchema } from "./setup";

/** A file holds no more than this. */
const [MOST_LIMITS, MOST_CURVES] = [5000, 1000];

/** Where a specification comes from, the least certain last. */
export const SPEC_SOURCES = ["own", "document", "sister", "computed"] as const;

const sourceSchema = z.strictObject({
  kind: z.enum(SPEC_SOURCES).describe("own measurement, a document, a sister vehicle, computed from the circuit"),
  title: z.string().min(1).max(300),
  edition: z.string().max(100).optional(),
});

/** Which vehicles a specification is of; what is left out is not narrowed. */
export const specVehicleSchema = z
  .strictObject({
    make: z.string().min(1).optional(),
    model: z.string().min(1).optional(),
    engine: z.string().min(1).optional(),
    years: z.tuple([z.number().int(), z.number().int()]).optional().describe("first and last model year"),
  })
  .default({});

const ofSchema = {
  id: z.string().min(1).max(80).optional(),
  vehicle: specVehicleSchema,
  family: z.string().min(1),
  circuit: z.string().min(1).optional().describe("of the file's circuits; the family's usual one unless given"),
  source: sourceSchema,
  date: z.iso.date().optional(),
  by: z.string().max(120).optional(),
  confidence: z.number().min(0).max(1).optional(),
};

/** How hard the engine works while a reading is taken: `full` is a snapped or wide open throttle, `part` a road. */
export const LOADS = ["none", "part", "full"] as const;
export type Load = (typeof LOADS)[number];

/** Where leads go, in which state, under which conditions a specification holds. */
const atSchema = {
  meter: z.enum(METERS),
  red: z.string().min(1),
  black: z.string().min(1).optional(),
  setup: setupSchema.optional(),
  load: z.enum(LOADS).optional().describe("of the engine; any unless given"),
  altitude: z
    .tuple([z.number().min(-500).max(11_000), z.number().min(-500).max(11_000)])
    .refine(([low, high]) => low <= high, { error: "the lower altitude lies above the higher one" })
    .optional()
    .describe("metres above the sea it holds for, lowest and highest"),
};

/** What a reading should be, by somebody's word: limits, in which state, on which vehicles, from where. */
export const specLimitSchema = z
  .strictObject({
    ...ofSchema,
    ...atSchema,
    low: z.number().optional(),
    high: z.number().optional(),
    nominal: z.number().optional(),
    unit: z.string().min(1).describe("of its numbers; mV, kohm and their like are brought to base units"),
  })
  .refine(({ low, high, nominal }) => low !== undefined || high !== undefined || nominal !== undefined, { error: "expected a low, a high or a nominal value" });
export type SpecLimit = z.infer<typeof specLimitSchema>;

export const CURVE_KINDS = [
  "temperature-ohms",
  "pressure-volts",
  "pressure-hertz",
  "altitude-volts",
  "altitude-hertz",
  "flow-volts",
  "flow-hertz",
  "position-volts",
] as const;

/** A chart: what a sensor shows over what it senses, point by point in base units. */
export const specCurveSchema = z.strictObject({
  ...ofSchema,
  kind: z.enum(CURVE_KINDS),
  points: z
    .array(z.tuple([z.number(), z.number()]))
    .min(2, { error: "expected two points at least" })
    .max(500),
  tolerance: z.number().min(0).max(1).optional().describe("relative, of what is shown"),
});
export type SpecCurve = z.infer<typeof specCurveSchema>;

/** A part that looks like others of its kind: what tells it apart, measured before it is fitted. */
export const specVariantSchema = z
  .strictObject({
    ...ofSchema,
    part: z.string().min(1).max(120).describe("number or name of the part"),
    ohms: z
      .tuple([z.number().min(0), z.number().min(0)])
      .optional()
      .describe("between its own terminals, least and most"),
    degC: z.number().min(-80).max(400).optional().describe("temperature at which it has these ohms"),
    line: z
      .array(z.tuple([z.number(), z.number()]))
      .min(2)
      .max(500)
      .optional()
      .describe("what it shows over what it senses, as in a curve"),
    teeth: z.number().int().min(1).max(400).optional().describe("of the wheel it belongs to"),
    connector: z.string().max(120).optional(),
    seal: z.string().max(120).optional(),
    torque: z.string().max(60).optional(),
  })
  .refine(({ ohms }) => ohms === undefined || ohms[0] <= ohms[1], { error: "the least ohms lie above the most", path: ["ohms"] });
export type SpecVariant = z.infer<typeof specVariantSchema>;

/** What a sound car was found to read: no limit, something to compare with. */
export const specKnownSchema = z.strictObject({
  ...ofSchema,
  ...atSchema,
  value: z.number(),
  unit: z.string().min(1),
});
export type SpecKnown = z.infer<typeof specKnownSchema>;

/** What stands on a shelf. */
export const SHELF_KINDS = ["limit", "curve", "variant", "known"] as const;
export type ShelfKind = (typeof SHELF_KINDS)[number];

/** One thing of a shelf with its kind. */
export const shelfRecordSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("limit"), record: specLimitSchema }),
  z.strictObject({ kind: z.literal("curve"), record: specCurveSchema }),
  z.strictObject({ kind: z.literal("variant"), record: specVariantSchema }),
  z.strictObject({ kind: z.literal("known"), record: specKnownSchema }),
]);
export type ShelfRecord = z.infer<typeof shelfRecordSchema>;

/** Specifications and curves of some vehicles, with the circuits they are compared with. */
export const specFileSchema = z.looseObject({
  format: z.literal("fox-lamp/spec@1", { error: (issue) => `"${String(issue.input)}" cannot be read; expected "fox-lamp/spec@1"` }).optional(),
  circuits: circuitsSchema.optional(),
  limits: z.array(specLimitSchema).max(MOST_LIMITS).default([]),
  curves: z.array(specCurveSchema).max(MOST_CURVES).default([]),
  variants: z.array(specVariantSchema).max(MOST_LIMITS).default([]),
  known: z.array(specKnownSchema).max(MOST_LIMITS).default([]),
});
export type SpecFile = z.infer<typeof specFileSchema>;
