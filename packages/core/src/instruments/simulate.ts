import type { Measurement, Value } from "@fox-lamp/language";
import {
  type Assignment,
  applySetup,
  editsOf,
  JUMPER_FUSE_AMPS,
  type Model,
  movedThrough,
  movesSensed,
  type SetupNetwork,
  situationOf,
  worldIn,
} from "../circuit";
import { effectIn, type PlacedFault, showsIn } from "../faults";
import { OFF, solveNetwork, withEdits } from "../network";
import { coilOf, type ElectricalProbe, type Probe, probeOf } from "./probe";
import { electricalRecord } from "./records";
import { isAmplitude } from "./records/capture";
import type { InstrumentNoise, Seen } from "./records/record";
import { conductorAmps } from "./waveform-view";

/** A measurement's network with faults in place, solved in every moment. */
export interface SimulatedSetup extends Seen {
  readonly prepared: SetupNetwork;
  /** Added jumpers whose fuse has blown, by their place in the setup. */
  readonly blown: readonly number[];
}

/** Fuses that have blown in any of these moments, by their place in the network. */
export function blownFuses(moments: SimulatedSetup["moments"]): number[] {
  const fuses = moments[0]?.solution.net.fuses ?? [];
  return fuses.filter((fuse) => moments.some(({ solution }) => solution.regimes[fuse] === OFF));
}

/** The moments of a cycle with a fuse that one of them blows blown in all of them. */
function keptBlown(moments: SimulatedSetup["moments"]): SimulatedSetup["moments"] {
  const blown = blownFuses(moments);
  return moments.map((moment) => {
    const { net, values, regimes } = moment.solution;
    if (blown.every((fuse) => regimes[fuse] === OFF)) return moment;
    const start = Uint8Array.from(regimes);
    for (const fuse of blown) start[fuse] = OFF;
    return { ...moment, solution: solveNetwork(net, values, start) };
  });
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
  const moments = keptBlown(
    prepared.moments.map(({ share, values }, moment) => {
      const edits = faults.flatMap((placed) => editsOf(net, values, placed.fault.circuit, assignments(placed, moment)));
      return { share, solution: solveNetwork(net, withEdits(values, edits)) };
    }),
  );
  const mine = faults.filter(({ fault }) => fault.circuit === circuit.id && showsIn(fault, setup));
  const hertz = mine.reduce((rate, { fault, severity, variant }) => rate * (fault.hertzFactor?.(severity, variant.direction) ?? 1), drive.hertz);
  const scanVolts = mine.reduce<number | null>((kept, { fault, severity }) => (fault.scanVolts === null ? kept : fault.scanVolts(severity)), null);
  const blown = (setup.add ?? []).flatMap((added, index) => {
    const element = net.elementIndex.get(`added#${index}`) ?? -1;
    return added.kind === "jumper" && moments.some(({ solution }) => solution.regimes[element] === OFF) ? [index] : [];
  });
  return { prepared, moments, swing: drive.swing, shape: drive.shape, hertz, scanVolts, blown };
}

/** What an instrument shows on a solved setup. @param noise what the instrument adds; null for an ideal one */
export function shownValue(seen: Seen, probe: ElectricalProbe, noise: InstrumentNoise | null = null): Value {
  return electricalRecord(probe.meter).show(seen, probe, noise);
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
  return shownMoving(probe, worldIn(model, probe.circuit, probe.setup, probe.circuit.id, worlds), null, (value) =>
    value === null ? seen : solveSetup(model, probe, faults, new Map([...(worlds ?? []), [probe.circuit.id, value]])),
  );
}

/**
 * {@link shownSpan}; where the sensed quantity moves while it is recorded, from the lowest to the highest value it passes.
 * @param now where the quantity stands before
 * @param at the circuit with the quantity at a value; null for as it stands
 */
export function shownMoving(probe: ElectricalProbe, now: number, noise: InstrumentNoise | null, at: (value: number | null) => SimulatedSetup): Value {
  const { world } = probe.circuit.built;
  const values = probe.statistic === "mean" || !movesSensed(world, probe.setup) ? [null] : movedThrough(world, probe.setup, now);
  const shown = values.map((value) => shownSpan(at(value), probe, noise));
  const spans = shown.filter((value) => typeof value === "object");
  if (spans.length < shown.length) return shown.find((value) => typeof value !== "object") ?? 0;
  const [min, max] = [Math.min(...spans.map((span) => span.min)), Math.max(...spans.map((span) => span.max))];
  const mean = spans.reduce((sum, { avg, min: low, max: high }) => sum + (avg ?? 0.5 * (low + high)), 0) / spans.length;
  return { min, max, avg: mean };
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
  const [low, high] = [Math.min(min, max), Math.max(min, max)];
  // What swings about a level averages to it; a switched signal's average follows the share of the time.
  if (isAmplitude({ ...probe, statistic: "swing" })) return { min: low, max: high, avg: 0.5 * (min + max) };
  // Over the whole screen the noise of single points is averaged away too.
  const mean = shownValue(seen, { ...probe, statistic: "mean" }, null);
  return { min: low, max: high, avg: typeof mean === "number" ? Math.min(high, Math.max(low, mean)) : 0.5 * (min + max) };
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
