import { normalCdf } from "../../numeric";
import type { Columns } from "../columns";
import type { ElectricalProbe } from "../probe";
import { addSlope, addVolts, type Leads, type MovingCircuit, type Prediction, unsteadiness } from "../sensitivities";
import { portsOf, type Rhythm, swingOf, TRIGGER_VOLTS } from "../waveform-view";
import type { ConverterEnds, Seen } from "./record";

/**
 * Spread of an alternating amplitude, in ln volts: what belongs to the part, its gap and its place, the same from reading to reading; and
 * what each reading brings anew, a blow or a speed. Inductive sensors make 0.2 to 5 V while cranking, piezos ring from 10 mV to 5 V.
 */
export const PART_AMPLITUDE = { square: 0, sine: 0.6, ring: 0.55 } as const;
/** What the blow, the place and the instrument do to a ring, alike for all piezos of an engine: twins stay within a factor of three. */
export const BLOW_AMPLITUDE = { square: 0, sine: 0, ring: 1.15 } as const;
export const AMPLITUDE_SPREAD = { square: 0.04, sine: 0.3, ring: 0.5 } as const;
/** Spread of the swing a module wants before it counts, in ln volts: it is a module's own, and on no sheet. */
export const WANTED_SWING = { square: 0.1, sine: 0.3, ring: 0.4 } as const;
/** Softness of "does it see edges", in ln volts, while nothing is known of the part, its place and the module. */
const EDGE_SOFTNESS = {
  square: WANTED_SWING.square,
  sine: Math.hypot(PART_AMPLITUDE.sine, AMPLITUDE_SPREAD.sine, WANTED_SWING.sine),
  ring: Math.hypot(PART_AMPLITUDE.ring, BLOW_AMPLITUDE.ring, AMPLITUDE_SPREAD.ring, WANTED_SWING.ring),
} as const;
/** A swing this much below what is wanted, a share, is none; nothing moves it. */
const NO_SWING = 1e-3;

/** Peak-to-peak volts between a probe's leads, unloaded. */
export function swingVolts(seen: Rhythm, probe: ElectricalProbe): number {
  const ports = portsOf(seen, probe.red, probe.black);
  return Math.abs(swingOf(seen, (moment) => ports[moment]?.openVolts ?? 0));
}

/** Whether the module sees edges on a pin. */
export function seesEdges(seen: Seen, probe: ElectricalProbe): boolean {
  return seen.scanVolts === null && seen.hertz > 0 && swingVolts(seen, probe) >= leastSwingOf(probe);
}

/** Volts peak to peak from which on what counts at a probe sees edges. */
export function leastSwingOf({ reads }: ElectricalProbe): number {
  return reads?.leastSwing ?? TRIGGER_VOLTS;
}

/** Probability that edges of this swing are seen. @param least peak to peak, volts */
export function edgesSeen(circuit: MovingCircuit, leads: Leads, least: number): number {
  if (circuit.swing === null || circuit.hertz === 0) return 0;
  const swing = Math.abs(swingOf(circuit, (moment) => leads.ports[moment].openVolts));
  return normalCdf(Math.log(Math.max(1e-9, swing) / least) / EDGE_SOFTNESS[circuit.shape]);
}

/** What a module that counts shows besides, one way and the other: pulses picked up, a word misread. */
const SHOWN_ANYHOW = 0.0025;

/** Probability of the word "counts" where edges are seen with a probability. */
export function countsShare(seen: number): number {
  return (1 - 2 * SHOWN_ANYHOW) * seen + SHOWN_ANYHOW;
}

/** Where "it counts" and "it does not" part: of what {@link predictSwing} predicts only the side is read. */
export const COUNTED: ConverterEnds = { low: 0, high: 0, sigma: 1 / Math.sqrt(2 * Math.PI) };

/**
 * Predicts by how much a swing is larger than a module wants, in ln volts: above zero it counts. What belongs to the part, its place and the
 * module is shared by all readings of them.
 *
 * @param least peak to peak volts it wants, as a rule
 */
export function predictSwing(circuit: MovingCircuit, leads: Leads, columns: Columns, least: number, out: Prediction): void {
  const swing = circuit.swing === null || circuit.hertz === 0 || circuit.blind !== null ? 0 : swingOf(circuit, (moment) => leads.ports[moment].openVolts);
  const volts = Math.abs(swing);
  if (circuit.swing === null || volts < NO_SWING * least) {
    out.mean = Math.log(NO_SWING);
    out.noise = 1;
    return;
  }
  out.mean = Math.log(volts / least);
  out.noise = AMPLITUDE_SPREAD[circuit.shape] ** 2;
  addVolts(circuit, circuit.swing[0], leads, columns, 1 / swing, null, out);
  addVolts(circuit, circuit.swing[1], leads, columns, -1 / swing, null, out);
  addSlope(out, leads.form, PART_AMPLITUDE[circuit.shape]);
  addSlope(out, columns.blow, BLOW_AMPLITUDE[circuit.shape]);
  addSlope(out, leads.hears, WANTED_SWING[circuit.shape]);
}

/** Predicts a rate in ln hertz. @param seen probability that it is counted; `sigma` of the counter, relative */
export function predictRate(circuit: MovingCircuit, leads: Leads, columns: Columns, seen: number, sigma: number, out: Prediction): void {
  out.words[0] = 1 - seen;
  out.mean = Math.log(Math.max(0.05, circuit.hertz));
  out.noise = sigma ** 2 + circuit.hertzSpread ** 2;
  out.jacobian[leads.world] = circuit.hertzPerWorld;
  out.jacobian[columns.severity] = circuit.hertzPerSeverity;
  out.noise += unsteadiness(circuit, leads, out.jacobian);
  if (circuit.unsure !== null) addSlope(out, leads.rate, circuit.unsure.hertz);
}
