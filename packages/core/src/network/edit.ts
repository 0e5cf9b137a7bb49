import { assignValues, copyValues } from "./compile";
import type { Edit, Lamp } from "./elements";
import { escaping, islandBehind } from "./island";
import { columnDifference, portOhms, roomFor, rowDifference, type Solution, type SolveRoom, settledLampOhms, solveIn, voltsBetween } from "./solve";
import { type Piece, pieceOf, regimeFor } from "./stamp";

/**
 * Room for one edited solution, reused over thousands of edits: {@link EditSolver.apply} overwrites `solution`.
 */
export interface EditSolver {
  /** The solution the edits start from. */
  readonly base: Solution;
  readonly solution: Solution;
  /** Applies edits to the base; the result stays valid until the next call. */
  apply(edits: readonly Edit[]): Solution;
}

/** A rank-one update whose denominator is mostly rounding error (this many times its size) is not used: the network is solved anew. */
const SAFE_FACTOR = 1e3 * 2.3e-16;
/**
 * An update multiplies the relative error of what it leaves by the ratio of the port's resistance before and after. Alone that harms
 * nothing: what it makes small is small. A second one builds on it; beyond this product (a micro of relative error) the network is
 * solved anew.
 */
const MOST_LOSS = 4e9;
/** What cutting an island off counts for: a second cut, or any large change of what is left of its tie, is solved anew. */
const CUT_LOSS = 1e7;
/** One lamp settles in two rounds; several need a few. */
const LAMP_ROUNDS = 12;
const REGIME_ROUNDS = 16;

/**
 * Prepares low-rank edits of a solved network. Each edit is a rank-one update of the inverse
 * (Sherman-Morrison) kept as a correction, O(n) instead of O(n^3); when a switching element leaves its regime or the update is
 * ill-conditioned, the network is solved from its values.
 */
