import { lazy } from "../numeric";
import { DATUM, type Element, isElectronics, isPowered, KIND, type Netlist, nodesOf } from "./elements";
import { type Structure, structureOf } from "./structure";

/** A netlist with nodes numbered and values laid out in typed arrays; the structure is shared, values are copied. */
export interface CompiledNetwork {
  readonly nodes: readonly string[];
  /** Node name to row; the datum is -1. */
  readonly nodeIndex: ReadonlyMap<string, number>;
  readonly elements: readonly Element[];
  readonly elementIndex: ReadonlyMap<string, number>;
  /** What each element is ({@link KIND}). */
  readonly kinds: Uint8Array;
  /** Injection and control nodes of each element. */
  readonly a: Int32Array;
  readonly b: Int32Array;
  readonly p: Int32Array;
  readonly q: Int32Array;
  readonly values: Values;
  /** Elements that are on one of several linear pieces, and may come back: regulators, parts that need a supply. */
  readonly switching: readonly number[];
  /** Elements that blow, and stay so. */
  readonly fuses: readonly number[];
  readonly lamps: readonly number[];
  /** Elements in which an ohmmeter meets semiconductors. */
  readonly electronics: readonly number[];
  /** The order its matrix is factored in, worked out once. */
  readonly structure: () => Structure;
}

/** The numbers of every element; index = element. */
export interface Values {
  readonly ohms: Float64Array;
  readonly volts: Float64Array;
  readonly gain: Float64Array;
  /** The supply below which a powered part is off; zero for everything else. */
  readonly least: Float64Array;
}

/** Copies values so that edits leave the original alone. */
export function copyValues(values: Values): Values {
  return { ohms: values.ohms.slice(), volts: values.volts.slice(), gain: values.gain.slice(), least: values.least.slice() };
}

/** Writes values over the first ones of another set at least as long. */
export function assignValues(into: Values, from: Values): void {
  into.ohms.set(from.ohms);
  into.volts.set(from.volts);
  into.gain.set(from.gain);
  into.least.set(from.least);
}

/**
 * Numbers the nodes of a netlist and lays its values out.
 * @throws Error when two elements share an id (a programming error of the builder)
 */
export function compileNetwork(netlist: Netlist): CompiledNetwork {
  const nodeIndex = new Map<string, number>([[DATUM, -1]]);
  const nodes: string[] = [];
  const elementIndex = new Map<string, number>();
  const count = netlist.length;
  const rows = Array.from({ length: 4 }, () => new Int32Array(count).fill(-1));
  const [a, b, p, q] = rows as [Int32Array, Int32Array, Int32Array, Int32Array];
  const values: Values = { ohms: new Float64Array(count), volts: new Float64Array(count), gain: new Float64Array(count), least: new Float64Array(count) };
  netlist.forEach((element, index) => {
    if (elementIndex.has(element.id)) throw new Error(`two elements are called ${element.id}`);
    elementIndex.set(element.id, index);
    nodesOf(element).forEach((node, position) => {
      let row = nodeIndex.get(node);
      if (row === undefined) {
        row = nodes.length;
        nodeIndex.set(node, row);
        nodes.push(node);
      }
      rows[position][index] = row;
    });
    values.ohms[index] = element.kind === "lamp" ? element.ratedVolts / element.ratedAmps : element.ohms;
    if (element.kind === "source" || element.kind === "regulator" || element.kind === "amplifier") values.volts[index] = element.volts;
    if (element.kind === "amplifier") values.gain[index] = element.gain;
    if (element.kind === "amplifier") values.least[index] = element.leastVolts ?? 0;
    if (element.kind === "resistor") values.least[index] = element.powered?.leastVolts ?? 0;
  });
  const switching: number[] = [];
  const fuses: number[] = [];
  const lamps: number[] = [];
  netlist.forEach((element, index) => {
    if (element.kind === "lamp") lamps.push(index);
    if (element.kind === "fuse") fuses.push(index);
    if (isSwitching(element)) switching.push(index);
  });
  const electronics = netlist.flatMap((element, index) => (isElectronics(element) ? [index] : []));
  const kinds = Uint8Array.from(netlist, ({ kind }) => KIND[kind]);
  const structure = lazy(() => structureOf({ nodes, elements: netlist, a, b, p, q }));
  return { nodes, nodeIndex, elements: netlist, elementIndex, kinds, a, b, p, q, values, switching, fuses, lamps, electronics, structure };
}

function isSwitching(element: Element): boolean {
  return element.kind === "regulator" || isPowered(element);
}
