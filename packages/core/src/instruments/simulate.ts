import type { Measurement, Value } from "@fox-lamp/language";
import { type Assignment, applySetup, editsOf, engineOf, JUMPER_FUSE_AMPS, type Model, type SetupNetwork, situationOf, worldIn } from "../circuit";
import { effectIn, type PlacedFault, showsIn } from "../faults";
import { OFF, solveNetwork, withEdits } from "../network";
import {
  acVoltsSigma,
  ampsSigma,
  DUTY_SIGMA_PERCENT,
  lampShare,
  lampWord,
  logOhmsSigma,
  SCAN_SIGMA_VOLTS,
  scopeSigma,
  shownAmps,
  shownContinuity,
  shownOhms,
  shownVolts,
  voltsSigma,
} from "./meters";
import { coilOf, type ElectricalProbe, type Probe, probeOf } from "./probe";
import { engineeringValue, scaleOf } from "./scale";
import { acFactor, averageOf, conductorAmps, portsOf, type Rhythm, shareOfFirst, showsEnds, swingOf, TRIGGER_VOLTS } from "./waveform-view";

/** A measurement's network with faults in place, solved in every moment. */
export interface SimulatedSetup extends Rhythm {
  readonly prepared: SetupNetwork;
  /** What the module reports whatever its pin does, volts; null when it reads the pin. */
  readonly scanVolts: number | null;
  /** Added jumpers whose fuse has blown, by their place in the setup. */
  readonly blown: readonly number[];
}

/** What an instrument adds by itself: its gain, and noise in standard deviations of its accuracy; drawn anew at each call. */
export interface InstrumentNoise {
  readonly gain: number;
  readonly normal: () => number;
  readonly uniform: () => number;
}

/** Puts faults into a setup and solves it. */
export function solveSetup(model: Model, probe: Probe, faults: readonly PlacedFault[], worlds?: ReadonlyMap<string, number>): SimulatedSetup {
  const { circuit, setup } = probe;
  const prepared = applySetup(model, setup, circuit.id, "setup", worlds);
  const { net, drive } = prepared;
  const situations = new Map(
    model.circuits.map((owner) => [owner.id, situationOf(owner.built.world, setup, worldIn(model, owner, setup, circuit.id, worlds))]),
  );
  const own = situations.get(circuit.id) ?? situationOf(circuit.built.world, setup, 0);
  const assignments = (placed: PlacedFault, moment: number): readonly Assignment[] =>
    effectIn(placed, situations.get(placed.fault.circuit) ?? own, placed.fault.circuit === circuit.id ? moment : 0);
  const moments = prepared.moments.map(({ share, values }, moment) => {
    const edits = faults.flatMap((placed) => editsOf(net, values, placed.fault.circuit, assignments(placed, moment)));
    return { share, solution: solveNetwork(net, withEdits(values, edits)) };
  });
  const mine = faults.filter(({ fault }) => fault.circuit === circuit.id && showsIn(fault, setup));
  const hertz = mine.reduce((rate, { fault, severity, variant }) => rate * (fault.hertzFactor?.(severity, variant.direction) ?? 1), drive.hertz);
  const scanVolts = mine.reduce<number | null>((kept, { fault, severity }) => (fault.scanVolts === null ? kept : fault.scanVolts(severity)), null);
  const blown = (setup.add ?? []).flatMap((added, index) => {
    const element = net.elementIndex.get(`added#${index}`) ?? -1;
    return added.kind === "jumper" && moments.some(({ solution }) => solution.regimes[element] === OFF) ? [index] : [];
  });
  return { prepared, moments, swing: drive.swing, shape: drive.shape, hertz, scanVolts, blown };
}

/** Peak-to-peak volts between a probe's leads, unloaded. */
function swingVolts(seen: Rhythm, probe: ElectricalProbe): number {
  const ports = portsOf(seen, probe.red, probe.black);
  return Math.abs(swingOf(seen, (moment) => ports[moment]?.openVolts ?? 0));
}

