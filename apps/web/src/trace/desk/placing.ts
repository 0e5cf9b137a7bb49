import { buildModel, type CircuitModel, CURRENT } from "@fox-lamp/core";
import type { Circuit, StoredChannel } from "@fox-lamp/language";

/** A lead's place as it is chosen: a circuit's pin, at one of its connectors. */
export interface Place {
  readonly circuit: string;
  readonly pin: string;
  readonly at: "sensor" | "module";
}

/** A pin that a lead can be on. */
export interface Pinned {
  readonly circuit: string;
  readonly title: string;
  readonly pin: string;
}

/** Every pin of the job's circuits a lead can be on, in the order of the sheet. */
export function pinsOf(circuits: readonly Circuit[]): Pinned[] {
  return buildModel(circuits).circuits.flatMap(({ id, title, pins }) => pins.map(({ pin }) => ({ circuit: id, title, pin })));
}

const SIGNALS = ["sig", "sig+", "sig1", "ctl"];

/** The pin a channel of a file means by its name: `circuit:pin`, a pin only one circuit has, or a circuit's own name for its signal. */
export function placeMeant(name: string, pins: readonly Pinned[]): Place | null {
  const [point = "", at] = name.trim().toLowerCase().split("@");
  const place = at === "module" ? "module" : "sensor";
  const found = (candidates: readonly Pinned[]): Place | null => {
    const [only, other] = candidates;
    return only === undefined || other !== undefined ? null : { circuit: only.circuit, pin: only.pin, at: place };
  };
  const whole = found(pins.filter(({ circuit, pin }) => `${circuit}:${pin}`.toLowerCase() === point));
  if (whole !== null) return whole;
  const alone = found(pins.filter(({ pin }) => pin === point));
  if (alone !== null) return alone;
  const words = point.split(/[^a-z0-9+]+/u).filter(Boolean);
  const mine = pins.filter(({ circuit, title }) => words.includes(circuit.toLowerCase()) || title.toLowerCase() === point);
  const pin = mine.find((candidate) => words.includes(candidate.pin));
  return found(pin === undefined ? mine.filter((candidate) => candidate.pin === SIGNALS.find((signal) => mine.some((one) => one.pin === signal))) : [pin]);
}

/** A channel with its leads as it is stored; one without a place keeps its own name. */
export function channelOf(name: string, unit: string, place: Place | null, pins: readonly Pinned[]): StoredChannel {
  if (place === null) return { name, unit, circuit: null, red: null, black: null };
  const { circuit, pin, at } = place;
  // Amperes come from a clamp around the wire: it has no other lead, and a channel of volts may be on the same pin.
  if (unit === "A") return { name: `${circuit}:${CURRENT}`, unit, circuit, red: `${pin}@${at}`, black: null };
  // A pair is measured against its other wire.
  const paired = pin === "sig+" && pins.some((other) => other.circuit === circuit && other.pin === "sig-");
  return { name: `${circuit}:${pin}`, unit, circuit, red: `${pin}@${at}`, black: paired ? `sig-@${at}` : "bat-" };
}

/** The pins a scope is put on for a circuit unless somebody says otherwise: feed, signal and ground, all of them where there are few. */
export function usualPins({ pins }: Pick<CircuitModel, "pins">): string[] {
  return pins
    .filter(({ role }) => role !== "shield")
    .map(({ pin }) => pin)
    .slice(0, 4);
}
