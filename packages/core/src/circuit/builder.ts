import type { Pin } from "@fox-lamp/language";
import { type Element, SHORT_OHMS } from "../network";

/** Healthy resistance of a wire section and of a contact, ohms. */
export const WIRE_OHMS = 0.05;
export const CONTACT_OHMS = SHORT_OHMS;

/** Node where every module stage's ground meets. */
export const MODULE_GROUND = "module:ground";

/** One stretch of a pin's path from the module outwards. */
export type PathStep =
  | { readonly kind: "contact"; readonly place: string; readonly element: string; readonly inner: string; readonly outer: string }
  | { readonly kind: "wire"; readonly section: number; readonly element: string; readonly inner: string; readonly outer: string };

/** A pin's path: inside the module, contacts and wire sections, the part's terminal. */
export interface PinPath {
  readonly pin: Pin;
  readonly inside: string;
  readonly part: string;
  readonly steps: readonly PathStep[];
}

/** Collects a circuit's elements. Names given by families are local; nodes and elements get the circuit's prefix. */
export interface CircuitBuilder {
  readonly circuit: string;
  /** The node inside the module behind a pin. */
  inside(pin: Pin): string;
  /** The part's terminal of a pin. */
  part(pin: Pin): string;
  /** A further node of this circuit. */
  node(name: string): string;
  readonly moduleGround: string;
  /** Adds an element; `id` is local to the circuit. */
  add(element: Element): void;
  /** A module supply: a current-limited regulator that is off with the key. */
  supply(id: string, out: string, volts: number, limitAmps: number): void;
}

/** Full element name of a local one. */
export function elementName(circuit: string, local: string): string {
  return `${circuit}/${local}`;
}

/** A point's node name in the network. */
export function pinNode(circuit: string, pin: string, place: string): string {
  return `${circuit}:${pin}@${place}`;
}

/** Lays the path of every pin: contact at the module, wire sections between the connectors, contact at the sensor. */
export function layPaths(circuit: string, pins: readonly Pin[], inline: readonly string[]): { paths: PinPath[]; elements: Element[] } {
  const elements: Element[] = [];
  const paths = pins.map((pin): PinPath => {
    const steps: PathStep[] = [];
    const inside = pinNode(circuit, pin, "inside");
    const contact = (place: string, inner: string, outer: string): void => {
      const element = elementName(circuit, `contact:${pin}@${place}`);
      elements.push({ kind: "resistor", id: element, a: inner, b: outer, ohms: CONTACT_OHMS });
      steps.push({ kind: "contact", place, element, inner, outer });
    };
    contact("module", inside, pinNode(circuit, pin, "module"));
    let from = pinNode(circuit, pin, "module");
    [...inline, "sensor"].forEach((place, section) => {
      const outer = pinNode(circuit, pin, place);
      const element = elementName(circuit, `wire:${pin}#${section}`);
      elements.push({ kind: "resistor", id: element, a: from, b: outer, ohms: WIRE_OHMS });
      steps.push({ kind: "wire", section, element, inner: from, outer });
      const next = place === "sensor" ? pinNode(circuit, pin, "part") : pinNode(circuit, pin, `${place}.out`);
      contact(place, outer, next);
      from = next;
    });
    return { pin, inside, part: pinNode(circuit, pin, "part"), steps };
  });
  return { paths, elements };
}

/** Where shorts can be: absent resistors from each wire section to chassis, battery and every neighbour. */
export function layShorts(circuit: string, paths: readonly PinPath[]): Element[] {
  const elements: Element[] = [];
  const absent = (id: string, a: string, b: string): void => {
    elements.push({ kind: "resistor", id: elementName(circuit, id), a, b, ohms: Number.POSITIVE_INFINITY });
  };
  paths.forEach((path, index) => {
    for (const step of path.steps) {
      if (step.kind !== "wire") continue;
      absent(`short-ground:${path.pin}#${step.section}`, step.outer, "chassis");
      absent(`short-battery:${path.pin}#${step.section}`, step.outer, "bat+");
      for (const other of paths.slice(index + 1)) {
        const facing = other.steps.find((candidate) => candidate.kind === "wire" && candidate.section === step.section);
        if (facing) absent(`short:${path.pin}:${other.pin}#${step.section}`, step.outer, facing.outer);
      }
    }
  });
  return elements;
}
