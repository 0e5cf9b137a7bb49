import type { Circuit } from "@fox-lamp/language";
import { pressureWorld, USUAL_TRANSFER } from "./pressure";

/** Whether a circuit's sensor sees the outside air with the key on: a manifold or barometric pressure sensor. */
export function seesOutsideAir({ family, with: given }: Circuit): boolean {
  if (family !== "pressure-3w" && family !== "pressure-freq") return false;
  const transfer = given?.["transfer"] ?? USUAL_TRANSFER[family];
  return isLine(transfer) && pressureWorld(transfer).settable.length > 0;
}

function isLine(given: unknown): given is readonly (readonly [number, number])[] {
  return Array.isArray(given) && given.length >= 2 && given.every((row) => Array.isArray(row) && typeof row[0] === "number" && typeof row[1] === "number");
}
