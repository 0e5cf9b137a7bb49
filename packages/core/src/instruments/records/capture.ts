import { METER_VOLTS_GAIN_SIGMA } from "../columns";
import { METER_OHMS, shownVolts } from "../port";
import { VOLTS } from "../scale";
import { PROVES } from "../wording";
import { levelOf, predictLevel } from "./level";
import { drawn, type ElectricalRecord } from "./record";

/** One standard deviation of a level read from a scope's screen: its eight bits on the range chosen, and the cursor, volts. */
function scopeSigma(volts: number, coupling: "dc" | "ac"): number {
  return coupling === "dc" ? 0.03 + 0.012 * Math.abs(volts) : 0.003 + 0.02 * Math.abs(volts);
}

/** A scope: the ends of a swing, however fast. */
export const capture: ElectricalRecord = {
  choosing: { word: "scope", needs: ["scope"], minutes: 2, technique: "T10", proves: PROVES.scope },
  scale: () => VOLTS,
  words: () => [],
  show: (seen, probe, noise) => {
    const volts = levelOf(seen, probe, shownVolts, noise);
    return volts * (noise?.gain ?? 1) + scopeSigma(volts, probe.coupling) * drawn(noise);
  },
  predict: (circuit, probe, leads, columns, out) => {
    predictLevel(circuit, probe, leads, columns, METER_OHMS, (volts) => scopeSigma(volts, probe.coupling), out);
    out.jacobian[columns.voltsGain] = out.mean * METER_VOLTS_GAIN_SIGMA;
  },
  deck: null,
};
