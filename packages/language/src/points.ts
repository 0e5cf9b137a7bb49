/** Every pin name of the language, in the order they are listed to people. */
export const PINS = [
  "ref",
  "feed",
  "sig",
  "gnd",
  "sig1",
  "sig2",
  "ref1",
  "ref2",
  "gnd1",
  "gnd2",
  "sig+",
  "sig-",
  "shield",
  "pgnd",
  "ret",
  "htr-feed",
  "htr-ctl",
  "ctl",
] as const;
export type Pin = (typeof PINS)[number];

/** Points that belong to the car, not to a circuit. */
export const FIXED_POINTS = ["bat+", "bat-", "engine", "chassis"] as const;
export type FixedPoint = (typeof FIXED_POINTS)[number];

/** A point where a lead can touch, taken apart. */
export type Point =
  | { readonly kind: "fixed"; readonly point: FixedPoint }
  | { readonly kind: "pin"; readonly circuit: string | null; readonly pin: Pin; readonly place: string };

const PLACE = /^(?:module|sensor|part|C[1-9]\d?(?:\.out)?|S[1-9]\d?)$/u;

/** Which connector a place is a half of: `C1.out`, the half of C1 towards the sensor, belongs to C1 as `C1` does, the half towards the module. */
export function connectorAt(place: string): string {
  return place.endsWith(".out") ? place.slice(0, -".out".length) : place;
}

export function isPin(text: string): text is Pin {
  return (PINS as readonly string[]).includes(text);
}

export function isFixedPoint(text: string): text is FixedPoint {
  return (FIXED_POINTS as readonly string[]).includes(text);
}

/** Whether the text names a place on a pin's path: `module`, `sensor`, `part`, `C1`, `C1.out`, `S1`. */
export function isPlace(text: string): boolean {
  return PLACE.test(text);
}

/**
 * Takes a point such as `map:ref@module` apart.
 * @returns the point, or null when the text is none
 */
export function parsePoint(text: string): Point | null {
  if (isFixedPoint(text)) return { kind: "fixed", point: text };
  const match = /^(?:([^:@\s]+):)?([^:@\s]+)@([^:@\s]+)$/u.exec(text);
  if (!match) return null;
  const [, circuit, pin = "", place = ""] = match;
  if (!isPin(pin) || !isPlace(place)) return null;
  return { kind: "pin", circuit: circuit ?? null, pin, place };
}

/** Prints a point in the language's form. */
export function printPoint(point: Point): string {
  if (point.kind === "fixed") return point.point;
  const prefix = point.circuit === null ? "" : `${point.circuit}:`;
  return `${prefix}${point.pin}@${point.place}`;
}

/** A place of the car as one name: the module is one for all circuits, everything else belongs to one. @param place such as `sensor`, `C1`, `module`, `map:sensor` */
export function placeIn(circuit: string, place: string): string {
  return place === "module" || place.includes(":") ? place : `${circuit}:${place}`;
}
