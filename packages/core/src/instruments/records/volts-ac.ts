import { METER_OHMS, shownVolts } from "../port";
import { AC_VOLTS } from "../scale";
import { acFactor, portsOf, swingOf } from "../waveform-view";
import { PROVES } from "../wording";
import { addAmplitude } from "./amplitude";
import { drawn, type ElectricalRecord } from "./record";
import { rippleVariance } from "./recording";

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
    const still = factor === 0 ? Math.sqrt(rippleVariance(circuit, leads, columns, METER_OHMS, out)) : 0.002;
    const sigma = Math.hypot(acVoltsSigma(volts), still);
    addAmplitude({ circuit, leads, columns, volts, perVolt: swing < 0 ? -factor : factor, sigma }, out);
  },
  deck: null,
};
