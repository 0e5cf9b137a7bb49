import { fromShownUnit, toShownUnit, unitSymbol } from "@fox-lamp/core";

export const TEMPERATURE_UNITS = ["degC", "degF"] as const;
export const PRESSURE_UNITS = ["kPa", "psi", "inHg"] as const;

/** Units values are shown in on this device. */
export interface DisplayUnits {
  readonly temperature: (typeof TEMPERATURE_UNITS)[number];
  readonly pressure: (typeof PRESSURE_UNITS)[number];
}

let units: DisplayUnits = { temperature: "degC", pressure: "kPa" };

/** Sets the units values are shown in on this device; pages shown afterwards use them. */
export function showIn(chosen: DisplayUnits): void {
  units = chosen;
}

/** The unit in which values of a base unit are shown here. */
export function shownUnit(base: string): string {
  return base === "degC" ? units.temperature : base === "kPa" ? units.pressure : base;
}

/** The unit of a base unit's values as it is written here: °C, psi, Ω. */
export function unitLabel(base: string): string {
  return unitSymbol(shownUnit(base));
}

/** A value of a base unit as it is shown here. */
export function shownValue(value: number, base: string): number {
  const unit = shownUnit(base);
  return unit === base ? value : toShownUnit(value, base, unit);
}

/** A number typed without a unit, in the base unit. */
export function typedValue(value: number, base: string): number {
  const unit = shownUnit(base);
  return unit === base ? value : Number(fromShownUnit(value, base, unit).toPrecision(6));
}

/** Text in which units stand under their names in files, with the signs people write: "14 degC" is "14 °C". */
export function unitsAsWritten(text: string): string {
  return text
    .replaceAll(/\bdegC\b/gu, "°C")
    .replaceAll(/\bdegF\b/gu, "°F")
    .replaceAll(/(?<=\b[kM]?)ohm\b/gu, "Ω");
}

/** A time as people say it: seconds under a minute, else minutes. */
export function minutesText(minutes: number): string {
  if (minutes < 0.95) return `${Math.max(5, 5 * Math.round((60 * minutes) / 5))} s`;
  return `${minutes < 9.5 ? Number(minutes.toFixed(1)) : Math.round(minutes)} min`;
}

/** How much a test settles, from its information in bits. */
export function gainText(bits: number): "much" | "some" | "little" {
  return bits >= 0.5 ? "much" : bits >= 0.15 ? "some" : "little";
}
