import { unitKind, viewsOf } from "@fox-lamp/core";
import type { Circuit, Diagnosis } from "@fox-lamp/language";
import { namerOf } from "../../../circuit/names-of";
import { localUnitsOf } from "../../../circuit/units";
import { messages } from "../../../messages";

/** What can be done to a unit: something new is fitted, it is repaired, or cleaned. */
export const ACTS = ["fitted", "repaired", "cleaned"] as const;
export type Act = (typeof ACTS)[number];

/** Every unit of the job's circuits that something can be done to: parts first, then wires and contacts, then the module's own. */
export function unitsOfJob(circuits: readonly Circuit[]): readonly (readonly [unit: string, title: string])[] {
  const nameOf = namerOf(circuits);
  const rank = (unit: string): number => ["part", "wire", "contact"].indexOf(unitKind(unit)) >>> 0;
  return viewsOf(circuits)
    .flatMap((view) => localUnitsOf(view).map((local) => `${view.id}/${local}`))
    .sort((a, b) => rank(a) - rank(b))
    .map((unit) => [unit, nameOf(unit)] as const);
}

/** What is usually done to a unit, where nobody said. @param remedy what was decided where it was found */
export function usualAct(unit: string, remedy?: string): Act {
  if (remedy === "clean") return "cleaned";
  if (remedy === "part" || remedy === "module" || remedy === "loom") return "fitted";
  if (remedy === "wire" || remedy === "contact") return "repaired";
  const kind = unitKind(unit);
  return kind === "part" || kind === "module" || kind === "battery" ? "fitted" : "repaired";
}

/** What fitting a unit before proof would risk: how likely it is the cause, and what is lost on average where it is not. */
export interface Odds {
  readonly probability: number;
  /** Minutes of work; null where nothing says what a wrong part costs. */
  readonly lossMinutes: number | null;
}

/** The odds of a unit as a diagnosis sees it. */
export function oddsOf(unit: string, { units, stake }: Pick<Diagnosis, "units" | "stake">): Odds {
  const probability = units.find((candidate) => candidate.unit === unit)?.probability ?? 0;
  const perWrong = stake == null || stake.wrong === 0 ? null : stake.lossMinutes / stake.wrong;
  return { probability, lossMinutes: perWrong === null ? null : Math.round(perWrong * (1 - probability)) };
}

/** {@link Odds} in a sentence. */
export function oddsText(title: string, { probability, lossMinutes }: Odds, percent: (probability: number) => string): string {
  const t = messages.repair;
  return `${t.odds(title, percent(probability))}${lossMinutes === null ? "" : ` ${t.oddsLoss(lossMinutes)}`}`;
}
