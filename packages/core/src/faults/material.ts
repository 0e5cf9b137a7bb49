import { applySetup, type CircuitModel, editsOf, MODULE_GROUND, type Model, pinNode, type SetupNetwork } from "../circuit";
import { nodeVolts, prepareEdits, type Solution, solveNetwork } from "../network";
import type { FaultEffect } from "./fault";

/** A fault matters once it moves the module's value by this share of full scale. */
const NOTICEABLE_SHARE = 0.05;
const GRID_PER_DECADE = 8;

/** What the module sees of a circuit: its signal pin against its own ground, volts. */
export function moduleVolts(solution: Solution, circuit: CircuitModel): number {
  const pin = circuit.family.pins.find((name) => name.startsWith("sig")) ?? circuit.family.pins[0] ?? "sig";
  return nodeVolts(solution, pinNode(circuit.id, pin, "inside")) - nodeVolts(solution, MODULE_GROUND);
}

/** World values at which an effect is judged. */
function judged(circuit: CircuitModel): readonly number[] {
  const { normal, nominal } = circuit.built.world;
  return [nominal, normal[0]?.value ?? nominal, normal[Math.floor(normal.length / 2)]?.value ?? nominal, normal.at(-1)?.value ?? nominal];
}

/**
 * The part of a resistance span where a fault matters, ohms; null where it never does.
 *
 * @param series true when more ohms mean more effect, false for a shunt
 */
export function materialOhms(
  model: Model,
  circuit: CircuitModel,
  span: { readonly low: number; readonly high: number },
  series: boolean,
  effect: (ohms: number, world: number) => FaultEffect,
): { low: number; high: number } | null {
  const threshold = NOTICEABLE_SHARE * circuit.built.fullScaleVolts;
  const cases = judged(circuit).map((world) => {
    const prepared: SetupNetwork = applySetup(model, {}, circuit.id, "setup", new Map([[circuit.id, world]]));
    const base = solveNetwork(prepared.net, prepared.values);
    return { world, prepared, healthy: moduleVolts(base, circuit), room: prepareEdits(base) };
  });
  const matters = (ohms: number): boolean =>
    cases.some(({ world, prepared, healthy, room }) => {
      const edits = editsOf(prepared.net, prepared.values, circuit.id, effect(ohms, world).assignments);
      return Math.abs(moduleVolts(room.apply(edits), circuit) - healthy) > threshold;
    });
  const steps = Math.round(Math.log10(span.high / span.low) * GRID_PER_DECADE);
  const grid = Array.from({ length: steps + 1 }, (_, index) => Number((span.low * (span.high / span.low) ** (index / steps)).toPrecision(3)));
  const material = grid.filter(matters);
  const [low, high] = [material[0], material.at(-1)];
  if (low === undefined || high === undefined) return null;
  return series ? { low, high: Math.min(high, Math.max(5e4, 20 * low)) } : { low, high: Math.max(high, 4 * low) };
}
