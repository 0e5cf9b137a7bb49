import type { Reading } from "@fox-lamp/language";
import { wordTable } from "../predictions/table";
import { type CodeObservation, REMARK_WORDS } from "./code-evidence";
import type { Inference } from "./inference";
import type { NamedReading } from "./observe";
import { ELSEWHERE, isStill, movedPlace, shownWhile } from "./presence";

/** Whether the complaint was there when last nothing was moved, before a reading of a job; where nobody has said, it was not. */
function standingBefore(own: readonly NamedReading[], at: number): boolean {
  const still = own.slice(0, at).filter(({ reading }) => reading.symptom !== undefined && isStill(reading));
  return still.at(-1)?.reading.symptom ?? false;
}

/**
 * Where moving brought the complaint or took it away, and where it did neither: the place that is moved when it comes or goes is likely its own. Says
 * nothing for readings that state no complaint or move nothing.
 *
 * @param own in the order in which they were taken
 * @param onlyCircuit the circuit of readings that name none
 */
export function symptomObservations(inference: Inference, own: readonly NamedReading[], onlyCircuit: string): CodeObservation[] {
  const { grid } = inference;
  return own.flatMap(({ reading, id }, index): CodeObservation[] => {
    const at = movedPlace(reading);
    if (reading.symptom === undefined || at === null) return [];
    const circuit = inference.circuitOf(reading.circuit ?? onlyCircuit);
    const shares = grid.faults.map((fault) => (fault === null ? ELSEWHERE : shownWhile(fault.unit, at, circuit.id)));
    const words = new Float64Array(2 * grid.count);
    for (let cell = 0; cell < grid.count; cell += 1) {
      const shown = shares[grid.fault[cell] ?? 0] ?? ELSEWHERE;
      words[2 * cell] = shown;
      words[2 * cell + 1] = 1 - shown;
    }
    const name = `move of ${at} (${id})`;
    const word = reading.symptom === standingBefore(own, index) ? 1 : 0;
    const said: Reading = { circuit: circuit.id, meter: "look", red: at, value: REMARK_WORDS[word] };
    const table = wordTable({ kind: "look", circuit, place: at, setup: {} }, REMARK_WORDS, words);
    return [{ observation: { id: name, key: name, table, number: null, word }, reading: said }];
  });
}
