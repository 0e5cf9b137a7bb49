import type { Circuit } from "@fox-lamp/language";
import { familyById } from "./families";
import { pressureWorld } from "./families/pressure-3w";

/** Whether a circuit's sensor sees the outside air with the key on: a manifold or barometric pressure sensor. */
export function seesOutsideAir(circuit: Circuit): boolean {
  if (circuit.family !== "pressure-3w" && circuit.family !== "pressure-freq") return false;
  const parsed = familyById(circuit.family)?.parameters.safeParse(circuit.with ?? {});
  const transfer = parsed?.success === true ? (parsed.data as { transfer?: readonly (readonly [number, number])[] }).transfer : undefined;
  return transfer !== undefined && pressureWorld(transfer).settable.length > 0;
}