export function prepareEdits(base: Solution): EditSolver {
  const { net } = base;
  const n = net.nodes.length;
  const room: Solution = {
    net,
    values: copyValues(base.values),
    regimes: base.regimes.slice(),
    volts: new Float64Array(n),
    inverse: base.inverse,
    corrections: { count: 0, columns: [], rows: [], factors: [] },
  };
  let opening = -1;
  let loss = 1;
  const injected = new Float64Array(n);
  const before: Piece = { siemens: 0, amps: 0, gain: 0 };
  const after: Piece = { siemens: 0, amps: 0, gain: 0 };

  /** Adds `delta * r c^T` to the matrix, r = a - b, c = p - q; false when ill-conditioned. */
  const rankOne = (delta: number, a: number, b: number, p: number, q: number): boolean => {
    const { corrections, volts } = room;
    const at = corrections.count;
    corrections.columns[at] ??= new Float64Array(n);
    corrections.rows[at] ??= new Float64Array(n);
    const column = corrections.columns[at];
    const row = corrections.rows[at];
    columnDifference(room, a, b, column);
    rowDifference(room, p, q, row);
    const denominator = 1 + delta * voltsBetween(column, p, q);
    const size = Math.abs(a < 0 ? 0 : column[a]) + Math.abs(b < 0 ? 0 : column[b]) + diagonal(a) + diagonal(b);
    let factor = delta / denominator;
    let across = voltsBetween(volts, p, q) * factor;
    if (Math.abs(denominator) < SAFE_FACTOR * (1 + Math.abs(delta) * size)) {
      const cut = p === a && q === b && delta < 0 ? cutOff(delta, column) : null;
      if (cut === null) return false;
      [factor, across] = cut;
      loss *= CUT_LOSS;
    } else {
      loss *= Math.max(Math.abs(denominator), 1 / Math.abs(denominator));
    }
    if (at > base.corrections.count && loss > MOST_LOSS) return false;
    for (let k = 0; k < n; k += 1) volts[k] = volts[k] - column[k] * across;
    corrections.factors[at] = factor;
    corrections.count = at + 1;
    return true;
  };

  /**
   * Opening the one element that ties an island to the rest: what is left of the update's denominator is the current that still
   * reaches the island through leaks and open connections, which the difference of two large numbers cannot tell. Kirchhoff's
   * current law on the island can, to full precision.
   *
   * @returns the update's factor, and it times the voltage across the element; null where there is no such island
   */
  const cutOff = (delta: number, column: Float64Array): [number, number] | null => {
    const island = islandBehind(room, opening);
    if (island === null) return null;
    const sign = island.atFirst ? 1 : -1;
    const impedance = voltsBetween(column, net.a[opening], net.b[opening]);
    const escaped = sign * escaping(island, column) + after.siemens * impedance;
    if (!(escaped > 0)) return null;
    const factor = delta / escaped;
    // The current through the element is what leaves the island elsewhere.
    const across = (-sign * escaping(island, room.volts)) / before.siemens;
    return [factor, across * factor];
  };

  const diagonal = (row: number): number => (row < 0 ? 0 : Math.abs(base.inverse.column(row)[row]));

  const inject = (amps: number, a: number, b: number): void => {
    const { volts } = room;
    columnDifference(room, a, b, injected);
    for (let k = 0; k < n; k += 1) volts[k] = volts[k] + amps * injected[k];
  };

  const applyOne = (edit: Edit): boolean => {
    const { element } = edit;
    const regime = room.regimes[element];
    pieceOf(net, room.values, element, regime, before);
    room.values[edit.field][element] = edit.value;
    pieceOf(net, room.values, element, regime, after);
    return movePiece(element);
  };

  /** Takes an element from the piece in `before` to the one in `after`. */
  const movePiece = (element: number): boolean => {
    const a = net.a[element];
    const b = net.b[element];
    opening = element;
    if (after.amps !== before.amps) inject(after.amps - before.amps, a, b);
    if (after.siemens !== before.siemens && !rankOne(after.siemens - before.siemens, a, b, a, b)) return false;
    if (after.gain === before.gain) return true;
    return rankOne(before.gain - after.gain, a, b, net.p[element], net.q[element]);
  };

  /** Moves lamps to their new working point, each by a rank-one update; false when they do not settle. */
  const lampsSettle = (): boolean => {
    for (let round = 0; round < LAMP_ROUNDS; round += 1) {
      let moved = false;
      for (const index of net.lamps) {
        const element = net.elements[index] as Lamp;
        const [a, b] = [net.a[index], net.b[index]];
        const ohms = room.values.ohms[index];
        const wanted = settledLampOhms(element, ohms, voltsBetween(room.volts, a, b), portOhms(room, a, b));
        if (Math.abs(wanted - ohms) <= 1e-7 * wanted) continue;
        moved = true;
        if (!applyOne({ element: index, field: "ohms", value: wanted })) return false;
      }
      if (!moved) return true;
    }
    return false;
  };

  /** Moves elements to the regime their voltages ask for, each by a rank-one update; null when ill-conditioned. */
  const move = (elements: readonly number[]): boolean | null => {
    let moved = false;
    for (const element of elements) {
      const now = room.regimes[element];
      const wanted = regimeFor(net, room.values, element, room.volts, now);
      if (wanted === now) continue;
      moved = true;
      pieceOf(net, room.values, element, now, before);
      room.regimes[element] = wanted;
      pieceOf(net, room.values, element, wanted, after);
      if (!movePiece(element)) return null;
    }
    return moved;
  };

  /** Moves what switches; fuses only when nothing else moves any more. */
  const regimesMove = (): boolean | null => {
    const moved = move(net.switching);
    return moved === false ? move(net.fuses) : moved;
  };

  /** Settles lamps and regimes; false when the network must be solved anew. */
  const settle = (): boolean => {
    for (let round = 0; round < REGIME_ROUNDS; round += 1) {
      if (!lampsSettle()) return false;
      const moved = regimesMove();
      if (moved === null) return false;
      if (!moved) return true;
    }
    return false;
  };

  let spare: SolveRoom | null = null;
  const solveAnew = (edits: readonly Edit[]): Solution => {
    spare ??= roomFor(net, base.values);
    assignValues(spare.values, base.values);
    for (const { field, element, value } of edits) spare.values[field][element] = value;
    spare.regimes.set(base.regimes);
    return solveIn(net, spare);
  };

  return {
    base,
    solution: room,
    apply: (edits) => {
      room.volts.set(base.volts);
      room.regimes.set(base.regimes);
      room.corrections.count = base.corrections.count;
      loss = 1;
      assignValues(room.values, base.values);
      if (edits.length === 0) return room;
      if (edits.every(applyOne) && settle()) return room;
      return solveAnew(edits);
    },
  };
}
