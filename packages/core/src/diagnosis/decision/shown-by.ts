import { type Circuit, parsePoint, type Reading } from "@fox-lamp/language";

/** Whether a lead, or a jumper's end, is on a pin of a circuit whose name begins so. */
function isOn(lead: string | undefined | null, pin: string, own: boolean, circuit: string): boolean {
  const point = lead === undefined || lead === null ? null : parsePoint(lead);
  return point?.kind === "pin" && point.pin.startsWith(pin) && (point.circuit === null ? own : point.circuit === circuit);
}

/** Whether a lead of a reading is on such a pin. */
function touches({ red, black, setup }: Reading, pin: string, own: boolean, circuit: string): boolean {
  const ends = (setup?.add ?? []).flatMap(({ from, to }) => [from, to]);
  return [red, black, ...ends].some((lead) => isOn(lead, pin, own, circuit));
}

/** Whether a reading sees the signal of a circuit, by the module or by a lead. */
function seesSignal(reading: Reading, own: boolean, circuit: string): boolean {
  return (own && reading.meter === "scan") || touches(reading, "sig", own, circuit);
}

/** Parameters that only some readings can show, whatever is wrong. */
const SHOWN_BY: Readonly<Record<string, (reading: Reading, own: boolean, circuit: string) => boolean>> = {
  percentOf: (reading, own) => own && reading.meter === "scan" && reading.unit === "%",
  pullup: seesSignal,
  heldUp: seesSignal,
  pullupV: seesSignal,
  biasV: seesSignal,
  transfer: seesSignal,
  heater: (reading, own, circuit) => touches(reading, "htr", own, circuit),
};

/** Parameters in which two kinds of a circuit differ. */
export function differing(one: Circuit, other: Circuit): string[] {
  const names = new Set([one, other].flatMap((circuit) => Object.keys(circuit.with ?? {})));
  return [...names].filter((name) => JSON.stringify(one.with?.[name]) !== JSON.stringify(other.with?.[name]));
}

/** Whether any reading of a job can show a difference between two kinds of one of its circuits. @param only the circuit's id where the job has no other */
export function tellsApart(readings: readonly Reading[], one: Circuit, other: Circuit, only: string): boolean {
  return differing(one, other).some((name) => {
    const shows = SHOWN_BY[name];
    return shows === undefined || readings.some((reading) => shows(reading, (reading.circuit ?? only) === one.id, one.id));
  });
}
