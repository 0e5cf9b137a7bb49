import { copyValues } from "./compile";
import type { Edit } from "./elements";
import { portOhms, type Solution, settledLampOhms, solveNetwork, voltsBetween, withEdits } from "./solve";
import { type Piece, pieceOf, regimeFor } from "./stamp";

/**
 * Room for one edited solution, reused over thousands of edits: {@link EditRoom.apply} overwrites `solution`.
 */
export interface EditRoom {
  readonly solution: Solution;
  /** Applies edits to the base; the result stays valid until the next call. */
  apply(edits: readonly Edit[]): Solution;
}

/** Below this the rank-one update has lost too many digits and the network is solved anew. */
const SAFE_DENOMINATOR = 1e-9;
/** One lamp settles in two rounds; several need a few. */
const LAMP_ROUNDS = 12;

/**
 * Prepares low-rank edits of a solved network. Each edit is a rank-one update of the inverse
 * (Sherman-Morrison), O(n^2) instead of O(n^3); when a regulator leaves its regime or the update is
 * ill-conditioned, the network is solved from its values.
 */
export function prepareEdits(base: Solution): EditRoom {
  const { net } = base;
  const n = net.nodes.length;
  const lamps = net.elements.flatMap((element, index) => (element.kind === "lamp" ? [{ element, index }] : []));
  const regulators = net.elements.flatMap((element, index) => (element.kind === "regulator" ? [index] : []));
  const room: Solution = {
    net,
    values: copyValues(base.values),
    regimes: base.regimes.slice(),
    volts: new Float64Array(n),
    inverse: new Float64Array(n * n),
  };
  const column = new Float64Array(n);
  const rowVector = new Float64Array(n);
  const before: Piece = { siemens: 0, amps: 0, gain: 0 };
  const after: Piece = { siemens: 0, amps: 0, gain: 0 };

  /** Adds `delta * r c^T` to the matrix, r = a - b, c = p - q; false when ill-conditioned. */
  const rankOne = (delta: number, a: number, b: number, p: number, q: number): boolean => {
    const { inverse, volts } = room;
    for (let k = 0; k < n; k += 1) {
      column[k] = (a < 0 ? 0 : (inverse[k * n + a] as number)) - (b < 0 ? 0 : (inverse[k * n + b] as number));
      rowVector[k] = (p < 0 ? 0 : (inverse[p * n + k] as number)) - (q < 0 ? 0 : (inverse[q * n + k] as number));
    }
    const denominator = 1 + delta * voltsBetween(column, p, q);
    if (Math.abs(denominator) < SAFE_DENOMINATOR) return false;
    const factor = delta / denominator;
    const across = voltsBetween(volts, p, q) * factor;
    for (let k = 0; k < n; k += 1) {
      volts[k] = (volts[k] as number) - (column[k] as number) * across;
      const scaled = (column[k] as number) * factor;
      if (scaled === 0) continue;
      const at = k * n;
      for (let m = 0; m < n; m += 1) inverse[at + m] = (inverse[at + m] as number) - scaled * (rowVector[m] as number);
    }
    return true;
  };

  const inject = (amps: number, a: number, b: number): void => {
    const { inverse, volts } = room;
    for (let k = 0; k < n; k += 1) {
      const column = (a < 0 ? 0 : (inverse[k * n + a] as number)) - (b < 0 ? 0 : (inverse[k * n + b] as number));
      volts[k] = (volts[k] as number) + amps * column;
    }
  };

  const applyOne = (edit: Edit): boolean => {
    const { element } = edit;
    const regime = room.regimes[element] as number;
    pieceOf(net, room.values, element, regime, before);
    room.values[edit.field][element] = edit.value;
    pieceOf(net, room.values, element, regime, after);
    const a = net.a[element] as number;
    const b = net.b[element] as number;
    if (after.amps !== before.amps) inject(after.amps - before.amps, a, b);
    if (after.siemens !== before.siemens && !rankOne(after.siemens - before.siemens, a, b, a, b)) return false;
    if (after.gain === before.gain) return true;
    return rankOne(before.gain - after.gain, a, b, net.p[element] as number, net.q[element] as number);
  };

  /** Moves lamps to their new working point, each by a rank-one update; false when they do not settle. */
  const lampsSettle = (): boolean => {
    for (let round = 0; round < LAMP_ROUNDS; round += 1) {
      let moved = false;
      for (const { element, index } of lamps) {
        const [a, b] = [net.a[index] as number, net.b[index] as number];
        const ohms = room.values.ohms[index] as number;
        const wanted = settledLampOhms(element, ohms, voltsBetween(room.volts, a, b), portOhms(room.inverse, n, a, b));
        if (Math.abs(wanted - ohms) <= 1e-7 * wanted) continue;
        moved = true;
        if (!applyOne({ element: index, field: "ohms", value: wanted })) return false;
      }
      if (!moved) return true;
    }
    return false;
  };

  const regimesHold = (): boolean =>
    regulators.every((element) => {
      const across = voltsBetween(room.volts, net.a[element] as number, net.b[element] as number);
      return regimeFor(net, room.values, element, across, room.regimes[element] as number) === room.regimes[element];
    });

  return {
    solution: room,
    apply: (edits) => {
      room.volts.set(base.volts);
      room.inverse.set(base.inverse);
      room.values.ohms.set(base.values.ohms);
      room.values.volts.set(base.values.volts);
      room.values.gain.set(base.values.gain);
      if (edits.length === 0) return room;
      if (edits.every(applyOne) && lampsSettle() && regimesHold()) return room;
      return solveNetwork(net, withEdits(base.values, edits), base.regimes);
    },
  };
}
