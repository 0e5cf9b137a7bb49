import type { Circuit } from "@fox-lamp/language";
import { FAMILIES } from "./families";
import type { Family } from "./family";
import { statedParameters } from "./provenance";

/** A circuit as its sheet may be meant, with how often such a one is met. */
export interface MeantCircuit {
  readonly circuit: Circuit;
  readonly weight: number;
}

/**
 * What a sheet may mean where it is silent about something that sets kinds of sound circuits far apart; the usual kind first, the circuit
 * as it stands alone where nothing is open. What an alternative adds is marked as the family's, so that it stays uncertain.
 */
export function alternativesOf(circuit: Circuit, families: readonly Family[] = FAMILIES): readonly MeantCircuit[] {
  const family = families.find(({ id }) => id === circuit.family);
  if (family?.alternatives === undefined) return [{ circuit, weight: 1 }];
  const { values, origins } = statedParameters(circuit.with);
  const shared = new Set(Object.keys(circuit.shares ?? {}));
  const fed = family.referenceParameter !== undefined && (shared.has("ref") || shared.has("feed"));
  const silent = (parameter: string): boolean => !origins.has(parameter) && !(fed && parameter === family.referenceParameter);
  const list = family.alternatives(silent, values);
  if (list.length === 0) return [{ circuit, weight: 1 }];
  return list.map(({ with: meant, weight }) => {
    const added = Object.fromEntries(Object.entries(meant).map(([name, value]) => [name, { value, from: "family" }]));
    return { circuit: { ...circuit, with: { ...circuit.with, ...added } }, weight };
  });
}
