import type { CircuitModel, Role } from "../../circuit";
import type { CircuitPosterior } from "../posterior/posterior";
import { REFUTED_LOG, unitBest } from "../posterior/unit-evidence";

/** Pins whose inner end a stage of the module is, by role. */
const ROLES_OF_STAGE: Readonly<Record<string, readonly Role[]>> = {
  ref: ["reference", "feed"],
  gnd: ["ground", "return"],
  pull: ["signal"],
  input: ["signal"],
  bias: ["signal"],
  driver: ["control", "heater-control"],
};

/** Whether one unit is a stage of the module and the other the module's own pin of it: a back-probe never tells these apart. */
function areTwins(circuit: CircuitModel, first: string, second: string): boolean {
  const [one = "", other = ""] = [first, second].map((unit) => unit.slice(circuit.id.length + 1));
  const stage = [one, other].find((local) => local.startsWith("module:"))?.slice("module:".length);
  const pin = [one, other].find((local) => local.startsWith("contact:") && local.endsWith("@module"))?.slice("contact:".length, -"@module".length);
  if (stage === undefined || pin === undefined) return false;
  const role = circuit.pins.find((candidate) => candidate.pin === pin)?.role;
  return role !== undefined && (ROLES_OF_STAGE[stage] ?? []).includes(role);
}

/**
 * Whether a rival of the leader is its other half at the module and some severity of it explains the readings as well as the leader
 * does. Averaged over its severities it may look refuted (few of them show just this value), but no back-probe has looked behind the
 * pin, so the verdict names both.
 */
export function isUntoldTwin({ inference, evidence }: CircuitPosterior, leader: number, rival: number): boolean {
  const { grid } = inference;
  const [first, second] = [grid.units[leader] ?? "", grid.units[rival] ?? ""];
  const circuit = inference.circuits.find(({ id }) => first.startsWith(`${id}/`) && second.startsWith(`${id}/`));
  if (circuit === undefined || !areTwins(circuit, first, second)) return false;
  const best = unitBest(grid, evidence.logLikelihood);
  return (best[rival] as number) - (best[leader] as number) >= REFUTED_LOG;
}
