import { METER_OHMS, shownVolts } from "../port";
import { VOLTS } from "../scale";
import { addVolts } from "../sensitivities";
import { acFactor, portsOf, swingOf } from "../waveform-view";
import { PROVES } from "../wording";
import { AMPLITUDE_SPREAD } from "./edges";
import { drawn, type ElectricalRecord } from "./record";

/** One standard deviation of an AC range: its band and wave form are known less well than a level. */
function acVoltsSigma(volts: number): number {
  return 0.003 + 0.03 * Math.abs(volts);
}

/** A voltmeter on AC: what alternates, by the way its range rectifies, within its band. */
export const voltsAc: ElectricalRecord = {
  choosing: { word: "AC volts", needs: ["meter"], minutes: 0.8, technique: "T8", proves: PROVES.ac },
  scale: () => VOLTS,
  words: () => [],
  show: (seen, probe, noise) => {
    const ports = portsOf(seen, probe.red, probe.black);
    const volts = acFactor(seen, probe.ac) * Math.abs(swingOf(seen, (moment) => shownVolts(ports[moment])));
    return Math.abs(volts * (noise?.gain ?? 1) + acVoltsSigma(volts) * drawn(noise));
  },
  predict: (circuit, probe, leads, columns, out) => {
    const factor = acFactor(circuit, probe.ac);
    const swing = swingOf(circuit, (moment) => shownVolts(leads.ports[moment]));
    out.mean = factor * Math.abs(swing);
    out.noise = acVoltsSigma(out.mean) ** 2 + (AMPLITUDE_SPREAD[circuit.shape] * out.mean) ** 2 + (factor === 0 ? 0 : 0.002 ** 2);
    if (circuit.swing === null || factor === 0) return;
    const sign = swing < 0 ? -factor : factor;
    addVolts(circuit, circuit.swing[0], leads, columns, sign, METER_OHMS, out);
    addVolts(circuit, circuit.swing[1], leads, columns, -sign, METER_OHMS, out);
  },
  deck: null,
};
