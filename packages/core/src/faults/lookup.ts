import { BadInput, circuitOfUnit, type FaultRef } from "@fox-lamp/language";
import type { Model } from "../circuit";
import { type Fault, type FaultVariant, middleSeverity, type PlacedFault } from "./fault";

/** Both spellings of a short between two wires name the same damage; the listed one is returned. */
function listedId(id: string): readonly string[] {
  const match = /^([^/]+)\/wire:([^/]+)\/short-to:(.+)$/u.exec(id);
  return match ? [id, `${match[1]}/wire:${match[3]}/short-to:${match[2]}`] : [id];
}

/**
 * Finds a fault a file names and settles its severity (the middle of its range when none is given). A `direction` of -1
 * turns a two-way fault round; `section` says which stretch of the wire.
 *
 * @throws BadInput for a fault the circuits do not have, or a severity of the wrong kind
 */
export function placeFault(model: Model, faults: readonly Fault[], reference: FaultRef, where: string): PlacedFault {
  const names = listedId(reference.id);
  const fault = faults.find((candidate) => names.includes(candidate.id));
  if (!fault) {
    const circuit = circuitOfUnit(reference.id);
    const known = circuit === model.carId || model.circuits.some((candidate) => candidate.id === circuit);
    const message = known
      ? `"${reference.id}" is not a fault of ${circuit}; the command faults lists them`
      : `no circuit is called "${circuit}"; expected one of ${model.circuits.map((candidate) => candidate.id).join(", ")}`;
    throw new BadInput({ code: "fault:unknown", where: `${where}.id`, message });
  }
  const scale = fault.severity;
  if (reference.ohms !== undefined && scale?.key !== "ohms") {
    throw new BadInput({
      code: "fault:severity",
      where: `${where}.ohms`,
      message: `${fault.id} has no ohms; expected ${scale === null ? "no severity" : "severity from 0 to 1"}`,
    });
  }
  if (reference.severity !== undefined && scale?.key === "ohms") {
    throw new BadInput({ code: "fault:severity", where: `${where}.severity`, message: `${fault.id} is measured in ohms; expected ohms` });
  }
  const direction = reference["direction"] === -1 ? -1 : 1;
  const section = typeof reference["section"] === "number" ? reference["section"] : 0;
  const variant = fault.variants.find((candidate) => candidate.direction === direction && candidate.section === section) ?? (fault.variants[0] as FaultVariant);
  return { fault, severity: reference.ohms ?? reference.severity ?? middleSeverity(scale), variant };
}
