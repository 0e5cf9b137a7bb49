import { familyNamed, formatPercent } from "@fox-lamp/core";
import type { Circuit, LeftOpen } from "@fox-lamp/language";
import { titleOf } from "./wording";

/** What is needed to call a circuit's units by their names. */
export interface NamedCircuit {
  readonly id: string;
  readonly title: string;
  readonly part: string;
}

/** A job's circuits by their names, without building their models. */
export function namedCircuits(circuits: readonly Circuit[]): NamedCircuit[] {
  return circuits.map(({ id, title, family }) => ({ id, title: title ?? id, part: familyNamed(family)?.part ?? "Sensor" }));
}

/** Titles of units as the job's circuits call them. */
export function namerOf(circuits: readonly Circuit[]): (unit: string) => string {
  const views = namedCircuits(circuits);
  return (unit) => titleOf(unit, views);
}

/** Who is suspected and how likely, in a line. */
export function leftOpenText({ units }: LeftOpen, circuits: readonly Circuit[]): string {
  const nameOf = namerOf(circuits);
  return units.map(({ unit, probability }) => `${nameOf(unit)} ${formatPercent(probability)}`).join(", ");
}
