import { invertInPlace, SparseFactor } from "../numeric";
import { type CompiledNetwork, copyValues, type Values } from "./compile";
import type { Edit, Lamp } from "./elements";
import { denseInverse, factoredInverse, type Inverse } from "./inverse";
import { lampAmps, lampVolts } from "./lamp";
import { enterAll, regimeFor, stampAll } from "./stamp";

const MOST_ROUNDS = 40;

/** Rank-one corrections of an inverse: inverse' = inverse - sum over k of factors[k] columns[k] rows[k]^T. */
export interface Corrections {
  count: number;
  readonly columns: Float64Array[];
  readonly rows: Float64Array[];
  readonly factors: number[];
}

/**
 * A solved network. `volts[node]` are the node voltages, `inverse` with its corrections the inverse of
 * the conductance matrix on the linear piece the network settled on, so ports and sensitivities are read off it. A handful
 * of corrections costs far less than writing them into the whole matrix.
 */
export interface Solution {
  readonly net: CompiledNetwork;
  readonly values: Values;
  readonly regimes: Uint8Array;
  readonly volts: Float64Array;
  readonly inverse: Inverse;
  readonly corrections: Corrections;
}

/** A network that has no unique solution, with the node that is undetermined. */
export class UndeterminedNode extends Error {
  readonly node: string;
  constructor(node: string) {
    super(`the voltage of ${node} is not determined`);
    this.name = "UndeterminedNode";
    this.node = node;
  }
}

/** Voltage between two node rows (-1 is the datum). */
export function voltsBetween(volts: Float64Array, a: number, b: number): number {
  return (a < 0 ? 0 : volts[a]) - (b < 0 ? 0 : volts[b]);
}

/** Difference of two arrays, written to `out`; undefined stands for zeros. */
function subtract(first: Float64Array | undefined, second: Float64Array | undefined, out: Float64Array): void {
  if (first === undefined) out.fill(0);
  else out.set(first);
  if (second === undefined) return;
  for (let k = 0; k < out.length; k += 1) out[k] = out[k] - second[k];
}

/** Row a of the corrected inverse minus row b, written to `out` (length n); the datum is row -1. */
export function rowDifference(solution: Solution, a: number, b: number, out: Float64Array): void {
  const { inverse, corrections } = solution;
  subtract(a < 0 ? undefined : inverse.row(a), b < 0 ? undefined : inverse.row(b), out);
  for (let c = 0; c < corrections.count; c += 1) {
    const scale = corrections.factors[c] * voltsBetween(corrections.columns[c], a, b);
    if (scale === 0) continue;
    const row = corrections.rows[c];
    for (let k = 0; k < out.length; k += 1) out[k] = out[k] - scale * row[k];
  }
}

/** Column a of the corrected inverse minus column b, written to `out` (length n). */
export function columnDifference(solution: Solution, a: number, b: number, out: Float64Array): void {
  const { inverse, corrections } = solution;
  subtract(a < 0 ? undefined : inverse.column(a), b < 0 ? undefined : inverse.column(b), out);
  for (let c = 0; c < corrections.count; c += 1) {
    const scale = corrections.factors[c] * voltsBetween(corrections.rows[c], a, b);
    if (scale === 0) continue;
    const column = corrections.columns[c];
    for (let k = 0; k < out.length; k += 1) out[k] = out[k] - scale * column[k];
  }
}

/** Resistance seen between two node rows, ohms. */
export function portOhms(solution: Solution, a: number, b: number): number {
  const { inverse, corrections } = solution;
  let ohms = (a < 0 ? 0 : voltsBetween(inverse.column(a), a, b)) - (b < 0 ? 0 : voltsBetween(inverse.column(b), a, b));
  for (let c = 0; c < corrections.count; c += 1) {
    ohms -= corrections.factors[c] * voltsBetween(corrections.columns[c], a, b) * voltsBetween(corrections.rows[c], a, b);
  }
  return ohms;
}

function multiply(matrix: Float64Array, vector: Float64Array, n: number, out: Float64Array): void {
  for (let row = 0; row < n; row += 1) {
    let sum = 0;
    for (let k = 0; k < n; k += 1) sum += matrix[row * n + k] * vector[k];
    out[row] = sum;
  }
}

/**
 * Moves switching elements to the regime their voltages ask for; true when any moved. Fuses come last, when nothing else moves: none blows by what a
 * supply gives before it limits.
 */
