import { circuitOfUnit, type Setup, unitKindOf } from "@fox-lamp/language";
import { applySetup, editsOf, MODULE_GROUND, type Model, situationOf, worldIn } from "../../circuit";
import type { Fault } from "../../faults";
import { prepareEdits, solveNetwork } from "../../network";
import type { HypothesisGrid } from "./grid";

/** A shift of a shared wire smaller than this is nobody else's business, volts. */
const FELT_VOLTS = 5e-4;

/**
 * Faults that are felt in circuits other than their own: those that move a shared wire, plugged or unplugged, at the weak or the
 * strong end of their range; and all of battery, grounds and buses. A sensor's own signal wire stays its own affair.
 */
export function farReachingFaults(model: Model, grid: HypothesisGrid): ReadonlySet<Fault> {
  const faults = grid.faults.filter((fault) => fault !== null);
  if (model.circuits.length < 2) return new Set(faults);
  const buses = new Set(model.circuits.flatMap(({ shares }) => shares.map(({ bus }) => bus)));
  const felt = new Set<Fault>(faults.filter(({ circuit, unit }) => circuit === model.carId || buses.has(circuit) || unitKindOf(unit) === "connector"));
  for (const circuit of model.circuits) {
    if (buses.has(circuit.id)) continue;
    const nodes = circuit.shares.map(({ pin }) => circuit.paths.find((path) => path.pin === pin)?.inside ?? "").concat(MODULE_GROUND);
    const own = faults.filter((fault) => fault.circuit === circuit.id && !felt.has(fault));
    const setups: Setup[] = [{}, { open: [`${circuit.id}:sensor`] }];
    for (const setup of setups) {
      const prepared = applySetup(model, setup, circuit.id);
      const { net } = prepared;
      const rows = nodes.map((node) => net.nodeIndex.get(node) ?? -1).filter((row) => row >= 0);
      const situation = situationOf(circuit.built.world, setup, worldIn(model, circuit, setup, circuit.id));
      prepared.moments.forEach(({ values }, moment) => {
        const base = solveNetwork(net, values);
        const room = prepareEdits(base);
        for (const fault of own) {
          const ends = fault.severity === null ? [1] : [fault.severity.low, fault.severity.high];
          const moved = ends.some((severity) =>
            fault.variants.some((variant) => {
              const { volts } = room.apply(editsOf(net, values, fault.circuit, fault.effect(severity, situation, variant, moment)));
              return rows.some((row) => Math.abs(volts[row] - base.volts[row]) > FELT_VOLTS);
            }),
          );
          if (moved) felt.add(fault);
        }
      });
    }
  }
  return felt;
}

/** The same for the faults of another grid, pairs among them: two faults are felt where one of them is, and where they lie in two circuits. */
export function farReachingAmong(grid: HypothesisGrid, known: ReadonlySet<Fault>): ReadonlySet<Fault> {
  const ids = new Set([...known].map(({ id }) => id));
  const isFelt = (fault: Fault): boolean => {
    const members = fault.id.split("&");
    return members.some((id) => ids.has(id)) || new Set(members.map(circuitOfUnit)).size > 1;
  };
  return new Set(grid.faults.filter((fault): fault is Fault => fault !== null && isFelt(fault)));
}
