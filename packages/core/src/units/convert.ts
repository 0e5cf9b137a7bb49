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