/** Whether the module sees edges on a pin. */
function seesEdges(seen: SimulatedSetup, probe: ElectricalProbe): boolean {
  return seen.scanVolts === null && seen.hertz > 0 && swingVolts(seen, probe) >= (probe.reads?.leastSwing ?? TRIGGER_VOLTS);
}

function shownScan(seen: SimulatedSetup, probe: ElectricalProbe, noise: InstrumentNoise | null): number {
  const { reads, unit } = probe;
  if (unit !== null && reads?.by === "counts") {
    if (!seesEdges(seen, probe)) return 0;
    return unit === "rpm" ? Math.round(engineOf(probe.setup).rpm * (1 + 0.03 * (noise?.normal() ?? 0))) : 1;
  }
  if (unit !== null && reads?.by === "hertz") {
    const hertz = seesEdges(seen, probe) ? seen.hertz * (1 + 0.01 * (noise?.normal() ?? 0)) : 0;
    return unit === "Hz" ? hertz : engineeringValue(probe, hertz);
  }
  const volts = plainVolts(seen, probe, (port) => port.openVolts, noise);
  const shown = (seen.scanVolts ?? volts) + 0.8 * SCAN_SIGMA_VOLTS * (noise?.normal() ?? 0);
  return scaleOf(probe).fromScale(shown);
}

