import { adjointOf, KIND, OFF, type Solution, voltsBetween } from "../../network";
import { normalCdf } from "../../numeric";
import { METER_OHMS_GAIN_SIGMA } from "../columns";
import { LIVE_VOLTS, type Port, shownVolts } from "../port";
import { LOG_OFFSET_OHMS, logOhms, OHMS } from "../scale";
import { addJacobian, Quantity, unsteadiness } from "../sensitivities";
import { portsOf } from "../waveform-view";
import { PROVES } from "../wording";
import { drawn, type ElectricalRecord } from "./record";

/** Above this an ohmmeter shows OL. */
export const OVERLOAD_OHMS = 4e7;
const OVERLOAD_SOFTNESS = 0.3;
/** Electronics that are less of what is between the leads do not matter. */
const LEAST_SHARE = 0.01;
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

/** What an ohmmeter finds of electronics without their supply: what is usual, ohms, and how far that differs, ln. */
interface Unpowered {
  readonly ohms: number;
  readonly sigma: number;
}

/** A module's supply, from its capacitors' leakage to a rail full of chips: some hundred ohms to hundreds of kilo-ohms. */
const DEAD_SUPPLY_SIGMA = 1.6;
/** A sensor's electronics between its supply pins: a few hundred ohms to open, by maker and by which lead is red. */
const DEAD_LOAD: Unpowered = { ohms: 1e5, sigma: 2.6 };
/** An output stage: kilo-ohms to open. */
const DEAD_OUTPUT: Unpowered = { ohms: 1e6, sigma: 3 };
/** Electronics with less than this share of what they have when sound are shorted: that is found. */
const SHORTED_SHARE = 0.5;

function unpowered({ net, values }: Solution, element: number): Unpowered {
  if (net.kinds[element] === KIND.regulator) return { ohms: values.ohms[element], sigma: DEAD_SUPPLY_SIGMA };
  const part = net.elements[element];
  return part?.kind === "resistor" && part.electronics === true ? DEAD_LOAD : DEAD_OUTPUT;
}

/** How much of a port's resistance, ln, is what one element has, ln: all of it where it is alone between the leads. */
function shareOf(
  { net, values, regimes }: Solution,
  adjoint: Float64Array,
  element: number,
  portOhms: number,
): { readonly share: number; readonly ohms: number } {
  const seen = voltsBetween(adjoint, net.a[element], net.b[element]);
  const ohms = values.ohms[element];
  if (regimes[element] !== OFF || net.kinds[element] === KIND.amplifier) return { share: Math.min(1, (seen * seen) / (ohms * portOhms)), ohms };
  // It was taken as not there: alone between the leads it is all that there is.
  return { share: portOhms < DEAD_OUTPUT.ohms ? 0 : Math.min(1, Math.abs(seen) / portOhms), ohms: portOhms };
}

/** What electronics without their supply leave open of a resistance: which way it lies from what was solved, ln, and its variance. */
function leftOpen(solution: Solution, adjoint: Float64Array, portOhms: number): { readonly shift: number; readonly variance: number } {
  const { net, values } = solution;
  let shift = 0;
  let variance = 0;
  for (const element of net.electronics) {
    if (values.ohms[element] < SHORTED_SHARE * net.values.ohms[element]) continue;
    const { share, ohms } = shareOf(solution, adjoint, element, portOhms);
    if (share < LEAST_SHARE) continue;
    const { ohms: usual, sigma } = unpowered(solution, element);
    shift += share * Math.log(usual / ohms);
    variance += (share * sigma) ** 2;
  }
  return { shift, variance };
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
    const adjoint = out.scratch.adjoint(solution.net.nodes.length);
    adjointOf(solution, leads.red, leads.black, adjoint);
    const open = leftOpen(solution, adjoint, port.ohms);
    const ohms = port.ohms * Math.exp(open.shift);
    out.mean = logOhms(ohms);
    out.noise = logOhmsSigma(ohms) ** 2 + open.variance;
    const scale = logOhmsSlope(port.ohms) / port.ohms;
    addJacobian(solution, columns, leads, motions, scale, new Quantity(adjoint, 0, 1), out);
    out.noise += unsteadiness(circuit, leads, out.jacobian);
    out.jacobian[columns.ohmsGain] = METER_OHMS_GAIN_SIGMA;
    // What differs from part to part may lift it over the end of the display.
    let variance = OVERLOAD_SOFTNESS ** 2 + open.variance;
    for (const slope of out.jacobian) variance += slope * slope;
    const overload = normalCdf(Math.log(ohms / OVERLOAD_OHMS) / Math.sqrt(variance));
    out.words[0] = (1 - live) * overload;
    out.words[1] = live;
  },
  deck: (_probe, red, black) => ({ elements: [], lines: testCurrent(red, black) }),
};
