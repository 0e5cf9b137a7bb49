import type { SparseFactor } from "../numeric";
import type { CompiledNetwork, Values } from "./compile";
import { type Fuse, KIND, LEAK_SIEMENS, OPEN_OHMS, type Regulator } from "./elements";

/** What a regulator is doing. */
export const CONSTANT_VOLTAGE = 0;
export const CURRENT_LIMIT = 1;
export const BACK_FED = 2;
/** A part without its supply, or a blown fuse. */
export const OFF = 3;
/** A part that is off comes back only a little above the supply it needs. */
const POWER_HYSTERESIS_VOLTS = 0.02;

/** Slope of a regulator in current limit, ohms: nearly a current source, yet solvable. */
export const LIMIT_OHMS = 1e5;

/** The linear piece an element is on: conductance, source current, and control gain (all per stamp). */
export interface Piece {
  siemens: number;
  amps: number;
  gain: number;
}

/** Writes into `piece` the linear piece of an element for a regulator regime. */
export function pieceOf(net: CompiledNetwork, values: Values, element: number, regime: number, piece: Piece): void {
  const ohms = values.ohms[element];
  const volts = values.volts[element];
  const kind = net.kinds[element];
  piece.gain = 0;
  piece.siemens = 1 / ohms;
  piece.amps = volts * piece.siemens;
  if (regime === OFF) {
    if (kind !== KIND.amplifier) piece.siemens = 1 / OPEN_OHMS;
    piece.amps = 0;
    return;
  }
  if (kind === KIND.amplifier) piece.gain = values.gain[element] * piece.siemens;
  if (kind !== KIND.regulator || regime === CONSTANT_VOLTAGE) return;
  const { limitAmps, backOhms } = net.elements[element] as Regulator;
  if (regime === CURRENT_LIMIT) {
    const knee = volts - limitAmps * ohms;
    piece.siemens = 1 / LIMIT_OHMS;
    piece.amps = limitAmps + knee / LIMIT_OHMS;
  } else {
    piece.siemens = 1 / backOhms;
    piece.amps = volts / backOhms;
  }
}

/**
 * The regime a regulator should try next for the voltage across it. From either end it goes through constant voltage first:
 * jumping straight between limit and back-fed can go round for ever while the answer lies in between.
 */
function regulatorRegime(net: CompiledNetwork, values: Values, element: number, across: number, now: number): number {
  const { limitAmps } = net.elements[element] as Regulator;
  const volts = values.volts[element];
  const ohms = values.ohms[element];
  if (across > volts + 1e-9) return now === CURRENT_LIMIT ? CONSTANT_VOLTAGE : BACK_FED;
  if ((volts - across) / ohms > limitAmps * (1 + 1e-9)) return now === BACK_FED ? CONSTANT_VOLTAGE : CURRENT_LIMIT;
  return CONSTANT_VOLTAGE;
}

/** Voltage between two rows of a solution; the datum is row -1. */
function between(volts: Float64Array, a: number, b: number): number {
  return (a < 0 ? 0 : volts[a]) - (b < 0 ? 0 : volts[b]);
}

/** The regime a switching element should try next, from the node voltages it sees. */
export function regimeFor(net: CompiledNetwork, values: Values, element: number, volts: Float64Array, now: number): number {
  const kind = net.kinds[element];
  const across = between(volts, net.a[element], net.b[element]);
  if (kind === KIND.regulator) return regulatorRegime(net, values, element, across, now);
  if (kind === KIND.fuse) {
    const { ratedAmps } = net.elements[element] as Fuse;
    return now === OFF || Math.abs(across) / values.ohms[element] > ratedAmps ? OFF : CONSTANT_VOLTAGE;
  }
  // What else switches is a part that needs a supply.
  const supply = between(volts, net.p[element], net.q[element]);
  const least = values.least[element];
  // What switches at a millivolt is no supply that has to rise by more than that again.
  const further = now === OFF ? Math.max(0, Math.min(POWER_HYSTERESIS_VOLTS, least)) : 0;
  return supply < least + further ? OFF : CONSTANT_VOLTAGE;
}

/** Fills matrix (n x n, row-major) and right side from the elements' pieces. */
export function stampAll(net: CompiledNetwork, values: Values, regimes: Uint8Array, matrix: Float64Array, right: Float64Array): void {
  const n = net.nodes.length;
  const piece: Piece = { siemens: 0, amps: 0, gain: 0 };
  matrix.fill(0);
  right.fill(0);
  for (let row = 0; row < n; row += 1) matrix[row * n + row] = LEAK_SIEMENS;
  const add = (row: number, column: number, amount: number): void => {
    if (row >= 0 && column >= 0) matrix[row * n + column] = matrix[row * n + column] + amount;
  };
  for (let element = 0; element < net.elements.length; element += 1) {
    pieceOf(net, values, element, regimes[element], piece);
    const a = net.a[element];
    const b = net.b[element];
    if (piece.siemens !== 0) {
      add(a, a, piece.siemens);
      add(a, b, -piece.siemens);
      add(b, a, -piece.siemens);
      add(b, b, piece.siemens);
    }
    if (piece.gain !== 0) {
      const p = net.p[element];
      const q = net.q[element];
      add(a, p, -piece.gain);
      add(a, q, piece.gain);
      add(b, p, piece.gain);
      add(b, q, -piece.gain);
    }
    if (piece.amps !== 0) {
      if (a >= 0) right[a] = right[a] + piece.amps;
      if (b >= 0) right[b] = right[b] - piece.amps;
    }
  }
}

/**
 * Enters a network's matrix for the elements' pieces into a factor of its pattern, and fills the right side.
 * @returns whether no controlled source acts: then the matrix is symmetric
 */
export function enterAll(net: CompiledNetwork, values: Values, regimes: Uint8Array, factor: SparseFactor, right: Float64Array): boolean {
  const { places } = net.structure();
  let symmetric = true;
  const { values: entries, sums } = factor;
  const piece: Piece = { siemens: 0, amps: 0, gain: 0 };
  entries.fill(0);
  sums.fill(LEAK_SIEMENS);
  right.fill(0);
  const enter = (at: number, amount: number): void => {
    if (at >= 0) entries[at] = entries[at] + amount;
  };
  for (let element = 0; element < net.elements.length; element += 1) {
    pieceOf(net, values, element, regimes[element], piece);
    const a = net.a[element];
    const b = net.b[element];
    const { siemens, gain, amps } = piece;
    if (siemens !== 0) {
      if (a >= 0 && b >= 0) {
        enter(places.ab[element], -siemens);
        enter(places.ba[element], -siemens);
      } else if (a >= 0) sums[a] = sums[a] + siemens;
      else if (b >= 0) sums[b] = sums[b] + siemens;
    }
    if (gain !== 0) {
      symmetric = false;
      enter(places.ap[element], -gain);
      enter(places.aq[element], gain);
      enter(places.bp[element], gain);
      enter(places.bq[element], -gain);
      const [p, q] = [net.p[element], net.q[element]];
      const sum = (q >= 0 ? gain : 0) - (p >= 0 ? gain : 0);
      if (a >= 0) sums[a] = sums[a] + sum;
      if (b >= 0) sums[b] = sums[b] - sum;
    }
    if (amps !== 0) {
      if (a >= 0) right[a] = right[a] + amps;
      if (b >= 0) right[b] = right[b] - amps;
    }
  }
  return symmetric;
}
