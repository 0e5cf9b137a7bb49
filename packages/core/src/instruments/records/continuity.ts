import { logistic, normalCdf } from "../../numeric";
import { LIVE_VOLTS, type Port, shownVolts } from "../port";
import { WORDS } from "../scale";
import { portsOf } from "../waveform-view";
import { PROVES } from "../wording";
import { shownOhms, testCurrent } from "./ohms";
import type { ElectricalRecord } from "./record";

/** A beeper sounds below this. */
const BEEP_OHMS = 30;

/** What a continuity beeper does. A live line keeps it silent. */
export function shownContinuity(port: Port): "beep" | "open" {
  const shown = shownOhms(port);
  return typeof shown === "number" && shown < BEEP_OHMS ? "beep" : "open";
}

/** Probability that the beeper sounds, with a soft edge in ln ohms. */
export function beepProbability(ohms: number): number {
  return logistic(Math.log(BEEP_OHMS / Math.max(ohms, 0.01)) / 0.15);
}

/** A beeper: it sounds below some tens of ohms, which says little of a wire under load. */
export const continuity: ElectricalRecord = {
  choosing: { word: "continuity", needs: ["meter"], minutes: 0.8, technique: "T7", proves: PROVES.wireOhms },
  scale: () => WORDS,
  words: () => ["beep", "open"],
  show: (seen, probe) => shownContinuity(portsOf(seen, probe.red, probe.black)[0]),
  predict: (_circuit, _probe, leads, _columns, out) => {
    const port = leads.ports[0];
    const live = normalCdf((Math.abs(shownVolts(port)) - LIVE_VOLTS) / 0.02);
    const beep = (1 - live) * beepProbability(port.ohms);
    out.words[0] = beep;
    out.words[1] = 1 - beep;
  },
  deck: (_probe, red, black) => ({ elements: [], lines: testCurrent(red, black) }),
};
