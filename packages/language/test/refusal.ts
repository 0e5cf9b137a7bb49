import { BadInput } from "../src";

/** The sentence a call is refused with. @throws Error when it is not refused, or fails otherwise */
export function refusalOf(run: () => unknown): string {
  try {
    run();
  } catch (error) {
    if (error instanceof BadInput) return error.message;
    throw error;
  }
  throw new Error("nothing was refused");
}
