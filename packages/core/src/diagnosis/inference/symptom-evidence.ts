import type { Reading } from "@fox-lamp/language";
import { wordTable } from "../predictions/table";
import { type CodeObservation, REMARK_WORDS } from "./code-evidence";
import type { Inference } from "./inference";
import type { NamedReading } from "./observe";
import { ELSEWHERE, movedPlace, shownWhile } from "./presence";

/**
 * Where moving brought the complaint, and where it did not: the place that is moved when it shows is likely its own. Says nothing for
 * readings that state no complaint or move nothing.
 *
 * @param onlyCircuit the circuit of readings that name none
 */
export function symptomObservations(inference: Inference, own: readonly NamedReading[], onlyCircuit: string): CodeObservation[] {
  const { grid } = inference;
  return own.flatMap(({ reading, id }): CodeObservation[] => {
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
    const said: Reading = { circuit: circuit.id, meter: "look", red: at, value: reading.symptom ? REMARK_WORDS[0] : REMARK_WORDS[1] };
    const table = wordTable({ kind: "look", circuit, place: at, setup: {} }, REMARK_WORDS, words);
    return [{ observation: { id: name, key: name, table, number: null, word: reading.symptom ? 0 : 1 }, reading: said }];
  });
}
