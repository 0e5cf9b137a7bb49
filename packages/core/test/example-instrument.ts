import { METER_VOLTS_GAIN_SIGMA } from "../src/instruments/columns";
import { loadedVolts } from "../src/instruments/port";
import { levelOf, predictLevel } from "../src/instruments/records/level";
import { drawn, type ElectricalRecord } from "../src/instruments/records/record";
import { voltsSigma } from "../src/instruments/records/volts-dc";
import { VOLTS } from "../src/instruments/scale";
import { unsteadiness } from "../src/instruments/sensitivities";
import { PROVES } from "../src/instruments/wording";

/** What the loaded range of a voltmeter puts across its leads, ohms: a voltage without strength behind it is pulled down. */
export const LOADED_OHMS = 2e5;

/** A voltmeter on its loaded range. */
export const voltsLoaded: ElectricalRecord = {
  choosing: { word: "loaded range", needs: ["meter"], minutes: 0.7, technique: "T2", proves: PROVES.loaded },
  scale: () => VOLTS,
  words: () => [],
  show: (seen, probe, noise) => {
    const volts = levelOf(seen, probe, (port) => loadedVolts(port, LOADED_OHMS), noise);
    return volts * (noise?.gain ?? 1) + voltsSigma(volts) * drawn(noise);
  },
  predict: (circuit, probe, leads, columns, out) => {
    predictLevel(circuit, probe, leads, columns, LOADED_OHMS, voltsSigma, out);
    out.noise += unsteadiness(circuit, leads, out.jacobian);
    out.jacobian[columns.voltsGain] = out.mean * METER_VOLTS_GAIN_SIGMA;
  },
  deck: (_probe, red, black) => ({ elements: [{ kind: "resistor", id: "meter", a: red, b: black, ohms: LOADED_OHMS }], lines: [] }),
};
