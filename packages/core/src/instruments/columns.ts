import { elementName, isLowSide, type Model, moves, ownerOf } from "../circuit";
import type { CompiledNetwork, EditField } from "../network";

/** One element number a tolerance moves: its standard deviation in ln ohms, volts or gain. */
export interface ColumnTarget {
  readonly element: number;
  readonly field: EditField;
  readonly sigma: number;
}

/**
 * The shared Gaussian variables of a model, all scaled to a standard deviation of one. The first columns are tolerances
 * of car and circuits; then the sensed quantity of each circuit, the severity, and the gains of the meter on volts and ohms.
 */
export interface Columns {
  readonly tolerances: readonly (readonly ColumnTarget[])[];
  /** The targets that a reading on a circuit depends on: its own, those of wires it shares, and the car's. */
  readonly tolerancesFor: ReadonlyMap<string, readonly (readonly ColumnTarget[])[]>;
  /** The column of wires and contacts: they share part of their spread, the rest is each one's own. */
  readonly connections: number;
  /** Column of each circuit's sensed quantity. */
  readonly worldOf: ReadonlyMap<string, number>;
  /** Columns of each moving circuit's signal: its form (amplitude or duty) and its rate. */
  readonly traceOf: ReadonlyMap<string, { readonly form: number; readonly rate: number }>;
  /** Column of how hard the block is struck, shared by all piezos; -1 where there are none. */
  readonly blow: number;
  /** Columns that stand for what sheets do not say. */
  readonly unsaid: readonly number[];
  readonly severity: number;
  /** Column of the second severity, where hypotheses are pairs of faults; null elsewhere. */
  readonly other: number | null;
  readonly voltsGain: number;
  readonly ohmsGain: number;
  readonly count: number;
}

/** The same variables and one more: the severity of a second fault. */
export function withOther(columns: Columns): Columns {
  return columns.other === null ? { ...columns, other: columns.count, count: columns.count + 1 } : columns;
}

/** Spreads of a sound battery at rest and of a sound alternator, volts. */
const BATTERY_SIGMA_VOLTS = 0.28;
const ALTERNATOR_SIGMA_VOLTS = 0.32;
/** Spread of healthy contacts and wires, in ln ohms. Wider than parts differ (0.7): resistances are log-normal, a prediction is linear. */
const CONTACT_SIGMA = 1;
/** Straps and what runs over them, in ln ohms: 4 to 60 mV on the body, 80 to 300 mV on the block while cranking are ordinary. */
const CHASSIS_SIGMA = 0.75;
const ENGINE_SIGMA = 0.45;
const LOAD_SIGMA = 0.4;
/** The module's ground point above the body, volts, and how far it follows the block. */
const MODULE_LIFT_SIGMA_VOLTS = 0.018;
const MODULE_FOLLOWS_SIGMA = 0.4;
/** Starters draw 110 to 280 A; a sound battery's resistance differs by a factor of two with size, age and cold. */
const STARTER_SIGMA = 0.28;
const BATTERY_OHMS_SIGMA = 0.35;
/** Supply lines drop 0.05 to 0.4 V, in ln ohms. */
const IGNITION_SIGMA = 0.5;
export const METER_VOLTS_GAIN_SIGMA = 0.002;
export const METER_OHMS_GAIN_SIGMA = 0.005;

/**
 * Lays out the shared variables of a model: battery, contacts and grounds together, then each circuit's own tolerances.
 */
export function columnsOf(model: Model): Columns {
  const net: CompiledNetwork = model.network;
  const at = (name: string): number => {
    const element = net.elementIndex.get(name);
    if (element === undefined) throw new Error(`no element is called ${name}`);
    return element;
  };
  const connections = model.circuits.flatMap(({ paths }) => paths.flatMap((path) => path.steps.map((step) => at(step.element))));
  const lowSides = net.elements.flatMap(({ id }, index) => (isLowSide(id) ? [index] : []));
  const ohms = (element: number, sigma: number): ColumnTarget => ({ element, field: "ohms", sigma });
  const tolerances: ColumnTarget[][] = [
    [{ element: at("car/battery"), field: "volts", sigma: BATTERY_SIGMA_VOLTS }],
    [...connections, ...lowSides].map((element) => ohms(element, CONTACT_SIGMA * Math.SQRT1_2)),
    [ohms(at("car/ground:chassis"), CHASSIS_SIGMA), ohms(at("car/module-load"), LOAD_SIGMA)],
    [ohms(at("car/ground:engine"), ENGINE_SIGMA)],
    [{ element: at("car/module-ground"), field: "volts", sigma: MODULE_LIFT_SIGMA_VOLTS }],
    [{ element: at("car/module-ground"), field: "gain", sigma: MODULE_FOLLOWS_SIGMA }],
    [ohms(at("car/starter"), STARTER_SIGMA)],
    [ohms(at("car/battery"), BATTERY_OHMS_SIGMA)],
    [{ element: at("car/alternator"), field: "volts", sigma: ALTERNATOR_SIGMA_VOLTS }],
    [ohms(at("car/ignition"), IGNITION_SIGMA)],
    ...model.circuits.flatMap((circuit) =>
      circuit.built.tolerances.map((tolerance) =>
        tolerance.targets.map((target): ColumnTarget => ({ element: at(elementName(circuit.id, target.element)), field: target.field, sigma: target.sigma })),
      ),
    ),
  ];
  const own = tolerances.length - model.circuits.reduce((sum, { built }) => sum + built.tolerances.length, 0);
  const unsaid = model.circuits.flatMap(({ built }) => built.tolerances).flatMap((tolerance, index) => (tolerance.unsaid === true ? [own + index] : []));
  const tolerancesFor = new Map(
    model.circuits.map(({ id, shares }) => {
      const members = model.circuits.filter((other) => other.shares.some(({ bus }) => bus === id)).map((other) => other.id);
      const near = new Set([id, ...shares.map(({ bus }) => bus), ...members, "car"]);
      const felt = tolerances.map((targets) => targets.filter(({ element }) => near.has(ownerOf(net.elements[element]?.id ?? ""))));
      return [id, felt] as const;
    }),
  );
  const worldOf = new Map(model.circuits.map(({ id }, index) => [id, tolerances.length + index]));
  const moving = model.circuits.filter(({ built }) => moves(built) || built.stretch !== undefined);
  const traces = tolerances.length + model.circuits.length;
  const traceOf = new Map(moving.map(({ id }, index) => [id, { form: traces + 2 * index, rate: traces + 2 * index + 1 }] as const));
  const struck = model.circuits.some(({ family }) => family.traits.kind === "knock");
  const blow = struck ? traces + 2 * moving.length : -1;
  const first = traces + 2 * moving.length + (struck ? 1 : 0);
  return {
    tolerances,
    tolerancesFor,
    connections: 1,
    worldOf,
    traceOf,
    blow,
    unsaid,
    severity: first,
    other: null,
    voltsGain: first + 1,
    ohmsGain: first + 2,
    count: first + 3,
  };
}
