import { BadInput, type Circuit, type Problem, type Reading } from "@fox-lamp/language";
import { buildModel, familyById, type Model } from "../circuit";
import { probeOf } from "../instruments";
import type { JobRules } from "./decide";

/** Why something cannot be; null when it can. @throws whatever is no problem of the input */
export function problemIn(attempt: () => unknown): Problem | null {
  try {
    attempt();
    return null;
  } catch (error) {
    if (error instanceof BadInput) return error.problem;
    throw error;
  }
}

/** Networks of sheets that are asked about again and again; a sheet is never changed, it is replaced. */
const MODELS = new WeakMap<readonly Circuit[], Model>();

/** The circuits as a network; without what they share where a shared wire is not on the sheet yet. */
function modelOf(circuits: readonly Circuit[]): Model {
  const known = MODELS.get(circuits);
  if (known !== undefined) return known;
  const model = builtFrom(circuits);
  MODELS.set(circuits, model);
  return model;
}

function builtFrom(circuits: readonly Circuit[]): Model {
  try {
    return buildModel(circuits);
  } catch (error) {
    if (!(error instanceof BadInput)) throw error;
    return buildModel(circuits.map(({ shares: _shares, ...alone }) => alone));
  }
}

/** The part of the rules that knows circuits. */
export const circuitRules: Pick<JobRules, "cleanable" | "misplaced"> = {
  cleanable: (family) => familyById(family)?.traits.cleanable === true,
  misplaced: (circuits, readings) => {
    if (readings.length === 0) return null;
    if (circuits.length === 0)
      return { code: "circuit:unknown", where: readings[0]?.where ?? "", message: "this job has no circuit yet; expected one on the sheet before a reading" };
    return problemIn(() => {
      const model = modelOf(circuits);
      for (const { reading, where } of readings) probeOf(model, reading as Reading, where);
    });
  },
};

/** Refuses circuits no bench could open. @throws BadInput that says which and why */
export function assertCircuits(circuits: readonly Circuit[], where = "circuits"): void {
  if (circuits.length > 0) buildModel(circuits, where);
}
