import { METER_VOLTS_GAIN_SIGMA } from "../columns";
import { METER_OHMS, shownVolts } from "../port";
import { smallRange, VOLTS, voltsScale } from "../scale";
import { unsteadiness } from "../sensitivities";
import { PROVES } from "../wording";
import { floatingVariance, levelOf, predictLevel } from "./level";
import { drawn, type ElectricalRecord } from "./record";

/** Counts of a usual hand-held meter's display, and how many of them its last digit wanders. */
export const DISPLAY_COUNTS = 4000;
const WANDERING_COUNTS = 3;
/** What a lead that is held by hand spoils on any range, volts. */
const HELD_VOLTS = 0.005;

/**
 * One standard deviation of a hand-held DC meter at a value: 0.4 % and some millivolts of held leads; on a range below a volt, which is
 * chosen for a signal that small, a few counts of the range.
 *
 * @param fullScale of the range that was chosen for the signal; null for a meter that finds its own
 */
export function voltsSigma(volts: number, fullScale: number | null = null): number {
  const small = smallRange(fullScale);
  const still = small === null ? HELD_VOLTS : (WANDERING_COUNTS * small) / DISPLAY_COUNTS;
  return still + 0.004 * Math.abs(volts);
}

/** A digital voltmeter on DC: it averages, and loads the line with its own resistance. */
export const voltsDc: ElectricalRecord = {
  choosing: { word: "", needs: ["meter"], minutes: 0.7, technique: "T2", proves: PROVES.plugged },
  scale: ({ fullScale }) => voltsScale(VOLTS, fullScale),
  words: () => [],
  show: (seen, probe, noise) => {
    const volts = levelOf(seen, probe, shownVolts, noise);
    return volts * (noise?.gain ?? 1) + voltsSigma(volts, probe.fullScale) * drawn(noise);
  },
  predict: (circuit, probe, leads, columns, out) => {
    predictLevel(circuit, probe, leads, columns, METER_OHMS, (volts) => voltsSigma(volts, probe.fullScale), out);
    out.noise += floatingVariance(circuit, leads.ports);
    out.noise += unsteadiness(circuit, leads, out.jacobian);
    out.jacobian[columns.voltsGain] = out.mean * METER_VOLTS_GAIN_SIGMA;
  },
  deck: ({ red, black }) => ({ elements: [{ kind: "resistor", id: "meter", a: red, b: black, ohms: METER_OHMS }], lines: [] }),
};
