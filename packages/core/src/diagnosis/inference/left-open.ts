import type { LeftOpen } from "@fox-lamp/language";
import { wordTable } from "../predictions/table";
import { type CodeObservation, REMARK_WORDS } from "./code-evidence";
import type { Inference } from "./inference";

/** The trouble an earlier job left open is the trouble of this one this often; else it is another, or something was repaired since. */
const SAME_TROUBLE = 0.7;
/** What is said of one unit is never so little that a reading could not turn it. */
const LEAST_SHARE = 0.02;

/**
 * What an earlier job on the same car left undecided, as an observation: units it suspected start where it ended, others keep their share.
 * It guides the search like a code and clears nothing: only readings of this job prove.
 */
export function leftOpenObservations(inference: Inference, left: LeftOpen | undefined): CodeObservation[] {
  const { grid } = inference;
  const ids = new Set(inference.circuits.map(({ id }) => id));
  const suspected = new Map((left?.units ?? []).filter(({ unit }) => ids.has(unit.split("/")[0] ?? "")).map(({ unit, probability }) => [unit, probability]));
  const [circuit] = inference.circuits;
  if (suspected.size === 0 || circuit === undefined) return [];
  const prior = new Map<string, number>();
  let known = 0;
  for (const fault of inference.own.grid.faults) {
    if (fault === null) continue;
    prior.set(fault.unit, (prior.get(fault.unit) ?? 0) + fault.prior);
    known += fault.prior;
  }
  /** How much likelier the earlier job made a unit; the parts of a pair count by the better one. */
  const factor = (unit: string): number =>
    Math.max(
      ...unit.split("&").map((part) => {
        const share = (prior.get(part) ?? 0) / Math.max(known, Number.MIN_VALUE);
        const before = Math.max(share, LEAST_SHARE);
        return 1 - SAME_TROUBLE + (SAME_TROUBLE * (suspected.get(part) ?? 0)) / before;
      }),
    );
  const factors = grid.faults.map((fault) => (fault === null ? 1 - SAME_TROUBLE : factor(fault.unit)));
  const top = Math.max(...factors);
  const words = new Float64Array(2 * grid.count);
  for (let cell = 0; cell < grid.count; cell += 1) {
    const shown = (factors[grid.fault[cell] ?? 0] ?? 1) / top;
    words[2 * cell] = shown;
    words[2 * cell + 1] = 1 - shown;
  }
  const name = left?.job === undefined ? "left open before" : `left open in job ${left.job}`;
  const table = wordTable({ kind: "look", circuit, place: "part", setup: {} }, REMARK_WORDS, words);
  return [
    {
      observation: { id: name, key: `${name} ${JSON.stringify([...suspected])}`, table, number: null, word: 0 },
      reading: { circuit: circuit.id, meter: "look", red: "part", value: REMARK_WORDS[0] },
    },
  ];
}