function settleRegimes(net: CompiledNetwork, values: Values, regimes: Uint8Array, volts: Float64Array): boolean {
  const settle = (elements: readonly number[]): boolean => {
    let moved = false;
    for (const element of elements) {
      const regime = regimeFor(net, values, element, volts, regimes[element]);
      if (regime === regimes[element]) continue;
      regimes[element] = regime;
      moved = true;
    }
    return moved;
  };
  const { switching, fuses } = net;
  return settle(switching) || settle(fuses);
}

/** The resistance a lamp settles at, from the voltage across it and the port's resistance with it in place. */
export function settledLampOhms(lamp: Lamp, ohms: number, across: number, parallel: number): number {
  const series = 1 / Math.max(1e-12, 1 / parallel - 1 / ohms);
  const settled = Math.abs(lampVolts(lamp, across * (1 + series / ohms), series));
  return Math.max(lamp.coldOhms, settled / Math.max(Math.abs(lampAmps(lamp, settled)), 1e-12));
}

/** Gives every lamp the resistance of its working point on the Thevenin line; true when any changed. */
function settleLamps(solution: Solution): boolean {
  const { net, values, volts } = solution;
  let moved = false;
  for (const index of net.lamps) {
    const element = net.elements[index] as Lamp;
    const a = net.a[index];
    const b = net.b[index];
    const ohms = values.ohms[index];
    const wanted = settledLampOhms(element, ohms, voltsBetween(volts, a, b), portOhms(solution, a, b));
    if (Math.abs(wanted - ohms) <= 1e-9 * wanted) continue;
    values.ohms[index] = wanted;
    moved = true;
  }
  return moved;
}

/** Storage of one solution, which may be used over and over. */
export interface SolveRoom {
  readonly values: Values;
  readonly regimes: Uint8Array;
  readonly right: Float64Array;
  readonly volts: Float64Array;
  readonly factor: SparseFactor;
}

const NO_CORRECTIONS: Corrections = { count: 0, columns: [], rows: [], factors: [] };

/** Storage for solving a network. @param given values to start from; copied */
export function roomFor(net: CompiledNetwork, given: Values): SolveRoom {
  const n = net.nodes.length;
  return {
    values: copyValues(given),
    regimes: new Uint8Array(net.elements.length),
    right: new Float64Array(n),
    volts: new Float64Array(n),
    factor: new SparseFactor(net.structure().pattern),
  };
}

/**
 * Solves a network: linear solve, then switching elements and lamps are settled until nothing moves (bounded).
 *
 * @throws UndeterminedNode when a node has no determined voltage
 */
export function solveNetwork(net: CompiledNetwork, given: Values = net.values, start?: Uint8Array): Solution {
  const room = roomFor(net, given);
  if (start !== undefined) room.regimes.set(start);
  return solveIn(net, room);
}

/** Solves a network from the values and regimes in `room`, which the solution keeps until the room is used again. @throws UndeterminedNode */
export function solveIn(net: CompiledNetwork, room: SolveRoom): Solution {
  const { values, regimes, volts } = room;
  for (let round = 1; ; round += 1) {
    const inverse = solvePiece(net, room);
    const solution: Solution = { net, values, regimes, volts, inverse, corrections: NO_CORRECTIONS };
    const moved = settleRegimes(net, values, regimes, volts) || settleLamps(solution);
    if (!moved || round === MOST_ROUNDS) return solution;
  }
}

/** Solves the linear piece a network is on, into `volts`; pivots are searched for only where the sparse order cannot be trusted. */
function solvePiece(net: CompiledNetwork, { values, regimes, right, volts, factor }: SolveRoom): Inverse {
  const symmetric = enterAll(net, values, regimes, factor, right);
  if (factor.factor()) {
    factor.solve(right, volts);
    return factoredInverse(factor, symmetric);
  }
  const n = net.nodes.length;
  const matrix = new Float64Array(n * n);
  stampAll(net, values, regimes, matrix, right);
  const singular = invertInPlace(matrix, n);
  if (singular) throw new UndeterminedNode(net.nodes[singular.row] ?? "?");
  multiply(matrix, right, n, volts);
  return denseInverse(matrix, n);
}

/** Values with edits written in. */
export function withEdits(values: Values, edits: readonly Edit[]): Values {
  const copy = copyValues(values);
  for (const edit of edits) copy[edit.field][edit.element] = edit.value;
  return copy;
}

/** Voltage of a named node, or of a point between two. */
export function nodeVolts(solution: Solution, node: string): number {
  const row = solution.net.nodeIndex.get(node);
  if (row === undefined) throw new Error(`no node is called ${node}`);
  return row < 0 ? 0 : solution.volts[row];
}
