import { type CircuitModel, elementName, type Model } from "../circuit";
import type { CompiledNetwork, EditField } from "../network";

/** One element number a tolerance moves: its standard deviation in ln ohms, volts or gain. */
export interface ColumnTarget {
  readonly element: number;
  readonly field: EditField;
  readonly sigma: number;
}

/**
 * The shared Gaussian variables of a circuit, all scaled to a standard deviation of one. The first columns are tolerances
 * of car and circuit; the last four are the world, the severity, and the gains of the meter on volts and on ohms.
 */
export interface Columns {
  readonly tolerances: readonly (readonly ColumnTarget[])[];
  readonly world: number;
  readonly severity: number;
  readonly voltsGain: number;
  readonly ohmsGain: number;
  readonly count: number;
}

/** Spread of a battery's voltage around the usual one, volts. */
const BATTERY_SIGMA_VOLTS = 0.35;
/** Spread of healthy contacts and wires, in ln ohms. */
const CONTACT_SIGMA = 0.7;
const GROUND_SIGMA = 0.6;
const LOAD_SIGMA = 0.4;
export const METER_VOLTS_GAIN_SIGMA = 0.002;
export const METER_OHMS_GAIN_SIGMA = 0.005;

/** Lays out the shared variables of one circuit and the car. */
export function columnsOf(model: Model, circuit: CircuitModel): Columns {
  const net: CompiledNetwork = model.network;
  const at = (name: string): number => {
    const element = net.elementIndex.get(name);
    if (element === undefined) throw new Error(`no element is called ${name}`);
    return element;
  };
  const own = (local: string): number => at(elementName(circuit.id, local));
  const connections = circuit.paths.flatMap((path) => path.steps.map((step) => at(step.element)));
  const ohms = (element: number, sigma: number): ColumnTarget => ({ element, field: "ohms", sigma });
  const tolerances: ColumnTarget[][] = [
    [{ element: at("car/battery"), field: "volts", sigma: BATTERY_SIGMA_VOLTS }],
    [...connections, own("low-side")].map((element) => ohms(element, CONTACT_SIGMA)),
    [
      ohms(at("car/ground:engine"), GROUND_SIGMA),
      ohms(at("car/ground:chassis"), GROUND_SIGMA),
      ohms(at("car/module-ground"), GROUND_SIGMA),
      ohms(at("car/module-load"), LOAD_SIGMA),
    ],
    ...circuit.built.tolerances.map((tolerance) =>
      tolerance.targets.map((target): ColumnTarget => ({ element: own(target.element), field: target.field, sigma: target.sigma })),
    ),
  ];
  const first = tolerances.length;
  return { tolerances, world: first, severity: first + 1, voltsGain: first + 2, ohmsGain: first + 3, count: first + 4 };
}
