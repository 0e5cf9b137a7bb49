import { assertCircuits, problemIn } from "@fox-lamp/core";
import { BadInput, type NewEntry } from "@fox-lamp/language";

/** Refuses circuits entries bring that no bench could open; whose wires they share is seen when all of the job's are there. @throws BadInput */
export function assertCircuitEntries(entries: readonly NewEntry[]): void {
  entries.forEach((entry, index) => {
    if (entry.kind !== "circuit" || !("circuit" in entry.body)) return;
    const { shares: _shares, ...alone } = entry.body.circuit;
    const problem = problemIn(() => assertCircuits([alone]));
    if (problem !== null) throw new BadInput({ ...problem, where: problem.where.replace("circuits[0]", `entries[${index}].body.circuit`) });
  });
}
