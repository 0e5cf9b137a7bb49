import { isBrought } from "../../circuit";
import { CAR_SPREADS } from "../car-spreads";
import { type Columns, carColumn } from "../columns";
import { loadedVolts, METER_OHMS, type Port, shownVolts } from "../port";
import type { ElectricalProbe } from "../probe";
import { addPulsed, addVolts, type Leads, type MovingCircuit, type Prediction, settleNoise } from "../sensitivities";
import { averageOf, extremesOf, isFollowed, portsOf, type Rhythm, showsEnds, swingOf } from "../waveform-view";
import { AMPLITUDE_SPREAD } from "./edges";
import type { InstrumentNoise } from "./record";

/** The number of a recording, or the average; a signal slow enough to be followed is caught anywhere in its swing. */
export function levelOf(seen: Rhythm, probe: ElectricalProbe, volts: (port: Port) => number, noise: InstrumentNoise | null): number {
  const ports = portsOf(seen, probe.red, probe.black).map(volts);
  const mean = averageOf(seen, (moment) => ports[moment]);
  const rides = probe.coupling === "ac" ? mean : 0;
  const extremes = showsEnds(seen, probe.meter) ? extremesOf(seen, (moment) => ports[moment]) : null;
  if (extremes === null) return mean - rides;
  const ends = extremes.map((volt) => volt - rides).sort((a, b) => a - b) as [number, number];
  switch (probe.statistic) {
    case "min":
      return ends[0];
    case "max":
      return ends[1];
    case "swing":
      return ends[1] - ends[0];
    case "mean":
      return noise === null ? mean : ends[0] + (ends[1] - ends[0]) * noise.uniform();
  }
}

/** A level is read either open, or with the meter's own load on it. */
function voltsAt(port: Port, load: number | null): number {
  return load === null ? port.openVolts : loadedVolts(port, load);
}

/** The ends of a swing, or one of them: `weights` of high and low. */
const END_WEIGHTS = { min: [0, 1], max: [1, 0], swing: [1, -1] } as const;
/** The same of a ring, beside the level it rides on. */
const RING_WEIGHTS = { min: [-0.5, 0.5], max: [0.5, -0.5], swing: [1, -1] } as const;

function predictEnds(
  circuit: MovingCircuit,
  probe: ElectricalProbe,
  statistic: keyof typeof END_WEIGHTS,
  ends: readonly [number, number],
  leads: Leads,
  columns: Columns,
  load: number | null,
  sigma: (volts: number) => number,
  out: Prediction,
): void {
  const volts = leads.ports.map((port) => voltsAt(port, load));
  const [first, second] = ends;
  const [high, low] = volts[first] >= volts[second] ? [first, second] : [second, first];
  const weights = END_WEIGHTS[statistic];
  // A ring goes both ways from where the line rests; an input that takes the level away leaves it out.
  const rings = circuit.shape === "ring" && statistic !== "swing";
  const level = (rings ? 1 : 0) - (probe.coupling === "ac" && statistic !== "swing" ? 1 : 0);
  const ofEnds = rings ? RING_WEIGHTS[statistic] : weights;
  const weightAt = (moment: number): number => level * circuit.moments[moment].share + (moment === high ? ofEnds[0] : moment === low ? ofEnds[1] : 0);
  out.mean = volts.reduce((sum, volt, moment) => sum + weightAt(moment) * volt, 0);
  const part = statistic === "swing" ? 1 : 0.7;
  const own = circuit.shape === "square" ? 0 : part * AMPLITUDE_SPREAD[circuit.shape] * (volts[high] - volts[low]);
  out.noise = 2 * sigma(out.mean) ** 2 + 0.03 ** 2 + own ** 2;
  for (const moment of volts.keys()) addVolts(circuit, moment, leads, columns, weightAt(moment), load, out);
}

/** What a recording of a still line wanders by itself, volts. */
const STILL_VOLTS = 0.02;
/** Of what the supply of a car is unsure by, so much is seen within one recording: it sags with the key on and pumps while it charges. */
const SUPPLY_SHARE: readonly { readonly column: number; readonly share: number }[] = CAR_SPREADS.flatMap(({ element, field }, index) =>
  field === "volts" && (element === "car/battery" || element === "car/alternator")
    ? [{ column: carColumn(index), share: element === "car/battery" ? 0.2 : 0.35 }]
    : [],
);
/** The same of what a running engine brings about: a manifold pulses, an idle hunts. */
const BROUGHT_SHARE = 0.25;

/** How far a line that stands still goes up and down within a recording: with its supply, and with what the engine does. */
function predictWander(circuit: MovingCircuit, leads: Leads, columns: Columns, load: number | null, out: Prediction): void {
  circuit.moments.forEach(({ share }, moment) => {
    addVolts(circuit, moment, leads, columns, share, load, out);
  });
  settleNoise(out);
  let variance = STILL_VOLTS ** 2;
  for (const { column, share } of SUPPLY_SHARE) variance += (share * (out.jacobian[column] ?? 0)) ** 2;
  if (isBrought(circuit.source)) variance += (BROUGHT_SHARE * (out.jacobian[leads.world] ?? 0)) ** 2;
  out.jacobian.fill(0);
  out.mean = 0;
  out.noise = variance;
}

/**
 * Predicts the average between the leads, or the ends of a swing; a signal slow enough to be followed may be caught anywhere in it.
 *
 * @param load the instrument's resistance, ohms; null for one that loads nothing
 * @param sigma one standard deviation of the instrument at a level, volts
 */
export function predictLevel(
  circuit: MovingCircuit,
  probe: ElectricalProbe,
  leads: Leads,
  columns: Columns,
  load: number | null,
  sigma: (volts: number) => number,
  out: Prediction,
): void {
  const { statistic } = probe;
  if (circuit.swing !== null && statistic !== "mean" && showsEnds(circuit, probe.meter)) {
    predictEnds(circuit, probe, statistic, circuit.swing, leads, columns, load, sigma, out);
    return;
  }
  if (statistic === "swing") {
    predictWander(circuit, leads, columns, load, out);
    return;
  }
  if (probe.coupling === "ac") {
    out.mean = 0;
    out.noise = sigma(0) ** 2 + 0.002 ** 2;
    return;
  }
  const volts = leads.ports.map((port) => voltsAt(port, load));
  out.mean = averageOf(circuit, (moment) => volts[moment]);
  out.noise = sigma(out.mean) ** 2;
  circuit.moments.forEach(({ share }, moment) => {
    addVolts(circuit, moment, leads, columns, share, load, out);
  });
  if (circuit.swing === null) return;
  const swing = swingOf(circuit, (moment) => volts[moment]);
  if (isFollowed(circuit)) out.noise += (0.55 * swing) ** 2;
  else addPulsed(circuit, leads, swing, out);
}

/** Beside its leak a floating line picks up some millivolts. */
const PICKED_UP_VOLTS = 0.01;

/**
 * Variance of what a meter shows on a line that nearly floats: how well a break insulates is anybody's guess, so a broken wire
 * reads anything from nothing to what leaks through.
 */
export function floatingVariance(circuit: MovingCircuit, ports: readonly Port[]): number {
  const volts = averageOf(circuit, (moment) => shownVolts(ports[moment]));
  const ohms = Math.max(...ports.map((port) => port.ohms));
  return ((ohms / (ohms + METER_OHMS)) ** 4 * (Math.abs(volts) + PICKED_UP_VOLTS)) ** 2;
}
