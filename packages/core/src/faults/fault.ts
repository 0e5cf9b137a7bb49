import { knownValue, placeIn, type Setup } from "@fox-lamp/language";
import type { Assignment, SeverityScale, Situation } from "../circuit";
import type { Learnt } from "./learnt";

/** One way a fault can be: on which stretch of wire or in which of several alike parts, in which direction. */
export interface FaultVariant {
  readonly direction: 1 | -1;
  readonly section: number;
  readonly weight: number;
}

/** The variant of a fault that can be in one way only. */
export const PLAIN_VARIANT: FaultVariant = { direction: 1, section: 0, weight: 1 };

/** A fault kind at a place, with everything needed to put it into the network. */
export interface Fault {
  /** `circuit/unit/kind`. */
  readonly id: string;
  /** `circuit/unit`: what is repaired or replaced. */
  readonly unit: string;
  /** Circuit whose elements it edits; the car's for battery and grounds. */
  readonly circuit: string;
  readonly kind: string;
  readonly title: string;
  readonly severity: SeverityScale;
  /** From this severity on it is somebody's complaint; null where every one is. */
  readonly noticedFrom: number | null;
  /** Ohms up to which it is usually met, where more are met as well: {@link BEYOND_SHARE} as often for as many ln ohms. */
  readonly usualTo?: number;
  /** Ohms from which on it is usually met, likewise. */
  readonly usualFrom?: number;
  readonly prior: number;
  /** What earlier jobs made of its unit's share of the prior, where any did. */
  readonly learnt?: Learnt;
  /** It is damage, and nobody notices: found by a meter alone. */
  readonly unnoticed?: true;
  /** False when no severity moves anything noticeably: it can be simulated, but is nobody's complaint. */
  readonly matters: boolean;
  readonly variants: readonly FaultVariant[];
  /** The stimulus under which it shows at all; null when it always shows. */
  readonly during: { readonly kind: string; readonly at: string | null } | null;
  /** Whether its effect is the same in every situation and moment. */
  readonly constant: boolean;
  /** What it does to the network in one moment of its circuit's drive. @param before what a fault before it on the way of the signal has set */
  readonly effect: (severity: number, situation: Situation, variant: FaultVariant, moment: number, before?: readonly Assignment[]) => readonly Assignment[];
  /** For two faults as one: the effect with the severity that is not `severity` moved by a share of its standard deviation. */
  readonly nudged?: (share: number, severity: number, situation: Situation, moment: number) => readonly Assignment[];
  /** For two faults as one, where each does the same whatever the other does and whatever the situation: those two. */
  readonly parts?: readonly [FaultPart, FaultPart];
  /** What the module reports whatever its pin does, volts; null when it reads the pin. */
  readonly scanVolts: ((severity: number) => number) | null;
  /** Factor on the repetitions a second of its circuit; null when it leaves them alone. */
  readonly hertzFactor: ((severity: number, direction: 1 | -1) => number) | null;
}

/** One of two faults that are there at once. */
export interface FaultPart {
  /** The same object in every pair it is a part of. */
  readonly of: object;
  readonly severity: number;
  /** Its severity moved by a share of its standard deviation. */
  readonly moved: (share: number) => number;
  readonly effect: (severity: number, situation: Situation, moment: number) => readonly Assignment[];
}

/** A fault with its severity and its way settled. */
export interface PlacedFault {
  readonly fault: Fault;
  readonly severity: number;
  readonly variant: FaultVariant;
}

/** How often a bad connection is met with more ohms than the usual inputs notice it by, against one within, for as many ln ohms. */
export const BEYOND_SHARE = 0.2;

/** How often an intermittent fault stays quiet although its stimulus is applied. */
export const QUIET_SHARE = 0.2;

/** A part that is known to be so warm is as warm as heat would make it, degrees. */
const HOT_DEGREES = 65;

/** Whether a fault shows in a setup. */
export function showsIn(fault: Fault, setup: Setup): boolean {
  if (fault.during === null) return true;
  const { stimulus, truth } = setup;
  if (fault.during.kind === "heat" && truth?.temperature !== undefined && knownValue(truth.temperature) >= HOT_DEGREES) return true;
  if (stimulus?.kind !== fault.during.kind) return false;
  return fault.during.at === null || stimulus.at === undefined || placeIn(fault.circuit, stimulus.at) === placeIn(fault.circuit, fault.during.at);
}

/** The effect of a fault in one moment of a situation: nothing when it does not show there. */
export function effectIn({ fault, severity, variant }: PlacedFault, situation: Situation, moment: number): readonly Assignment[] {
  return showsIn(fault, situation.setup) ? fault.effect(severity, situation, variant, moment) : [];
}

/** The severity assumed when a file states none: the geometric or arithmetic middle of the range. */
export function middleSeverity(scale: SeverityScale): number {
  if (scale === null) return 1;
  return scale.key === "ohms" ? Math.sqrt(scale.low * scale.high) : 0.5 * (scale.low + scale.high);
}
