import { adjointOf } from "../../network";
import { normalCdf } from "../../numeric";
import { METER_OHMS_GAIN_SIGMA } from "../columns";
import { LIVE_VOLTS, type Port, shownVolts } from "../port";
import { LOG_OFFSET_OHMS, logOhms, OHMS } from "../scale";
import { addJacobian, unsteadiness } from "../sensitivities";
import { portsOf } from "../waveform-view";
import { PROVES } from "../wording";
import { drawn, type ElectricalRecord } from "./record";

/** Above this an ohmmeter shows OL. */
export const OVERLOAD_OHMS = 4e7;
const OVERLOAD_SOFTNESS = 0.3;
/** Test current of the ohmmeter in a deck, amps. */
const TEST_AMPS = 1e-6;

/** d(logOhms) / d(ln ohms): close to one but for very small resistances. */
export function logOhmsSlope(ohms: number): number {
  return ohms / (ohms + LOG_OFFSET_OHMS);
}

/** One standard deviation of an ohmmeter on that scale: 1.2 % and 0.2 ohm of leads. */
export function logOhmsSigma(ohms: number): number {
  return Math.hypot(0.012 * logOhmsSlope(ohms), 0.2 / (ohms + LOG_OFFSET_OHMS));
}

/** What an ohmmeter shows on a port: ohms, OL, or `live` on a line with voltage. */
export function shownOhms(port: Port): number | "OL" | "live" {
  if (Math.abs(shownVolts(port)) > LIVE_VOLTS) return "live";
  return port.ohms > OVERLOAD_OHMS ? "OL" : port.ohms;
}

/** Card of the current an ohmmeter sends, for a deck. */
export function testCurrent(red: string, black: string): string[] {
  return [`* ohms itest=${TEST_AMPS}`, `Itest ${black} ${red} DC ${TEST_AMPS}`];
}

/** An ohmmeter: resistance of a dead line. */
export const ohms: ElectricalRecord = {
  choosing: { word: "ohms", needs: ["meter"], minutes: 1, technique: "T7", proves: PROVES.wireOhms },
  scale: () => OHMS,
  words: () => ["OL", "live"],
  show: (seen, probe, noise) => {
    const shown = shownOhms(portsOf(seen, probe.red, probe.black)[0]);
    return typeof shown === "string" ? shown : shown * Math.exp(logOhmsSigma(shown) * drawn(noise));
  },
  predict: (circuit, _probe, leads, columns, out) => {
    const { solution, motions } = circuit.moments[0];
    const port = leads.ports[0];
    const live = normalCdf((Math.abs(shownVolts(port)) - LIVE_VOLTS) / 0.02);
    out.mean = logOhms(port.ohms);
    out.noise = logOhmsSigma(port.ohms) ** 2;
    const adjoint = out.scratch.adjoint(solution.net.nodes.length);
    adjointOf(solution, leads.red, leads.black, adjoint);
    const scale = logOhmsSlope(port.ohms) / port.ohms;
    addJacobian(solution, columns, leads, motions, scale, { adjoint, perVolt: 0, perOhm: 1, own: -1, perOwn: 0 }, out);
    out.noise += unsteadiness(circuit, leads, out.jacobian);
    out.jacobian[columns.ohmsGain] = METER_OHMS_GAIN_SIGMA;
    // What differs from part to part may lift it over the end of the display.
    let variance = OVERLOAD_SOFTNESS ** 2;
    for (const slope of out.jacobian) variance += slope * slope;
    const overload = normalCdf(Math.log(port.ohms / OVERLOAD_OHMS) / Math.sqrt(variance));
    out.words[0] = (1 - live) * overload;
    out.words[1] = live;
  },
  deck: (_probe, red, black) => ({ elements: [], lines: testCurrent(red, black) }),
};
