/** Units a specification may be written in: the base unit and how many of it one is. */
const UNITS: Readonly<Record<string, readonly [string, number]>> = {
  V: ["V", 1],
  mV: ["V", 1e-3],
  kV: ["V", 1e3],
  ohm: ["ohm", 1],
  kohm: ["ohm", 1e3],
  Mohm: ["ohm", 1e6],
  A: ["A", 1],
  mA: ["A", 1e-3],
  Hz: ["Hz", 1],
  kHz: ["Hz", 1e3],
  "%": ["%", 1],
  degC: ["degC", 1],
  kPa: ["kPa", 1],
};

/** A unit as it is written, in base units; null for one nobody knows. */
export function baseOf(unit: string): { readonly base: string; readonly factor: number } | null {
  const found = Object.hasOwn(UNITS, unit) ? UNITS[unit] : undefined;
  return found === undefined ? null : { base: found[0], factor: found[1] };
}

/** Every unit a specification may be written in. */
export const SPEC_UNITS = Object.keys(UNITS);
