import { type Circuit, type Measurement, parsePoint } from "@fox-lamp/language";
import type { MeantCircuit } from "./alternatives";

/** Whether a lead, or a jumper's end, is on a pin of a circuit whose name begins so. */
function isOn(lead: string | undefined | null, pin: string, own: boolean, circuit: string): boolean {
  const point = lead === undefined || lead === null ? null : parsePoint(lead);
  return point?.kind === "pin" && point.pin.startsWith(pin) && (point.circuit === null ? own : point.circuit === circuit);
}

/** Whether a lead of a reading is on such a pin. */
function touches({ red, black, setup }: Measurement, pin: string, own: boolean, circuit: string): boolean {
  const ends = (setup?.add ?? []).flatMap(({ from, to }) => [from, to]);
  return [red, black, ...ends].some((lead) => isOn(lead, pin, own, circuit));
}

/** Whether a reading sees the signal of a circuit, by the module or by a lead. */
function seesSignal(reading: Measurement, own: boolean, circuit: string): boolean {
  return (own && reading.meter === "scan") || touches(reading, "sig", own, circuit);
}

/** Parameters that only some readings can show, whatever is wrong. */
const SHOWN_BY: Readonly<Record<string, (reading: Measurement, own: boolean, circuit: string) => boolean>> = {
  percentOf: (reading, own) => own && reading.meter === "scan" && reading.unit === "%",
  pullup: seesSignal,
  heldUp: seesSignal,
  pullupV: seesSignal,
  biasV: seesSignal,
  transfer: seesSignal,
  opposed: (reading, own, circuit) => touches(reading, "sig2", own, circuit),
  heater: (reading, own, circuit) => touches(reading, "htr", own, circuit),
};

/** Parameters in which two kinds of a circuit differ. */
export function differing(one: Circuit, other: Circuit): string[] {
  const names = new Set([one, other].flatMap((circuit) => Object.keys(circuit.with ?? {})));
  return [...names].filter((name) => JSON.stringify(one.with?.[name]) !== JSON.stringify(other.with?.[name]));
}

/** Whether any measurement of a job can show what one of a circuit's parameters is. @param only the circuit's id where the job has no other */
function showsPart(name: string, readings: readonly Measurement[], circuit: string, only: string): boolean {
  const shows = SHOWN_BY[name];
  return shows === undefined || readings.some((reading) => shows(reading, (reading.circuit ?? only) === circuit, circuit));
}

/** Whether any measurement of a job can show a difference between two kinds of one of its circuits. @param only the circuit's id where the job has no other */
export function tellsApart(readings: readonly Measurement[], one: Circuit, other: Circuit, only: string): boolean {
  return differing(one, other).some((name) => showsPart(name, readings, one.id, only));
}

/** What of a kind's sheet measurements can show, as text: kinds with the same one are one kind to them. @param only the circuit's id where the job has no other */
export function shownParts(readings: readonly Measurement[], { id, with: given = {} }: Circuit, only: string): string {
  return JSON.stringify(Object.entries(given).filter(([name]) => showsPart(name, readings, id, only)));
}

/** Kinds that measurements tell apart, the first of those that they do not standing for all of them. @param only the circuit's id where the job has no other */
export function seenApart(readings: readonly Measurement[], kinds: readonly MeantCircuit[], only: string): MeantCircuit[] {
  const seen = new Set<string>();
  return kinds.filter(({ circuit }) => {
    const parts = shownParts(readings, circuit, only);
    const known = seen.has(parts);
    seen.add(parts);
    return !known;
  });
}
