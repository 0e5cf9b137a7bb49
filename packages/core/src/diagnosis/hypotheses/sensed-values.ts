import type { Reading } from "@fox-lamp/language";
import { type CircuitModel, fixedWorld, situationOf, type WorldValue } from "../../circuit";
import { isElectrical } from "../../instruments";
import type { Conditions } from "../../procedures";
import { type SensedValues, wideOf } from "./grid";

/** What a circuit's sensed quantity may be under what is known. */
export function sensedValuesOf(circuit: CircuitModel, conditions: Conditions | undefined, open: boolean): SensedValues {
  const { world } = circuit.built;
  const { quantity } = world;
  const known = quantity === "temperature" || quantity === "pressure" || quantity === "position" ? conditions?.[quantity] : undefined;
  const wide = open || (known === undefined && quantity !== "position" && quantity !== "flow");
  const single: WorldValue[] = [{ value: known ?? world.nominal, weight: 1, spread: world.accuracy }];
  const outsideFactor =
    known === undefined
      ? Math.min(1, world.abnormal.length)
      : abnormality([...world.normal, ...(world.atRest === undefined ? [] : [world.atRest])], world.abnormal, known);
  return {
    circuit: circuit.id,
    normal: wide ? world.normal : single,
    abnormal: world.abnormal.length === 0 ? [] : wide ? world.abnormal : single,
    outsideFactor,
  };
}

/**
 * Among several circuits a pressure is one wide value for every hypothesis. Points of other circuits cannot have a grid of its values, and
 * a grid for its own cells alone would favour its own faults by the shape of what is usual (tenfold, where the gauge confirms the
 * weather). A transfer line is straight, so the Gaussian loses nothing but that shape.
 */
export function alikeForAll(values: SensedValues, circuit: CircuitModel, circuits: number): SensedValues {
  if (circuits < 2 || circuit.built.world.quantity !== "pressure" || values.normal.length < 2) return values;
  return { ...values, normal: [{ ...wideOf(values), weight: 1 }] };
}

/** How much likelier a stated value is when something outside the circuit is wrong, against normal. */
function abnormality(normal: readonly WorldValue[], abnormal: readonly WorldValue[], value: number): number {
  const density = (list: readonly WorldValue[]): number => {
    const total = list.reduce((sum, entry) => sum + entry.weight, 0);
    return list.reduce((sum, entry) => sum + ((entry.weight / total) * Math.exp(-0.5 * ((value - entry.value) / entry.spread) ** 2)) / entry.spread, 0);
  };
  if (abnormal.length === 0) return 0;
  const ratio = density(abnormal) / Math.max(1e-12, density(normal));
  return ratio < 1e-3 ? 0 : Math.min(1e3, ratio);
}

/** Whether a reading leaves the sensed quantity of its circuit open although it depends on it. */
export function leavesWorldOpen(circuit: CircuitModel, reading: Reading): boolean {
  if (!isElectrical(reading.meter)) return false;
  const setup = reading.setup ?? {};
  if (fixedWorld(circuit.built.world, setup) !== null) return false;
  const moving = circuit.built.drive(situationOf(circuit.built.world, setup, circuit.built.world.nominal)).swing !== null;
  if (!moving && (reading.meter === "hertz" || reading.meter === "duty" || reading.meter === "volts-ac")) return false;
  const leads = [reading.red, reading.black ?? ""];
  if (leads.some((lead) => lead.endsWith("@part"))) return true;
  if (reading.meter !== "scan" && !leads.some((lead) => lead.includes("@"))) return false;
  const open = reading.setup?.open ?? [];
  return !open.some((place) => place === "sensor" || place === `${circuit.id}:sensor`);
}
