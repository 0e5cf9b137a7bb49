import { pressureAtAltitude } from "../units";

/** Sea-level pressure of the standard atmosphere, kPa. */
const STANDARD_KPA = 101.325;

/**
 * Barometric pressure at a place: the standard atmosphere at its altitude, moved by the weather (the sea-level pressure the weather
 * service reports, which is itself reduced with the standard atmosphere). Good to about 0.5 kPa.
 *
 * @param metres altitude
 * @param seaLevelKPa reported sea-level pressure, kPa
 */
export function barometricKPa(metres: number, seaLevelKPa = STANDARD_KPA): number {
  if (metres < -500 || metres > 11_000) throw new RangeError(`${metres} m is outside the lower atmosphere; expected -500 to 11000`);
  return (pressureAtAltitude(metres) * seaLevelKPa) / STANDARD_KPA;
}

/** Altitude in metres from a pressure by the same formula turned round. */
export function altitudeOf(kPa: number, seaLevelKPa = STANDARD_KPA): number {
  if (kPa <= 0) throw new RangeError("a pressure is over zero");
  return (1 - (kPa / seaLevelKPa) ** (1 / 5.25588)) / 2.25577e-5;
}
