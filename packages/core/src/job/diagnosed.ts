import type { Circuit, Code, Facts, FoundBefore, Instrument, Reading, ShopSettings } from "@fox-lamp/language";
import { INSTRUMENTS } from "@fox-lamp/language";
import { barometricKPa } from "../arithmetic";
import type { Conditions } from "../procedures";
import type { JobState } from "./state";

/** Ids of the readings a battery entry stands for; they prove no circuit, they tell every prediction what feeds it. */
export const BATTERY_READINGS = ["battery-rest", "battery-cranking"] as const;

/** The battery's own voltages as readings at its posts, so that they count in every later prediction. */
function batteryReadings({ battery }: JobState, circuit: string | undefined): Reading[] {
  if (battery === null || circuit === undefined) return [];
  const posts = { circuit, meter: "volts-dc", red: "bat+", black: "bat-" } as const;
  const [rest, cranking] = BATTERY_READINGS;
  return [
    { ...posts, id: rest, setup: { key: "off" }, value: battery.restVolts },
    ...(battery.crankingVolts === undefined ? [] : [{ ...posts, id: cranking, setup: { key: "crank" as const }, value: battery.crankingVolts }]),
  ];
}

/** The standard atmosphere at sea level; a shop that says nothing else has said nothing of its air. */
const STANDARD_KPA = 101.325;

/** The air outside where the car stands, else at the shop, in the shop's weather, kPa; null where nobody has said anything of them. */
function outsideAir(settings: ShopSettings | null, { altitudeMetres }: Facts): number | null {
  const [metres, seaLevelKPa] = [altitudeMetres ?? settings?.altitudeMetres ?? 0, settings?.seaLevelKPa ?? STANDARD_KPA];
  if (altitudeMetres === undefined && metres === 0 && seaLevelKPa === STANDARD_KPA) return null;
  return Number(barometricKPa(metres, seaLevelKPa).toFixed(1));
}

/** The part of a job the diagnosis is computed from. @param settings what the shop has decided; the job's own list of tools wins @param found what earlier jobs found */
export function diagnosedPart(
  job: { circuits: Circuit[]; bench: Instrument[] | null },
  state: JobState,
  settings: ShopSettings | null = null,
  found: readonly FoundBefore[] = [],
): {
  circuits: Circuit[];
  readings: Reading[];
  skipped: string[];
  bench?: Instrument[];
  policy?: Record<string, unknown>;
  conditions: Conditions;
  outsideKPa?: number;
  hints: string[];
  learnt?: FoundBefore[];
  codes: Code[];
  facts?: Facts;
  intermittent?: boolean;
} {
  const outside = outsideAir(settings, state.facts);
  return {
    circuits: job.circuits,
    readings: [...batteryReadings(state, job.circuits[0]?.id), ...state.readings.map(({ reading }) => reading)],
    skipped: state.skipped.map(({ test }) => test),
    conditions: state.conditions,
    ...(outside === null ? {} : { outsideKPa: outside }),
    hints: [...state.hints],
    ...learntPart(found, settings, state.facts),
    codes: [...state.codes],
    ...(Object.keys(state.facts).length > 0 ? { facts: state.facts } : {}),
    ...(state.intermittent === null ? {} : { intermittent: state.intermittent }),
    ...(settings === null
      ? {}
      : { policy: { ...settings.policy, moneyPerHour: settings.moneyPerHour, ...(settings.currency === null ? {} : { currency: settings.currency }) } }),
    ...benchOf(job.bench, settings),
  };
}

/** How much of a count counts: the shop decides. */
const LEARNT_SHARE = { off: 0, half: 0.5, full: 1 } as const;

/** What was found before, as far as the shop and this job let it count. */
function learntPart(found: readonly FoundBefore[], settings: ShopSettings | null, facts: Facts): { learnt?: FoundBefore[] } {
  const share = facts.learnt === "off" ? 0 : LEARNT_SHARE[settings?.policy.learnt ?? "full"];
  if (share === 0 || found.length === 0) return {};
  return { learnt: found.map(({ family, unit, model, shop }) => ({ family, unit, model: share * model, shop: share * shop })) };
}

/** Tools at hand: the job's own list, else the shop's; nothing said where all are there. A shop that never pierces has no piercing probe. */
function benchOf(own: Instrument[] | null, settings: ShopSettings | null): { bench?: Instrument[] } {
  const listed = own ?? settings?.bench ?? null;
  if (settings?.policy.piercing !== "never") return listed === null ? {} : { bench: listed };
  return { bench: (listed ?? INSTRUMENTS).filter((tool) => tool !== "pierce") };
}
