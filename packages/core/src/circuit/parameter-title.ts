import { z } from "zod";
import type { Family } from "./family";

/** What a parameter of a family is called, with its unit, as its schema describes it; empty where it is none or describes nothing. */
export function parameterTitle({ parameters }: Pick<Family, "parameters">, name: string): string {
  if (!(parameters instanceof z.ZodObject)) return "";
  const field: unknown = parameters.shape[name];
  return field instanceof z.ZodType ? (field.description ?? "") : "";
}
