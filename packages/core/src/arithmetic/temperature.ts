import { celsiusFromKelvin, kelvinFromCelsius } from "../units";

/** A point of a thermistor's table. */
export interface ThermistorPoint {
  readonly degC: number;
  readonly ohms: number;
}

/**
 * Beta of a thermistor from two points: B = ln(R1/R2) / (1/T1 - 1/T2), temperatures in kelvin. Two-point model; within half a
 * kelvin between its points, some kelvin far outside them.
 */
export function betaOf(first: ThermistorPoint, second: ThermistorPoint): number {
  const [t1, t2] = [kelvinFromCelsius(first.degC), kelvinFromCelsius(second.degC)];
  if (t1 === t2 || first.ohms <= 0 || second.ohms <= 0) throw new RangeError("expected two points of different temperatures with resistances over zero");
  return Math.log(first.ohms / second.ohms) / (1 / t1 - 1 / t2);
}

/** Ohms of a thermistor at a temperature by its Beta: R = R0 exp(B (1/T - 1/T0)). */
export function betaOhms(reference: ThermistorPoint, beta: number, degC: number): number {
  return reference.ohms * Math.exp(beta * (1 / kelvinFromCelsius(degC) - 1 / kelvinFromCelsius(reference.degC)));
}

/** Temperature of a thermistor from its resistance by its Beta, degC. */
export function betaCelsius(reference: ThermistorPoint, beta: number, ohms: number): number {
  if (ohms <= 0) throw new RangeError(`${ohms} ohm is no thermistor; expected more than zero`);
  return celsiusFromKelvin(1 / (1 / kelvinFromCelsius(reference.degC) + Math.log(ohms / reference.ohms) / beta));
}

/** Coefficients of 1/T = A + B ln R + C (ln R)^3. */
export interface SteinhartHart {
  readonly a: number;
  readonly b: number;
  readonly c: number;
}

/**
 * Steinhart-Hart coefficients through three points (Steinhart and Hart, 1968); within a few hundredths of a kelvin between them.
 *
 * @throws RangeError when two points share a resistance
 */
export function steinhartHartOf(points: readonly [ThermistorPoint, ThermistorPoint, ThermistorPoint]): SteinhartHart {
  const [l1, l2, l3] = points.map(({ ohms }) => Math.log(ohms)) as [number, number, number];
  const [y1, y2, y3] = points.map(({ degC }) => 1 / kelvinFromCelsius(degC)) as [number, number, number];
  if (l1 === l2 || l1 === l3 || l2 === l3) throw new RangeError("expected three points of different resistances over zero");
  const g2 = (y2 - y1) / (l2 - l1);
  const g3 = (y3 - y1) / (l3 - l1);
  const c = (g3 - g2) / (l3 - l2) / (l1 + l2 + l3);
  const b = g2 - c * (l1 * l1 + l1 * l2 + l2 * l2);
  return { a: y1 - (b + l1 * l1 * c) * l1, b, c };
}

/** Temperature from resistance by Steinhart-Hart, degC. */
export function steinhartHartCelsius({ a, b, c }: SteinhartHart, ohms: number): number {
  if (ohms <= 0) throw new RangeError(`${ohms} ohm is no thermistor; expected more than zero`);
  const log = Math.log(ohms);
  return celsiusFromKelvin(1 / (a + b * log + c * log ** 3));
}

/** Resistance at a temperature by Steinhart-Hart: the cubic's real root (inverse equations of the same paper). */
export function steinhartHartOhms({ a, b, c }: SteinhartHart, degC: number): number {
  const y = (a - 1 / kelvinFromCelsius(degC)) / c;
  const x = Math.sqrt((b / (3 * c)) ** 3 + (y * y) / 4);
  return Math.exp(Math.cbrt(x - y / 2) - Math.cbrt(x + y / 2));
}

/** Relative change of a metal's resistance per kelvin at 20 degC. */
export const COPPER_PER_KELVIN = 0.00393;

/** A winding's resistance at another temperature: R = R20 (1 + alpha (T - 20)) (linear law, good to a percent up to 150 degC). */
export function windingOhmsAt(ohms: number, fromDegC: number, toDegC: number, perKelvin = COPPER_PER_KELVIN): number {
  return (ohms * (1 + perKelvin * (toDegC - 20))) / (1 + perKelvin * (fromDegC - 20));
}

/** Current and power of a heater or coil at a voltage: I = V / R, P = V I. */
export function loadAt(volts: number, ohms: number): { amps: number; watts: number } {
  if (ohms <= 0) throw new RangeError("a load has a resistance over zero");
  return { amps: volts / ohms, watts: (volts * volts) / ohms };
}
