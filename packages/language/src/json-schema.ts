import { z } from "zod";
import { captureFileSchema } from "./capture";
import { circuitSchema } from "./circuit";
import { diagnosisSchema } from "./diagnosis";
import { jobSchema, measureFileSchema } from "./job";
import { keysOf } from "./keys";
import { specCurveSchema, specFileSchema } from "./spec";

const SCHEMAS = {
  job: jobSchema,
  circuit: circuitSchema,
  diagnosis: diagnosisSchema,
  capture: captureFileSchema,
  measure: measureFileSchema,
  spec: specFileSchema,
  curve: specCurveSchema,
} as const;

/** Names of the published JSON Schemas. */
export const SCHEMA_NAMES = keysOf(SCHEMAS);

/** The JSON Schema (draft 2020-12) of a format, generated from its Zod schema; null for an unknown name. */
export function jsonSchemaOf(name: string): Record<string, unknown> | null {
  const schema = Object.hasOwn(SCHEMAS, name) ? SCHEMAS[name as keyof typeof SCHEMAS] : undefined;
  if (schema === undefined) return null;
  return { title: `fox-lamp/${name}@1`, ...z.toJSONSchema(schema, { io: "input", unrepresentable: "any" }) };
}
