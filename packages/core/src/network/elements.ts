/** The datum: the battery's negative post. Every voltage is counted from here. */
export const DATUM = "bat-";

/** Physical bounds the solver relies on (ohms, siemens). Real opens and shorts are finite. */
export const OPEN_OHMS = 1e9;
export const SHORT_OHMS = 0.02;
/** From every node to the datum, so that nothing floats undefined. */
export const LEAK_SIEMENS = 1e-9;

/** The supply an electronic part needs: below `leastVolts` from `plus` to `minus` it is off. */
export interface Powered {
  readonly plus: string;
  readonly minus: string;
  readonly leastVolts: number;
  /** Share of such parts that work without it as well, kept alive by something that is no part of the circuit; none when left out. */
  readonly unaided?: number;
  /** Whether tolerances never decide it: what flows tells, a hundred times as much as it takes, or nothing. */
  readonly certain?: true;
}

/**
 * A resistor between two nodes; `Infinity` ohms means that it is not there. A powered one is open without its supply. One that stands for
 * electronics says what they draw at work, not what an ohmmeter finds of them.
 */
export interface Resistor {
  readonly kind: "resistor";
  readonly id: string;
  readonly a: string;
  readonly b: string;
  readonly ohms: number;
  readonly powered?: Powered;
  readonly electronics?: true;
}

/** A fuse: a small resistance that opens for good when more than its rating flows. */
export interface Fuse {
  readonly kind: "fuse";
  readonly id: string;
  readonly a: string;
  readonly b: string;
  readonly ohms: number;
  readonly ratedAmps: number;
}

/** A voltage source with inner resistance. */
export interface Source {
  readonly kind: "source";
  readonly id: string;
  readonly plus: string;
  readonly minus: string;
  readonly volts: number;
  readonly ohms: number;
}

/** An output stage: `com + volts + gain * (plus - minus)` behind `ohms`; dead below `leastVolts` from plus to minus, if given. */
export interface Amplifier {
  readonly kind: "amplifier";
  readonly id: string;
  readonly out: string;
  readonly com: string;
  readonly plus: string;
  readonly minus: string;
  readonly gain: number;
  readonly volts: number;
  readonly ohms: number;
  readonly leastVolts?: number;
}

/** A supply with a current limit that cannot sink: constant voltage, current limit, or back-fed through `backOhms`. */
export interface Regulator {
  readonly kind: "regulator";
  readonly id: string;
  readonly out: string;
  readonly com: string;
  readonly volts: number;
  readonly ohms: number;
  readonly limitAmps: number;
  readonly backOhms: number;
}

/** An incandescent lamp: I = ratedAmps (V / ratedVolts)^0.55 down to its cold resistance. */
export interface Lamp {
  readonly kind: "lamp";
  readonly id: string;
  readonly a: string;
  readonly b: string;
  readonly ratedVolts: number;
  readonly ratedAmps: number;
  readonly coldOhms: number;
}

export type Element = Resistor | Fuse | Source | Amplifier | Regulator | Lamp;
export type Netlist = readonly Element[];

/** Kinds of elements by number, for loops that run millions of times. */
export const KIND = { resistor: 0, fuse: 1, source: 2, amplifier: 3, regulator: 4, lamp: 5 } as const satisfies Record<Element["kind"], number>;

/** The number of an element that an edit changes; `least` is the supply below which a powered part is off, volts. */
export type EditField = "ohms" | "volts" | "gain" | "least";

/** One change of one number of one element of a compiled network. */
export interface Edit {
  readonly element: number;
  readonly field: EditField;
  readonly value: number;
}

/** Whether an element is off without its supply. */
export function isPowered(element: Element): boolean {
  return element.kind === "resistor" ? element.powered !== undefined : element.kind === "amplifier" && element.leastVolts !== undefined;
}

/** Whether tolerances may decide if an element has the supply it needs. */
export function mayStarve(element: Element): boolean {
  return isPowered(element) && !(element.kind === "resistor" && element.powered?.certain === true);
}

/** Whether an ohmmeter meets semiconductors in an element: a supply, an output stage, what stands for electronics. */
export function isElectronics(element: Element): boolean {
  if (element.kind === "resistor") return element.electronics === true || element.powered !== undefined;
  return element.kind === "regulator" || element.kind === "amplifier";
}

/** The nodes an element touches, in the order injected, returned, controlling. */
export function nodesOf(element: Element): readonly string[] {
  switch (element.kind) {
    case "resistor":
      return element.powered ? [element.a, element.b, element.powered.plus, element.powered.minus] : [element.a, element.b];
    case "fuse":
    case "lamp":
      return [element.a, element.b];
    case "source":
      return [element.plus, element.minus];
    case "amplifier":
      return [element.out, element.com, element.plus, element.minus];
    case "regulator":
      return [element.out, element.com];
  }
}

/** Share of parts like this that work without their supply. */
export function unaidedShare(element: Element): number {
  return element.kind === "resistor" ? (element.powered?.unaided ?? 0) : 0;
}
