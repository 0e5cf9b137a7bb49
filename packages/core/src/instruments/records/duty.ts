import { PERCENT } from "../scale";
import { addSlope } from "../sensitivities";
import { portsOf, shareOfFirst, swingOf, TRIGGER_VOLTS } from "../waveform-view";
import { PROVES } from "../wording";
import { edgesSeen, swingVolts } from "./edges";
import { drawn, type ElectricalRecord } from "./record";

/** One standard deviation of a duty reading, percent. */
const DUTY_SIGMA_PERCENT = 1.5;

/** Percentage of the time a signal is high. */
export const duty: ElectricalRecord = {
  choosing: { word: "duty", needs: ["meter"], minutes: 0.8, technique: "T8", proves: PROVES.rate },
  scale: () => PERCENT,
  words: () => ["OL"],
  show: (seen, probe, noise) => {
    if (seen.hertz === 0 || seen.shape === "ring" || swingVolts(seen, probe) < TRIGGER_VOLTS) return "OL";
    const ports = portsOf(seen, probe.red, probe.black);
    const rising = swingOf(seen, (moment) => ports[moment]?.openVolts ?? 0) > 0;
    const share = shareOfFirst(seen);
    return 100 * (rising ? share : 1 - share) + DUTY_SIGMA_PERCENT * drawn(noise);
  },
  predict: (circuit, _probe, leads, _columns, out) => {
    const rising = swingOf(circuit, (moment) => leads.ports[moment].openVolts) > 0;
    const share = shareOfFirst(circuit);
    out.mean = 100 * (rising ? share : 1 - share);
    out.noise = (2 * DUTY_SIGMA_PERCENT) ** 2;
    if (circuit.unsure !== null) addSlope(out, leads.form, 100 * (rising ? 1 : -1) * circuit.unsure.share);
    out.words[0] = circuit.shape === "ring" ? 1 : 1 - edgesSeen(circuit, leads, TRIGGER_VOLTS);
  },
  deck: null,
};
