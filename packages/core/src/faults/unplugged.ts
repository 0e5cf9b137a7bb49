import type { Setup } from "@fox-lamp/language";

/** Whether a setup leaves a circuit's sensor unplugged; a place without a circuit's name is that of the circuit asked about. */
export function isUnplugged({ open = [] }: Pick<Setup, "open">, circuit: string): boolean {
  return open.some((place) => place === "sensor" || place === `${circuit}:sensor`);
}
