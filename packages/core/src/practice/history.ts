import { type Circuit, type FoundBefore, localUnitOf } from "@fox-lamp/language";
import { buildModel } from "../circuit";
import { type Fault, faultsOf } from "../faults";
import type { Random } from "../numeric";

/** What a trial's shop knows of a model that usually fails in one unit: what it does, something else, or nothing. */
export const HISTORIES = ["fits", "misleads", "unknown"] as const;
export type History = (typeof HISTORIES)[number];

/** Half of the jobs on such a model are its usual failure; the shop has closed so many of them before. */
export const PATTERN_SHARE = 0.5;
const CLOSED_BEFORE = 10;

/** A model of a family: the unit it usually fails in, and what the shop has found on it. */
export interface KnownModel {
  readonly pattern: string;
  readonly learnt: readonly FoundBefore[];
}

/** Draws a model of a family and the shop's history of it. Contacts, wires and parts fail by pattern; the module and the car do not. */
export function knownModel(circuits: readonly Circuit[], family: string, history: History, random: Random): KnownModel {
  const faults = faultsOf(buildModel(circuits)).filter(({ prior, circuit }) => prior > 0 && circuits.some(({ id }) => id === circuit));
  const units = [...new Set(faults.map(({ id }) => localUnitOf(id)))].filter((unit) => /^(?:sensor|coil|heater|wire|contact)/u.test(unit));
  const pattern = units[random.below(units.length)] ?? "sensor";
  const others = units.filter((unit) => unit !== pattern);
  const remembered = history === "misleads" ? (others[random.below(others.length)] ?? pattern) : pattern;
  const counts = new Map<string, number>();
  const draw = (): Fault | undefined => faults[random.weighted(faults.map(({ prior }) => prior))];
  for (let job = 0; job < CLOSED_BEFORE; job += 1) {
    const unit = random.uniform() < PATTERN_SHARE ? remembered : localUnitOf(draw()?.id ?? "");
    counts.set(unit, (counts.get(unit) ?? 0) + 1);
  }
  const learnt = [...counts].map(([unit, count]): FoundBefore => ({ family, unit, model: count, shop: count }));
  return { pattern, learnt: history === "unknown" ? [] : learnt };
}