/** The number of a recording, or the average; a signal slow enough to be followed is caught anywhere in its swing. */
function plainVolts(
  seen: SimulatedSetup,
  probe: ElectricalProbe,
  volts: (port: { openVolts: number; ohms: number }) => number,
  noise: InstrumentNoise | null,
): number {
  const ports = portsOf(seen, probe.red, probe.black).map(volts);
  const mean = averageOf(seen, (moment) => ports[moment] as number);
  const rides = probe.coupling === "ac" ? mean : 0;
  if (!showsEnds(seen, probe.meter) || seen.swing === null) return mean - rides;
  const ends = [(ports[seen.swing[0]] as number) - rides, (ports[seen.swing[1]] as number) - rides].sort((a, b) => a - b) as [number, number];
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

/** What an instrument shows on a solved setup. @param noise what the instrument adds; null for an ideal one */
export function shownValue(seen: SimulatedSetup, probe: ElectricalProbe, noise: InstrumentNoise | null = null): Value {
  const gauss = (): number => 0.8 * (noise?.normal() ?? 0);
  const gain = noise?.gain ?? 1;
  const ports = portsOf(seen, probe.red, probe.black);
  const first = ports[0] as (typeof ports)[number];
  switch (probe.meter) {
    case "scan":
      return shownScan(seen, probe, noise);
    case "volts-dc": {
      const volts = plainVolts(seen, probe, shownVolts, noise);
      return volts * gain + voltsSigma(volts) * gauss();
    }
    case "capture": {
      const volts = plainVolts(seen, probe, shownVolts, noise);
      return volts * gain + scopeSigma(volts, probe.coupling) * gauss();
    }
    case "volts-ac": {
      const volts = acFactor(seen, probe.ac) * Math.abs(swingOf(seen, (moment) => shownVolts(ports[moment] ?? first)));
      return Math.abs(volts * gain + acVoltsSigma(volts) * gauss());
    }
    case "amps-dc": {
      const { clamp } = probe;
      const amps = averageOf(seen, (moment) =>
        clamp === null ? shownAmps(ports[moment] ?? first) : conductorAmps((seen.moments[moment] as (typeof seen.moments)[number]).solution, clamp),
      );
      return amps * gain + ampsSigma(amps) * gauss();
    }
    case "hertz":
      return swingVolts(seen, probe) >= TRIGGER_VOLTS && seen.shape !== "ring" ? seen.hertz * (1 + 0.002 * gauss()) : 0;
    case "duty": {
      if (seen.hertz === 0 || seen.shape === "ring" || swingVolts(seen, probe) < TRIGGER_VOLTS) return "OL";
      const rising = swingOf(seen, (moment) => ports[moment]?.openVolts ?? 0) > 0;
      const share = shareOfFirst(seen);
      return 100 * (rising ? share : 1 - share) + DUTY_SIGMA_PERCENT * gauss();
    }
    case "ohms": {
      const ohms = shownOhms(first);
      return typeof ohms === "string" ? ohms : ohms * Math.exp(logOhmsSigma(ohms) * gauss());
    }
    case "continuity":
      return shownContinuity(first);
    case "lamp":
      return lampWord(averageOf(seen, (moment) => lampShare(ports[moment] ?? first)) * (1 + 0.03 * gauss()));
  }
}

/** Share of its usual current a coil must carry to click. */
export const CLICK_SHARE = 0.5;

/** Share of a healthy coil's current that flows, in the moment it is switched on; null for a family without a coil. */
export function coilShare(seen: SimulatedSetup, probe: Probe): number | null {
  const coil = coilOf(probe.circuit);
  if (coil === null) return null;
  const usual = probe.circuit.built.fullScaleVolts;
  const { net } = seen.prepared;
  const index = net.elementIndex.get(coil) ?? -1;
  const healthy = usual / (net.values.ohms[index] ?? 1);
  return Math.max(...seen.moments.map(({ solution }) => Math.abs(conductorAmps(solution, coil)))) / healthy;
}

/**
 * What an instrument shows on the faulty circuit at nominal parameters.
 *
 * @returns the shown value; null for a look, or a capture
 * @throws BadInput for points, circuits or connectors that do not exist
 */
export function simulateReading(
  model: Model,
  measurement: Measurement,
  faults: readonly PlacedFault[],
  where: string,
  worlds?: ReadonlyMap<string, number>,
): Value | null {
  const probe = probeOf(model, measurement, where);
  if (probe === null || probe.kind === "look") return null;
  if (probe.kind === "gauge") return worldIn(model, probe.circuit, probe.setup, probe.circuit.id, worlds);
  const seen = solveSetup(model, probe, faults, worlds);
  if (probe.kind === "listen") {
    const share = coilShare(seen, probe);
    return share === null ? null : share > CLICK_SHARE ? "click" : "no-click";
  }
  return shownSpan(seen, probe, null);
}

/** A value on the chosen range: above full scale OL shows. */
function onRange({ range }: ElectricalProbe, value: Value): Value {
  return range !== null && typeof value === "number" && Math.abs(value) > range ? "OL" : value;
}

/** {@link shownValue}, or minimum, maximum and average where a recording was asked for. */
export function shownSpan(seen: SimulatedSetup, probe: ElectricalProbe, noise: InstrumentNoise | null): Value {
  if (probe.statistic === "mean") return onRange(probe, shownValue(seen, probe, noise));
  const of = (statistic: ElectricalProbe["statistic"]): Value => shownValue(seen, { ...probe, statistic }, noise);
  const [min, max] = [of("min"), of("max")];
  if (typeof min !== "number" || typeof max !== "number") return min;
  return { min: Math.min(min, max), max: Math.max(min, max), avg: 0.5 * (min + max) };
}

/** One sentence for every added jumper whose fuse blows in a measurement. */
export function blownJumpers(model: Model, measurement: Measurement, faults: readonly PlacedFault[], where: string): string[] {
  const probe = probeOf(model, measurement, where);
  if (probe === null) return [];
  const { blown } = solveSetup(model, probe, faults);
  return blown.map((index) => {
    const added = measurement.setup?.add?.[index];
    return `the fuse of the jumper ${added?.from ?? ""} to ${added?.to ?? ""} blows (over ${JUMPER_FUSE_AMPS} A); the reading is without it`;
  });
}
