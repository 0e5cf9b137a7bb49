import { METER_OHMS, shownVolts } from "../port";
import { AC_OFFSET_VOLTS, AC_VOLTS } from "../scale";
import { addSlope, addVolts } from "../sensitivities";
import { acFactor, portsOf, swingOf } from "../waveform-view";
import { PROVES } from "../wording";
import { AMPLITUDE_SPREAD, BLOW_AMPLITUDE, PART_AMPLITUDE } from "./edges";
import { drawn, type ElectricalRecord } from "./record";

/** One standard deviation of an AC range: its band and wave form are known less well than a level. */
function acVoltsSigma(volts: number): number {
  return 0.003 + 0.03 * Math.abs(volts);
}

/** A voltmeter on AC: what alternates, by the way its range rectifies, within its band. */
export const voltsAc: ElectricalRecord = {
  choosing: { word: "AC volts", needs: ["meter"], minutes: 0.8, technique: "T8", proves: PROVES.ac },
  scale: () => AC_VOLTS,
  words: () => [],
  show: (seen, probe, noise) => {
    const ports = portsOf(seen, probe.red, probe.black);
    const volts = acFactor(seen, probe.ac) * Math.abs(swingOf(seen, (moment) => shownVolts(ports[moment])));
    return Math.abs(volts * (noise?.gain ?? 1) + acVoltsSigma(volts) * drawn(noise));
  },
  predict: (circuit, probe, leads, columns, out) => {
    const factor = acFactor(circuit, probe.ac);
    const swing = swingOf(circuit, (moment) => shownVolts(leads.ports[moment]));
    const volts = factor * Math.abs(swing);
    // On a logarithmic scale a slope is relative to what is shown.
    const scale = 1 / (volts + AC_OFFSET_VOLTS);
    const share = volts * scale;
    out.mean = Math.log(volts + AC_OFFSET_VOLTS);
    out.noise = (scale * Math.hypot(acVoltsSigma(volts), factor === 0 ? 0 : 0.002)) ** 2 + (share * AMPLITUDE_SPREAD[circuit.shape]) ** 2;
    if (circuit.swing === null || factor === 0) return;
    const sign = swing < 0 ? -factor : factor;
    addVolts(circuit, circuit.swing[0], leads, columns, sign * scale, METER_OHMS, out);
    addVolts(circuit, circuit.swing[1], leads, columns, -sign * scale, METER_OHMS, out);
    addSlope(out, leads.form, share * PART_AMPLITUDE[circuit.shape]);
    addSlope(out, columns.blow, share * BLOW_AMPLITUDE[circuit.shape]);
  },
  deck: null,
};
