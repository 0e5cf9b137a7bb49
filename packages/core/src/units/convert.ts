/** Absolute zero, degC. */
const ZERO_CELSIUS_KELVIN = 273.15;

/** degC to kelvin. */
export function kelvinFromCelsius(degC: number): number {
  return degC + ZERO_CELSIUS_KELVIN;
}

/** Kelvin to degC. */
export function celsiusFromKelvin(kelvin: number): number {
  return kelvin - ZERO_CELSIUS_KELVIN;
}

/**
 * Standard-atmosphere pressure in kPa at an altitude in metres: P = 101.325 (1 - 2.25577e-5 h)^5.25588
 * (ICAO standard atmosphere, troposphere).
 */
export function pressureAtAltitude(metres: number): number {
  return 101.325 * (1 - 2.25577e-5 * metres) ** 5.25588;
}

/** Units a value kept in a base unit can be shown in: scale and offset from the base unit. Pounds, inches of mercury and feet: NIST SP 811. */
const SHOWN: Readonly<Record<string, { readonly base: string; readonly scale: number; readonly offset: number }>> = {
  degC: { base: "degC", scale: 1, offset: 0 },
  degF: { base: "degC", scale: 1.8, offset: 32 },
  kPa: { base: "kPa", scale: 1, offset: 0 },
  psi: { base: "kPa", scale: 1 / 6.894757, offset: 0 },
  inHg: { base: "kPa", scale: 1 / 3.386389, offset: 0 },
  bar: { base: "kPa", scale: 0.01, offset: 0 },
  ohm: { base: "ohm", scale: 1, offset: 0 },
  kohm: { base: "ohm", scale: 1e-3, offset: 0 },
  Mohm: { base: "ohm", scale: 1e-6, offset: 0 },
  m: { base: "m", scale: 1, offset: 0 },
  ft: { base: "m", scale: 1 / 0.3048, offset: 0 },
  V: { base: "V", scale: 1, offset: 0 },
  mV: { base: "V", scale: 1000, offset: 0 },
  A: { base: "A", scale: 1, offset: 0 },
  mA: { base: "A", scale: 1000, offset: 0 },
  Hz: { base: "Hz", scale: 1, offset: 0 },
  kHz: { base: "Hz", scale: 1e-3, offset: 0 },
};

/** The units a value of a base unit can be shown in, the base unit first; only itself where there is no other. */
export function shownUnits(base: string): string[] {
  const found = Object.entries(SHOWN).flatMap(([name, unit]) => (unit.base === base ? [name] : []));
  return found.length === 0 ? [base] : found;
}

/** A value of a base unit in a unit to be shown (20 degC is 68 degF). @throws Error when the unit does not belong to the base unit */
export function toShownUnit(value: number, base: string, shown: string): number {
  const unit = SHOWN[shown];
  if (unit === undefined || unit.base !== base) throw new Error(`${shown} does not show ${base}`);
  return value * unit.scale + unit.offset;
}

/** The way back: a value typed in a shown unit, in its base unit. @throws Error when the unit does not belong to the base unit */
export function fromShownUnit(value: number, base: string, shown: string): number {
  const unit = SHOWN[shown];
  if (unit === undefined || unit.base !== base) throw new Error(`${shown} does not show ${base}`);
  return (value - unit.offset) / unit.scale;
}
