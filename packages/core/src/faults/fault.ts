import type { Setup } from "@fox-lamp/language";
import type { Assignment, SeverityScale } from "../circuit";

/** One way a fault can be: on which stretch of wire, in which direction. */
export interface FaultVariant {
  readonly direction: 1 | -1;
  readonly section: number;
  readonly weight: number;
}

/** What a fault does to the network at a severity. */
export interface FaultEffect {
  readonly assignments: readonly Assignment[];
  /** What the module reports instead of its pin, volts; null when it reads the pin. */
  readonly scanVolts: number | null;
}

/** A fault kind at a place, with everything needed to put it into the network. */
export interface Fault {
  /** `circuit/unit/kind`. */
  readonly id: string;
  /** `circuit/unit`: what is repaired or replaced. */
  readonly unit: string;
  /** Circuit whose elements it edits; `car` for battery and grounds. */
  readonly circuit: string;
  readonly kind: string;
  readonly title: string;
  readonly severity: SeverityScale;
  readonly prior: number;
  /** False when no severity moves the module's value noticeably: it can be simulated, but is nobody's complaint. */
  readonly matters: boolean;
  readonly variants: readonly FaultVariant[];
  /** The stimulus under which it shows at all; null when it always shows. */
  readonly during: { readonly kind: string; readonly at: string | null } | null;
  readonly effect: (severity: number, world: number, variant: FaultVariant) => FaultEffect;
}

/** How often an intermittent fault stays quiet although its stimulus is applied. */
export const QUIET_SHARE = 0.2;

const NO_EFFECT: FaultEffect = { assignments: [], scanVolts: null };

/** Whether a fault shows in a setup. */
export function showsIn(fault: Fault, setup: Setup): boolean {
  if (fault.during === null) return true;
  const stimulus = setup.stimulus;
  if (stimulus?.kind !== fault.during.kind) return false;
  return fault.during.at === null || stimulus.at === undefined || stimulus.at === fault.during.at;
}

/** The effect of a fault in a setup: nothing when it does not show there. */
export function effectIn(fault: Fault, setup: Setup, severity: number, world: number, variant: FaultVariant): FaultEffect {
  return showsIn(fault, setup) ? fault.effect(severity, world, variant) : NO_EFFECT;
}

/** The severity assumed when a file states none: the geometric or arithmetic middle of the range. */
export function middleSeverity(scale: SeverityScale): number {
  if (scale === null) return 1;
  return scale.key === "ohms" ? Math.sqrt(scale.low * scale.high) : 0.5 * (scale.low + scale.high);
}
