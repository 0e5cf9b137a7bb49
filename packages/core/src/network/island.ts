import { LEAK_SIEMENS } from "./elements";
import type { Solution } from "./solve";
import { type Piece, pieceOf } from "./stamp";

/** Conductances under this hold no island to the rest: open contacts, broken wires, absent shorts. */
const WEAK_SIEMENS = 1e-6;

/** The part of a network that hangs on one element, with what else reaches it: leaks and open connections. */
export interface Island {
  /** Nodes of the island, 1 for members. */
  readonly members: Uint8Array;
  /** Whether the island is at the element's first end. */
  readonly atFirst: boolean;
  /** Weak connections out of it: inner row, outer row (-1 for the datum), siemens. */
  readonly inner: readonly number[];
  readonly outer: readonly number[];
  readonly siemens: readonly number[];
}

/**
 * The island that only one element ties to the rest of a solved network; null where both its ends stay connected without it,
 * where the datum is on both sides, or where sources or controlled parts are involved (then nothing is gained by knowing).
 */
export function islandBehind({ net, values, regimes }: Solution, element: number): Island | null {
  const n = net.nodes.length;
  const piece: Piece = { siemens: 0, amps: 0, gain: 0 };
  const heads = new Int32Array(n + 1).fill(-1);
  const next: number[] = [];
  const to: number[] = [];
  const weak: { a: number; b: number; siemens: number }[] = [];
  const active = new Uint8Array(n + 1);
  const tie = (from: number, target: number): void => {
    to.push(target);
    next.push(heads[from + 1]);
    heads[from + 1] = to.length - 1;
  };
  for (let index = 0; index < net.elements.length; index += 1) {
    pieceOf(net, values, index, regimes[index], piece);
    const [a, b] = [net.a[index], net.b[index]];
    if (piece.amps !== 0 || piece.gain !== 0) for (const row of [a, b, net.p[index], net.q[index]]) active[row + 1] = 1;
    if (index === element || piece.siemens === 0) continue;
    if (piece.siemens < WEAK_SIEMENS) weak.push({ a, b, siemens: piece.siemens });
    else {
      tie(a, b);
      tie(b, a);
    }
  }
  const [first, second] = [net.a[element], net.b[element]];
  const reach = (start: number, forbidden: number): Uint8Array | null => {
    if (start < 0) return null;
    const members = new Uint8Array(n);
    const stack = [start];
    members[start] = 1;
    while (stack.length > 0) {
      const row = stack.pop() as number;
      if (active[row + 1] === 1) return null;
      for (let at = heads[row + 1]; at >= 0; at = next[at]) {
        const target = to[at];
        if (target < 0 || target === forbidden) return null;
        if (members[target] === 1) continue;
        members[target] = 1;
        stack.push(target);
      }
    }
    return members;
  };
  let atFirst = false;
  let members = reach(second, first);
  if (members === null) {
    members = reach(first, second);
    atFirst = true;
  }
  if (members === null) return null;
  const inner: number[] = [];
  const outer: number[] = [];
  const siemens: number[] = [];
  for (const { a, b, siemens: own } of weak) {
    const [inA, inB] = [a >= 0 && members[a] === 1, b >= 0 && members[b] === 1];
    if (inA === inB) continue;
    inner.push(inA ? a : b);
    outer.push(inA ? b : a);
    siemens.push(own);
  }
  for (let row = 0; row < n; row += 1) {
    if (members[row] === 0) continue;
    inner.push(row);
    outer.push(-1);
    siemens.push(LEAK_SIEMENS);
  }
  return { members, atFirst, inner, outer, siemens };
}

/** Current that leaves an island through its weak connections, for node voltages or the response to an injected ampere. */
export function escaping({ inner, outer, siemens }: Island, volts: Float64Array): number {
  let sum = 0;
  for (let index = 0; index < inner.length; index += 1) {
    const out = outer[index];
    sum += siemens[index] * (volts[inner[index]] - (out < 0 ? 0 : volts[out]));
  }
  return sum;
}
