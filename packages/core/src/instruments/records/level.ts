import type { Columns } from "../columns";
import { loadedVolts, METER_OHMS, type Port, shownVolts } from "../port";
import type { ElectricalProbe } from "../probe";
import { addForm, addPulsed, addVolts, type Leads, type MovingCircuit, type Prediction } from "../sensitivities";
import { averageOf, extremesOf, isFollowed, portsOf, type Rhythm, showsEnds, swingOf } from "../waveform-view";
import { AMPLITUDE_SPREAD } from "./edges";
import type { InstrumentNoise } from "./record";
import { addRecording, caughtOf, predictWander } from "./recording";

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
  const ofEnds = rings ? RING_WEIGHTS[statistic] : weights;
  const caught = caughtOf(circuit, probe.meter);
  // What is not caught of an end stays at the average.
  const level = (rings ? 1 : statistic === "swing" ? 0 : 1 - caught.share) - (probe.coupling === "ac" && statistic !== "swing" ? 1 : 0);
  const weightAt = (moment: number): number =>
    level * circuit.moments[moment].share + caught.share * (moment === high ? ofEnds[0] : moment === low ? ofEnds[1] : 0);
  out.mean = volts.reduce((sum, volt, moment) => sum + weightAt(moment) * volt, 0);
  const part = statistic === "swing" ? 1 : 0.7;
  const swing = volts[high] - volts[low];
  const own = circuit.shape === "square" ? 0 : part * AMPLITUDE_SPREAD[circuit.shape] * swing;
  out.noise = 2 * sigma(out.mean) ** 2 + 0.03 ** 2;
  addForm(circuit, own ** 2 + (caught.sigma * part * swing) ** 2, out);
  for (const moment of volts.keys()) addVolts(circuit, moment, leads, columns, weightAt(moment), load, out);
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
  if (circuit.swing !== null && circuit.hertz > 0 && statistic !== "mean") {
    // Whatever swings wanders besides, as a still line does.
    if (statistic === "swing") predictWander(circuit, probe, leads, columns, load, out);
    const [wandered, wander] = statistic === "swing" ? [out.mean, out.noise] : [0, 0];
    predictEnds(circuit, probe, statistic, circuit.swing, leads, columns, load, sigma, out);
    addRecording(circuit, probe, leads, out);
    out.mean += wandered;
    out.noise += wander;
    return;
  }
  if (statistic === "swing") {
    predictWander(circuit, probe, leads, columns, load, out);
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
  addRecording(circuit, probe, leads, out);
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
