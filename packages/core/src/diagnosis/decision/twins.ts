import { circuitOfUnit, type PinRole, parseUnit } from "@fox-lamp/language";
import type { CircuitModel } from "../../circuit";
import type { CircuitPosterior } from "../posterior/posterior";
import { REFUTED_LOG, unitBest } from "../posterior/unit-evidence";

/** Pins whose inner end a stage of the module is, by role. */
const ROLES_OF_STAGE: Readonly<Record<string, readonly PinRole[]>> = {
  ref: ["reference", "feed"],
  gnd: ["ground", "return"],
  pull: ["signal"],
  input: ["signal"],
  bias: ["signal"],
  driver: ["control", "heater-control"],
};

/** Whether one unit is a stage of the module and the other the module's own pin of it: a back-probe never tells these apart. */
function areTwins(circuit: CircuitModel, first: string, second: string): boolean {
  const units = [parseUnit(first), parseUnit(second)];
  const stage = units.find((unit) => unit?.kind === "module")?.stage;
  const contact = units.find((unit) => unit?.kind === "contact" && unit.place === "module");
  if (stage === undefined || contact?.kind !== "contact") return false;
  const role = circuit.pins.find(({ pin }) => pin === contact.pin)?.role;
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
  const circuit = inference.circuits.find(({ id }) => id === circuitOfUnit(first) && id === circuitOfUnit(second));
  if (circuit === undefined || !areTwins(circuit, first, second)) return false;
  const best = unitBest(grid, evidence.logLikelihood);
  return best[rival] - best[leader] >= REFUTED_LOG;
}
