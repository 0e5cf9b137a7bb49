import { adjointOf, voltsBetween } from "../../network";
import { METER_VOLTS_GAIN_SIGMA } from "../columns";
import type { Port } from "../port";
import { AMPS } from "../scale";
import { addJacobian, addPulsed, Quantity, voltsBetweenLeads } from "../sensitivities";
import { averageOf, conductorAmps, portsOf, swingOf } from "../waveform-view";
import { PROVES } from "../wording";
import { drawn, type ElectricalRecord } from "./record";

/** Burden of an ammeter with its leads, ohms. */
export const AMMETER_OHMS = 0.1;

/** One standard deviation of an ammeter or clamp. */
function ampsSigma(amps: number): number {
  return 0.003 + 0.025 * Math.abs(amps);
}

/** What an ammeter put between two points shows: it closes the way itself. */
export function shownAmps(port: Port): number {
  return port.openVolts / (port.ohms + AMMETER_OHMS);
}

/** Which way a clamp is put on: so that it shows the current as a positive number, whichever way its wire carries it. */
function wayOf(clamp: string | null, amps: number): 1 | -1 {
  return clamp !== null && amps < 0 ? -1 : 1;
}

/** A clamp around a conductor, or an ammeter whose leads are the path. */
export const ampsDc: ElectricalRecord = {
  choosing: { word: "amps", needs: ["clamp"], minutes: 1, technique: "T12", proves: PROVES.amps },
  scale: () => AMPS,
  words: () => [],
  show: (seen, probe, noise) => {
    const { clamp } = probe;
    const ports = portsOf(seen, probe.red, probe.black);
    const amps = averageOf(seen, (moment) => (clamp === null ? shownAmps(ports[moment]) : conductorAmps(seen.moments[moment].solution, clamp)));
    return wayOf(clamp, amps) * amps * (noise?.gain ?? 1) + ampsSigma(amps) * drawn(noise);
  },
  predict: (circuit, { clamp }, leads, columns, out) => {
    const { net } = circuit.moments[0].solution;
    const element = clamp === null ? -1 : (net.elementIndex.get(clamp) ?? -1);
    const [from, to] = clamp === null ? [leads.red, leads.black] : [net.a[element] ?? -1, net.b[element] ?? -1];
    const amps = circuit.moments.map(({ solution }, moment) => (clamp === null ? shownAmps(leads.ports[moment]) : conductorAmps(solution, clamp)));
    const shown = averageOf(circuit, (moment) => amps[moment]);
    const way = wayOf(clamp, shown);
    out.mean = way * shown;
    out.noise = ampsSigma(out.mean) ** 2;
    circuit.moments.forEach(({ share, solution, motions }, moment) => {
      if (share === 0) return;
      const adjoint = out.scratch.adjoint(solution.net.nodes.length);
      adjointOf(solution, from, to, adjoint);
      if (clamp === null) {
        const total = leads.ports[moment].ohms + AMMETER_OHMS;
        addJacobian(solution, columns, leads, motions, share / total, voltsBetweenLeads(adjoint, -amps[moment]), out);
        return;
      }
      const across = voltsBetween(solution.volts, from, to);
      const quantity = new Quantity(adjoint, 1, 0, element, -across);
      addJacobian(solution, columns, leads, motions, (way * share) / (solution.values.ohms[element] ?? 1), quantity, out);
    });
    if (circuit.swing !== null) addPulsed(circuit, leads, way * swingOf(circuit, (moment) => amps[moment]), out);
    out.jacobian[columns.voltsGain] = out.mean * METER_VOLTS_GAIN_SIGMA;
  },
  deck: ({ red, black }) => ({ elements: [{ kind: "resistor", id: "meter", a: red, b: black, ohms: AMMETER_OHMS }], lines: [] }),
};
