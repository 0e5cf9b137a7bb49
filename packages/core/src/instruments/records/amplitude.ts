import type { Columns } from "../columns";
import { METER_OHMS } from "../port";
import { AC_OFFSET_VOLTS } from "../scale";
import { addForm, addSlope, addVolts, type Leads, type MovingCircuit, type Prediction } from "../sensitivities";
import { AMPLITUDE_SPREAD, BLOW_AMPLITUDE, PART_AMPLITUDE } from "./edges";

/** An alternating voltage as an instrument shows it. */
export interface ShownAmplitude {
  readonly circuit: MovingCircuit;
  readonly leads: Leads;
  readonly columns: Columns;
  /** What is shown, volts, zero or more. */
  readonly volts: number;
  /** What is shown for each volt of the swing between its two extremes; 0 where nothing swings. */
  readonly perVolt: number;
  /** One standard deviation of the instrument, volts. */
  readonly sigma: number;
}

/**
 * Fills a prediction with an alternating voltage in ln(volts + offset): slopes are relative to what is shown. What belongs to part and blow is
 * shared by all readings of them, the rest is each reading's own.
 */
export function addAmplitude({ circuit, leads, columns, volts, perVolt, sigma }: ShownAmplitude, out: Prediction): void {
  const scale = 1 / (volts + AC_OFFSET_VOLTS);
  const share = volts * scale;
  out.mean = Math.log(volts + AC_OFFSET_VOLTS);
  out.noise = (scale * sigma) ** 2;
  addForm(circuit, (share * AMPLITUDE_SPREAD[circuit.shape]) ** 2, out);
  if (circuit.swing === null || perVolt === 0) return;
  addVolts(circuit, circuit.swing[0], leads, columns, perVolt * scale, METER_OHMS, out);
  addVolts(circuit, circuit.swing[1], leads, columns, -perVolt * scale, METER_OHMS, out);
  addSlope(out, leads.form, share * PART_AMPLITUDE[circuit.shape]);
  addSlope(out, columns.blow, share * BLOW_AMPLITUDE[circuit.shape]);
}
