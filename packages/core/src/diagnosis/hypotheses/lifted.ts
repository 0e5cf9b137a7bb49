import { isGroundRole, parsePoint, type Reading } from "@fox-lamp/language";
import type { Model } from "../../circuit";

/** A ground above this, with no starter turning, stands too high, volts: the usual limit and a little. */
const LIFTED_VOLTS = 0.12;
const FIXED_GROUNDS: readonly string[] = ["bat-", "engine", "chassis"];

/** Whether a reading shows a ground of the module's that stands too high. */
function isLifted(model: Model, owner: string, { meter, red, black = "bat-", setup, value }: Reading): boolean {
  if (meter !== "volts-dc" || !FIXED_GROUNDS.includes(black) || setup?.key === "crank" || typeof value === "string") return false;
  const point = parsePoint(red);
  if (point?.kind !== "pin") return false;
  const circuit = model.circuits.find(({ id }) => id === (point.circuit ?? owner));
  const path = circuit?.paths.find((own) => own.pin === point.pin);
  if (path === undefined || path.origin !== "module" || !isGroundRole(path.role)) return false;
  return (typeof value === "number" ? value : value.min) > LIFTED_VOLTS;
}

/**
 * Circuits on which a low reference of the module's was found too high, where there are two and more: the module's own ground may have lifted them
 * all. Circuits of one such reading say nothing of each other.
 *
 * @param readings with the circuit each was taken on
 */
export function liftedTogether(model: Model, readings: readonly { readonly owner: string; readonly reading: Reading }[]): readonly string[] {
  const lifted = new Set(readings.filter(({ owner, reading }) => isLifted(model, owner, reading)).map(({ owner }) => owner));
  return lifted.size < 2 ? [] : [...lifted];
}
