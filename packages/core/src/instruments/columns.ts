import { elementName, isLowSide, type Model, moves, ownerOf, type WorldSource, worldSourcesOf } from "../circuit";
import type { CompiledNetwork, EditField } from "../network";
import { CAR_SPREADS, type CarSpread, CONTACT_SIGMA } from "./car-spreads";

/** One element number a tolerance moves: its standard deviation in ln ohms, volts or gain. */
export interface ColumnTarget {
  readonly element: number;
  readonly field: EditField;
  readonly sigma: number;
  /** Whether it moves volts in proportion to what they are at the moment; `sigma` is then a share of them. */
  readonly ofVolts: boolean;
}

/** Targets one after the other, for whoever goes through them millions of times: of column `column[i]` the number `field[i]` of element `element[i]`. */
export interface FlatTargets {
  readonly column: Int32Array;
  readonly element: Int32Array;
  readonly field: readonly EditField[];
  readonly sigma: Float64Array;
  /** 1 where it moves volts in proportion to what they are. */
  readonly ofVolts: Uint8Array;
}

function flatOf(tolerances: readonly (readonly ColumnTarget[])[]): FlatTargets {
  const all = tolerances.flat();
  return {
    column: Int32Array.from(tolerances.flatMap((targets, column) => targets.map(() => column))),
    element: Int32Array.from(all, ({ element }) => element),
    field: all.map(({ field }) => field),
    sigma: Float64Array.from(all, ({ sigma }) => sigma),
    ofVolts: Uint8Array.from(all, ({ ofVolts }) => (ofVolts ? 1 : 0)),
  };
}

/** A column that stands for parameters a circuit's sheet leaves out: any of them, once stated, takes it away. */
export interface UnsaidColumn {
  readonly column: number;
  readonly circuit: string;
  readonly parameters: readonly string[];
}

/** Columns of one circuit's sensed quantity by where its value comes from; `engine` is shared by the states of the engine. */
export interface SourceColumns {
  readonly engine: number;
  readonly bySource: ReadonlyMap<WorldSource, number>;
}

/**
 * The shared Gaussian variables of a model, all scaled to a standard deviation of one. The first columns are tolerances
 * of car and circuits; then the sensed quantity of each circuit, the severity, and the gains of the meter on volts and ohms.
 */
export interface Columns {
  readonly tolerances: FlatTargets;
  /** The targets that a reading on a circuit depends on: its own, those of wires it shares, and the car's. */
  readonly tolerancesFor: ReadonlyMap<string, FlatTargets>;
  /** The column of wires and contacts: they share part of their spread, the rest is each one's own. */
  readonly connections: number;
  /** Column of each circuit's sensed quantity, where it is known or wide open. */
  readonly worldOf: ReadonlyMap<string, number>;
  /** Columns of what else its errors come from: each state of the engine and each stop by itself, and the engine in all of its states. */
  readonly sourcesOf: ReadonlyMap<string, SourceColumns>;
  /**
   * Columns of each moving circuit's signal: its form (amplitude or duty) and its rate, and how large its module wants it before it counts;
   * that is -1 where the signal is switched, and counted or not without a doubt.
   */
  readonly traceOf: ReadonlyMap<string, { readonly form: number; readonly rate: number; readonly hears: number }>;
  /** Column of how hard the block is struck, shared by all piezos; -1 where there are none. */
  readonly blow: number;
  /** Columns that stand for what sheets do not say. */
  readonly unsaid: readonly UnsaidColumn[];
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

/** Column of one of {@link CAR_SPREADS}, by its place there: that of wires and contacts stands behind the first. */
export function carColumn(index: number): number {
  return index === 0 ? 0 : index + 1;
}

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
  const ohms = (element: number, sigma: number): ColumnTarget => ({ element, field: "ohms", sigma, ofVolts: false });
  const ofCar = ({ element, field, sigma }: CarSpread): ColumnTarget[] => [{ element: at(element), field, sigma, ofVolts: false }];
  const tolerances: ColumnTarget[][] = [
    ...CAR_SPREADS.slice(0, 1).map(ofCar),
    [...connections, ...lowSides].map((element) => ohms(element, CONTACT_SIGMA * Math.SQRT1_2)),
    ...CAR_SPREADS.slice(1).map(ofCar),
    ...model.circuits.flatMap((circuit) =>
      circuit.built.tolerances.map((tolerance) =>
        tolerance.targets.map(
          ({ element, field, kind, sigma }): ColumnTarget => ({
            element: at(elementName(circuit.id, element)),
            field,
            sigma,
            ofVolts: field === "volts" && kind === "relative",
          }),
        ),
      ),
    ),
  ];
  const own = tolerances.length - model.circuits.reduce((sum, { built }) => sum + built.tolerances.length, 0);
  const unsaid = model.circuits
    .flatMap(({ id, built }) => built.tolerances.map((tolerance) => ({ circuit: id, tolerance })))
    .flatMap(({ circuit, tolerance }, index) => (tolerance.unsaid === undefined ? [] : [{ column: own + index, circuit, parameters: tolerance.unsaid }]));
  const tolerancesFor = new Map(
    model.circuits.map(({ id, shares }) => {
      const members = model.circuits.filter((other) => other.shares.some(({ bus }) => bus === id)).map((other) => other.id);
      const near = new Set([id, ...shares.map(({ bus }) => bus), ...members, "car"]);
      const felt = tolerances.map((targets) => targets.filter(({ element }) => near.has(ownerOf(net.elements[element]?.id ?? ""))));
      return [id, flatOf(felt)] as const;
    }),
  );
  const worldOf = new Map(model.circuits.map(({ id }, index) => [id, tolerances.length + index]));
  const moving = model.circuits.filter(({ built }) => moves(built) || built.stretch !== undefined);
  const traces = tolerances.length + model.circuits.length;
  const heard = moving.filter(({ family }) => family.traits.alternating === true).map(({ id }) => id);
  const traceOf = new Map(
    moving.map(({ id }, index) => {
      const hears = heard.indexOf(id);
      return [id, { form: traces + 2 * index, rate: traces + 2 * index + 1, hears: hears < 0 ? -1 : traces + 2 * moving.length + hears }] as const;
    }),
  );
  const struck = model.circuits.some(({ family }) => family.traits.kind === "knock");
  const afterTraces = traces + 2 * moving.length + heard.length;
  const blow = struck ? afterTraces : -1;
  // Where a line of unknown ends lies along what is sensed: any stated line takes it away.
  const shifted = moving.flatMap(({ id, built }) =>
    built.shift === undefined ? [] : [{ column: traceOf.get(id)?.rate ?? -1, circuit: id, parameters: ["transfer"] }],
  );
  let first = afterTraces + (struck ? 1 : 0);
  const sourcesOf = new Map<string, SourceColumns>();
  for (const { id, built } of model.circuits) {
    const sources = worldSourcesOf(built.world);
    if (sources.length === 0) continue;
    sourcesOf.set(id, { engine: first, bySource: new Map(sources.map((source, index) => [source, first + 1 + index])) });
    first += 1 + sources.length;
  }
  return {
    tolerances: flatOf(tolerances),
    tolerancesFor,
    connections: 1,
    worldOf,
    sourcesOf,
    traceOf,
    blow,
    unsaid: [...unsaid, ...shifted],
    severity: first,
    other: null,
    voltsGain: first + 1,
    ohmsGain: first + 2,
    count: first + 3,
  };
}
