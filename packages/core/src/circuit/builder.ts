import type { Pin, PinRole } from "@fox-lamp/language";
import { type Element, type Powered, SHORT_OHMS } from "../network";
import { FUSED_SUPPLY } from "./car";
import type { PinSpec } from "./pins";
import type { ParameterOrigin } from "./provenance";

/** Healthy resistance of a wire section and of a contact, ohms. */
export const WIRE_OHMS = 0.05;
export const CONTACT_OHMS = SHORT_OHMS;
/** The fuse of a battery feed. */
export const FEED_FUSE_AMPS = 15;
const FEED_FUSE = { ohms: 0.01, ratedAmps: FEED_FUSE_AMPS } as const;

/** One stretch of a pin's path from its origin outwards. */
export type PathStep =
  | { readonly kind: "contact"; readonly place: string; readonly element: string; readonly inner: string; readonly outer: string }
  | { readonly kind: "wire"; readonly section: number; readonly element: string; readonly inner: string; readonly outer: string };

/** A pin's path: inside the module (or fuse, or ground point), contacts and wire sections, the part's terminal. */
export interface PinPath {
  readonly pin: Pin;
  readonly role: PinRole;
  readonly origin: PinSpec["origin"];
  /** Bus whose wire this path leaves, and the splice where; null for a path of its own. */
  readonly joins: { readonly bus: string; readonly at: string } | null;
  readonly inside: string;
  readonly part: string;
  readonly steps: readonly PathStep[];
  /** Node of every place a lead can touch, in order from the module to the part. */
  readonly places: ReadonlyMap<string, string>;
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
  /** Where a parameter comes from: `family` for one that the sheet leaves out. */
  origin(parameter: string): ParameterOrigin;
  /** Half of the stretch that holds 95 of 100 such cars, where the sheet says it beside a value of its own; in the parameter's unit, of a curve as a share. */
  spread(parameter: string): number | null;
  /** Pins of this circuit that other circuits join, and that it joins itself. */
  sharesPin(pin: Pin): boolean;
  /** Adds an element; `id` is local to the circuit. */
  add(element: Element): void;
  resistor(id: string, a: string, b: string, ohms: number, powered?: Powered): void;
  /** What a part's electronics draw between two nodes, as the resistor they are at work. */
  electronics(id: string, a: string, b: string, ohms: number): void;
  /** A module supply: a current-limited regulator that is off with the key. */
  supply(id: string, out: string, volts: number, limitAmps: number): void;
  /** The reference behind a pin: a supply of its own called `id`, or the shared one. */
  reference(id: string, pin: Pin, volts: number, limitAmps: number): void;
  /** The low reference behind a pin: an element called `low-side` (or `id`), or the shared one. */
  lowReference(pin: Pin, id?: string): void;
}

/** Full element name of a local one. */
export function elementName(circuit: string, local: string): string {
  return `${circuit}/${local}`;
}

/** The circuit an element belongs to; `car` for battery, starter and grounds. */
export function ownerOf(element: string): string {
  return element.slice(0, element.indexOf("/"));
}

/** Whether an element is a contact of a connector. */
export function isContact(element: string): boolean {
  return element.includes("/contact:");
}

/** Whether an element is a stretch of wire. */
export function isWire(element: string): boolean {
  return element.includes("/wire:");
}

/** Whether an element is an absent short between wires, or from a wire to ground or battery. */
export function isShort(element: string): boolean {
  return element.includes("/short");
}

/** Whether an element ties a module's low reference to its ground. */
export function isLowSide(element: string): boolean {
  return /\/low-side2?$/u.test(element);
}

/** A point's node name in the network. */
export function pinNode(circuit: string, pin: string, place: string): string {
  return `${circuit}:${pin}@${place}`;
}

/** The wire of another circuit that a path starts from instead of the module. */
export interface JoinedAt {
  readonly bus: string;
  /** "module" (inside it) or a splice. */
  readonly at: string;
  /** Places of the shared stretch before it, with their nodes. */
  readonly before: ReadonlyMap<string, string>;
  readonly node: string;
}

/**
 * Lays the path of one pin: from its origin over contacts and wire sections to the part.
 *
 * @param places what the path passes after its origin: inline connectors and "sensor", or the splices of a shared wire
 */
export function layPath(circuit: string, spec: PinSpec, places: readonly string[], joined: JoinedAt | null, elements: Element[]): PinPath {
  const { pin, role, origin } = spec;
  const steps: PathStep[] = [];
  const nodes = new Map<string, string>();
  const contact = (place: string, inner: string, outer: string): void => {
    const element = elementName(circuit, `contact:${pin}@${place}`);
    elements.push({ kind: "resistor", id: element, a: inner, b: outer, ohms: CONTACT_OHMS });
    steps.push({ kind: "contact", place, element, inner, outer });
  };
  let inside = pinNode(circuit, pin, "inside");
  let from: string;
  if (joined !== null && joined.at !== "module") {
    inside = joined.node;
    from = joined.node;
    for (const [place, node] of joined.before) nodes.set(place, node);
  } else if (origin === "module") {
    if (joined !== null) inside = joined.node;
    from = pinNode(circuit, pin, "module");
    contact("module", inside, from);
    nodes.set("module", from);
  } else if (origin === "fuse") {
    from = pinNode(circuit, pin, "fuse");
    inside = from;
    elements.push({ kind: "fuse", id: elementName(circuit, `fuse:${pin}`), a: FUSED_SUPPLY, b: from, ...FEED_FUSE });
  } else {
    from = origin;
    inside = origin;
  }
  places.forEach((place, section) => {
    const outer = pinNode(circuit, pin, place);
    const element = elementName(circuit, `wire:${pin}#${section}`);
    elements.push({ kind: "resistor", id: element, a: from, b: outer, ohms: WIRE_OHMS });
    steps.push({ kind: "wire", section, element, inner: from, outer });
    nodes.set(place, outer);
    from = outer;
    if (place.startsWith("S")) return;
    if (place === "sensor" && spec.reachesPart === false) return;
    const next = place === "sensor" ? pinNode(circuit, pin, "part") : pinNode(circuit, pin, `${place}.out`);
    contact(place, outer, next);
    from = next;
  });
  const reaches = places.includes("sensor") && spec.reachesPart !== false;
  const part = reaches ? pinNode(circuit, pin, "part") : from;
  if (reaches) nodes.set("part", part);
  return { pin, role, origin, joins: joined === null ? null : { bus: joined.bus, at: joined.at }, inside, part, steps, places: nodes };
}

/** Where shorts can be: absent resistors from each wire section to chassis, battery and every neighbour; crossed pins. */
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
    const next = paths[index + 1];
    const [own, neighbour] = [path.places.get("sensor"), next?.places.get("sensor")];
    if (next && own && neighbour && path.places.has("part") && next.places.has("part")) {
      absent(`swap:${path.pin}:${next.pin}`, own, next.part);
      absent(`swap:${next.pin}:${path.pin}`, neighbour, path.part);
    }
  });
  return elements;
}
