import { normalCdf } from "../../numeric";
import type { Columns } from "../columns";
import type { ElectricalProbe } from "../probe";
import { addSlope, type Leads, type MovingCircuit, type Prediction, unsteadiness } from "../sensitivities";
import { portsOf, type Rhythm, swingOf, TRIGGER_VOLTS } from "../waveform-view";
import type { Seen } from "./record";

/**
 * Spread of an alternating amplitude, in ln volts: what belongs to the part, its gap and its place, the same from reading to reading; and
 * what each reading brings anew, a blow or a speed. Inductive sensors make 0.2 to 5 V while cranking, piezos ring from 10 mV to 5 V.
 */
export const PART_AMPLITUDE = { square: 0, sine: 0.6, ring: 0.55 } as const;
/** What the blow, the place and the instrument do to a ring, alike for all piezos of an engine: twins stay within a factor of three. */
export const BLOW_AMPLITUDE = { square: 0, sine: 0, ring: 1.15 } as const;
export const AMPLITUDE_SPREAD = { square: 0.04, sine: 0.3, ring: 0.5 } as const;
/** Softness of "does it see edges", in ln volts. */
const EDGE_SOFTNESS = { square: 0.1, sine: 0.65, ring: 1.1 } as const;

/** Peak-to-peak volts between a probe's leads, unloaded. */
export function swingVolts(seen: Rhythm, probe: ElectricalProbe): number {
  const ports = portsOf(seen, probe.red, probe.black);
  return Math.abs(swingOf(seen, (moment) => ports[moment]?.openVolts ?? 0));
}

/** Whether the module sees edges on a pin. */
export function seesEdges(seen: Seen, probe: ElectricalProbe): boolean {
  return seen.scanVolts === null && seen.hertz > 0 && swingVolts(seen, probe) >= (probe.reads?.leastSwing ?? TRIGGER_VOLTS);
}

/** Probability that edges of this swing are seen. @param least peak to peak, volts */
export function edgesSeen(circuit: MovingCircuit, leads: Leads, least: number): number {
  if (circuit.swing === null || circuit.hertz === 0) return 0;
  const swing = Math.abs(swingOf(circuit, (moment) => leads.ports[moment].openVolts));
  return normalCdf(Math.log(Math.max(1e-9, swing) / least) / EDGE_SOFTNESS[circuit.shape]);
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
