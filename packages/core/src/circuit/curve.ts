import { celsiusFromKelvin, kelvinFromCelsius } from "../units";

export type Curve = readonly (readonly [number, number])[];

/** Whether the first column rises and the second only falls or only rises. */
export function isMonotone(curve: Curve): boolean {
  if (curve.length < 2) return false;
  const direction = Math.sign((curve[1]?.[1] ?? 0) - (curve[0]?.[1] ?? 0));
  return curve.every((point, index) => {
    const before = curve[index - 1];
    return before === undefined || (point[0] > before[0] && Math.sign(point[1] - before[1]) === direction && direction !== 0);
  });
}

type Segment = readonly [Curve[number], Curve[number]];

/** The first segment of a curve, two points at least, whose upper end is not beyond what is looked for; the end segments are continued outwards. */
function segmentWhere(curve: Curve, holds: (upper: Curve[number]) => boolean): Segment {
  const inner = curve.slice(1, -1).findIndex(holds);
  const upper = inner < 0 ? curve.length - 1 : inner + 1;
  return [curve[upper - 1], curve[upper]] as unknown as Segment;
}

/** The segment of a curve that holds `x`. */
function segment(curve: Curve, x: number): Segment {
  return segmentWhere(curve, ([at]) => x <= at);
}

/** Straight-line interpolation, continued beyond both ends. */
export function interpolate(curve: Curve, x: number): number {
  const [[x0, y0], [x1, y1]] = segment(curve, x);
  return y0 + ((y1 - y0) * (x - x0)) / (x1 - x0);
}

/** The curve with its columns exchanged, ascending. */
export function inverseCurve(curve: Curve): Curve {
  return curve.map(([x, y]) => [y, x] as const).sort((a, b) => a[0] - b[0]);
}

/**
 * Resistance of a thermistor in ohms at a temperature in degC: between two points of its curve the Beta law
 * R = R0 exp(B (1/T - 1/T0)) with the B those two points give.
 */
export function thermistorOhms(curve: Curve, degC: number): number {
  const [[t0, r0], [t1, r1]] = segment(curve, degC);
  const [k0, k1, k] = [kelvinFromCelsius(t0), kelvinFromCelsius(t1), kelvinFromCelsius(degC)];
  const beta = Math.log(r0 / r1) / (1 / k0 - 1 / k1);
  return r0 * Math.exp(beta * (1 / k - 1 / k0));
}

/** Temperature in degC of a thermistor from its resistance in ohms; the inverse of {@link thermistorOhms}. */
export function thermistorCelsius(curve: Curve, ohms: number): number {
  const [[t0, r0], [t1, r1]] = segmentWhere(curve, ([, at]) => ohms >= at);
  const [k0, k1] = [kelvinFromCelsius(t0), kelvinFromCelsius(t1)];
  const beta = Math.log(r0 / r1) / (1 / k0 - 1 / k1);
  return celsiusFromKelvin(1 / (1 / k0 + Math.log(ohms / r0) / beta));
}
