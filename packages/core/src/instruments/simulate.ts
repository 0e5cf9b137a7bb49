import type { Measurement, Value } from "@fox-lamp/language";
import { applySetup, editsOf, type Model, type SetupNetwork, statedWorld } from "../circuit";
import { combineEffects, effectIn, type PlacedFault } from "../faults";
import { type Solution, solveNetwork, voltsBetween, withEdits } from "../network";
import { lampShare, lampWord, type Port, portOf, shownContinuity, shownOhms, shownVolts } from "./meters";
import { type Probe, probeOf } from "./probe";

/** A measurement's network with faults in place. */
export interface SimulatedSetup {
  readonly prepared: SetupNetwork;
  readonly solution: Solution;
  readonly scanVolts: number | null;
}

/** Puts faults into a setup and solves it. */
export function solveSetup(model: Model, probe: Probe, faults: readonly PlacedFault[], worlds?: ReadonlyMap<string, number>): SimulatedSetup {
  const { circuit, setup } = probe;
  const prepared = applySetup(model, setup, circuit.id, "setup", worlds);
  const effects = faults.map(({ fault, severity, variant }) => {
    const owner = model.circuits.find((candidate) => candidate.id === fault.circuit);
    const stated = owner?.id === circuit.id ? statedWorld(circuit.built.world, setup.truth) : null;
    const world = owner === undefined ? 0 : (worlds?.get(owner.id) ?? stated ?? owner.built.world.nominal);
    return { owner: fault.circuit, effect: effectIn(fault, setup, severity, world, variant) };
  });
  const edits = effects.flatMap(({ owner, effect }) => editsOf(prepared.net, prepared.values, owner, effect.assignments));
  const seen = combineEffects(effects.filter(({ owner }) => owner === circuit.id).map(({ effect }) => effect));
  return { prepared, solution: solveNetwork(prepared.net, withEdits(prepared.values, edits)), scanVolts: seen.scanVolts };
}

/** The port between a probe's leads. */
export function portOfProbe(solution: Solution, red: string, black: string): Port {
  const { nodeIndex } = solution.net;
  return portOf(solution, nodeIndex.get(red) ?? -1, nodeIndex.get(black) ?? -1);
}

/** Module volts as the value a scan device shows, held inside the module's range. */
export function scanValue(probe: Extract<Probe, { kind: "electrical" }>, volts: number): number {
  if (probe.unit === null) return volts;
  const { toWorld, world, toVolts } = probe.circuit.built;
  const value = toWorld(volts);
  if (value !== null && Number.isFinite(value)) return Math.min(world.high, Math.max(world.low, value));
  const rising = toVolts(world.high) > toVolts(world.low);
  return volts > 0 === rising ? world.high : world.low;
}

/**
 * What an instrument shows on the faulty circuit at nominal parameters.
 *
 * @returns the shown value; null for a meter that says nothing here, or a look
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
  const { solution, scanVolts } = solveSetup(model, probe, faults, worlds);
  if (probe.meter === "scan") {
    const { nodeIndex } = solution.net;
    const seen = scanVolts ?? voltsBetween(solution.volts, nodeIndex.get(probe.red) ?? -1, nodeIndex.get(probe.black) ?? -1);
    return scanValue(probe, seen);
  }
  const port = portOfProbe(solution, probe.red, probe.black);
  switch (probe.meter) {
    case "volts-dc":
      return shownVolts(port);
    case "ohms":
      return shownOhms(port);
    case "continuity":
      return shownContinuity(port);
    case "lamp":
      return lampWord(lampShare(port));
  }
}
