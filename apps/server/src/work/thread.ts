import { BadInput } from "@fox-lamp/language";
import { JOBS, type JobName } from "./jobs";

/** Runs one computation on this thread; a refusal is told as data, since errors lose their kind on the way. */
export default function run({ name, input }: { readonly name: JobName; readonly input: never }): {
  ok: boolean;
  value?: unknown;
  problem?: BadInput["problem"];
} {
  try {
    return { ok: true, value: JOBS[name](input) };
  } catch (error) {
    if (error instanceof BadInput) return { ok: false, problem: error.problem };
    throw error;
  }
}
