import { HERTZ } from "../scale";
import { TRIGGER_VOLTS } from "../waveform-view";
import { PROVES } from "../wording";
import { edgesSeen, predictRate, swingVolts } from "./edges";
import { drawn, type ElectricalRecord } from "./record";

/** A counter: repetitions a second of a signal that passes its trigger. */
export const hertz: ElectricalRecord = {
  choosing: { word: "rate", needs: ["meter"], minutes: 0.8, technique: "T8", proves: PROVES.rate },
  scale: () => HERTZ,
  words: () => ["none"],
  show: (seen, probe, noise) => (swingVolts(seen, probe) >= TRIGGER_VOLTS && seen.shape !== "ring" ? seen.hertz * (1 + 0.002 * drawn(noise)) : 0),
  predict: (circuit, _probe, leads, columns, out) => {
    predictRate(circuit, leads, columns, circuit.shape === "ring" ? 0 : edgesSeen(circuit, leads, TRIGGER_VOLTS), 0.004, out);
  },
  deck: null,
};
