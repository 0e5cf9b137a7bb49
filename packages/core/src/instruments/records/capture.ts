import type { CircuitModel } from "../../circuit";
import { type Columns, METER_VOLTS_GAIN_SIGMA } from "../columns";
import { METER_OHMS, shownVolts } from "../port";
import type { ElectricalProbe } from "../probe";
import { AC_VOLTS, VOLTS } from "../scale";
import type { Leads, MovingCircuit, Prediction } from "../sensitivities";
import { swingOf } from "../waveform-view";
import { PROVES } from "../wording";
import { addAmplitude } from "./amplitude";
import { levelOf, predictLevel } from "./level";
import { drawn, type ElectricalRecord } from "./record";

/** One standard deviation of a level read from a scope's screen: its eight bits on the range chosen, and the cursor, volts. */
function scopeSigma(volts: number, coupling: "dc" | "ac"): number {
  return coupling === "dc" ? 0.03 + 0.012 * Math.abs(volts) : 0.003 + 0.02 * Math.abs(volts);
}

/** Whether a circuit's part makes its own alternating voltage. */
export function isAlternating({ family }: CircuitModel): boolean {
  return family.traits.alternating === true;
}

/**
 * Whether a probe reads the size of an alternating voltage: parts of one kind differ in it by factors, so it is weighed on a logarithmic
 * scale, as an alternating voltmeter's is.
 */
export function isAmplitude({ meter, statistic, circuit }: Pick<ElectricalProbe, "meter" | "statistic" | "circuit">): boolean {
  return meter === "capture" && statistic === "swing" && isAlternating(circuit);
}

/** Predicts the size of an alternating voltage peak to peak, in ln volts. */
function predictAmplitude(circuit: MovingCircuit, probe: ElectricalProbe, leads: Leads, columns: Columns, out: Prediction): void {
  const swing = circuit.hertz > 0 ? swingOf(circuit, (moment) => shownVolts(leads.ports[moment])) : 0;
  const volts = Math.abs(swing);
  addAmplitude({ circuit, leads, columns, volts, perVolt: Math.sign(swing), sigma: scopeSigma(volts, probe.coupling) }, out);
}

/** A scope: the ends of a swing, however fast. */
export const capture: ElectricalRecord = {
  choosing: { word: "scope", needs: ["scope"], minutes: 2, technique: "T10", proves: PROVES.scope },
  scale: (probe) => (isAmplitude(probe) ? AC_VOLTS : VOLTS),
  words: () => [],
  show: (seen, probe, noise) => {
    const volts = levelOf(seen, probe, shownVolts, noise);
    return volts * (noise?.gain ?? 1) + scopeSigma(volts, probe.coupling) * drawn(noise);
  },
  predict: (circuit, probe, leads, columns, out) => {
    if (isAmplitude(probe)) {
      predictAmplitude(circuit, probe, leads, columns, out);
      return;
    }
    predictLevel(circuit, probe, leads, columns, METER_OHMS, (volts) => scopeSigma(volts, probe.coupling), out);
    out.jacobian[columns.voltsGain] = out.mean * METER_VOLTS_GAIN_SIGMA;
  },
  deck: null,
};
