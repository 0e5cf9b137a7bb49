import { buildModel } from "@fox-lamp/core/circuit";
import { BadInput, type Circuit, type NewEntry } from "@fox-lamp/language";

/** Refuses circuits no bench could open. @throws BadInput that says which and why */
export function assertCircuits(circuits: readonly Circuit[]): void {
  if (circuits.length > 0) buildModel(circuits);
}

/** The same for circuits entries bring; whose wires they share is seen when all of the job's are there. @throws BadInput */
export function assertCircuitEntries(entries: readonly NewEntry[]): void {
  entries.forEach((entry, index) => {
    if (entry.kind !== "circuit" || !("circuit" in entry.body)) return;
    const { shares: _shares, ...alone } = entry.body.circuit;
    try {
      buildModel([alone]);
    } catch (error) {
      if (!(error instanceof BadInput)) throw error;
      const { problem } = error;
      throw new BadInput({ ...problem, where: problem.where.replace("circuits[0]", `entries[${index}].body.circuit`) });
    }
  });
}
