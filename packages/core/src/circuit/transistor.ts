import type { CircuitBuilder } from "./builder";
import type { Tolerance } from "./family";
import { ohmsTolerance, unsaid } from "./stages";

/** What a conducting transistor keeps across itself however little flows, volts, and its resistance besides, ohms. */
const KEPT_VOLTS = 0.1;
const ON_OHMS = 15;
/** How much that differs between parts: a low level of 20 to 400 mV, 0.8 V under a small pull-up, is met (field guide, section 14). */
const ON_SPREAD = 0.6;

/** Resistance of an output transistor that conducts against a resistor of the module's. */
export function conductingOhms(pullOhms: number, pullVolts: number): number {
  return ON_OHMS + (KEPT_VOLTS * pullOhms) / pullVolts;
}

/** Spread of element `output`, with what it keeps across itself where the module's resistor is not known. @param pull parameters that say that resistor */
export function conductingTolerances(builder: CircuitBuilder, pull: readonly string[]): readonly Tolerance[] {
  return [ohmsTolerance("output", ON_SPREAD), ...unsaid(builder, pull, ohmsTolerance("output", ON_SPREAD))];
}
