import type { CircuitModel } from "../circuit";

/** Inductance of the small windings a module switches, henries: some milliseconds with their resistance. */
const COIL_HENRIES = 0.012;
/** The pintle moves when the current has come to this share of what the sound winding takes, and its movement takes so much away again. */
const PULLS_SHARE = 0.6;
const DIP_SHARE = 0.12;
const DIP_SECONDS = 0.00018;

/** What a clamp sees of a switched winding: it follows the current the circuit would settle at. */
export interface CoilCurrent {
  /** @param target amperes the circuit would settle at as it is switched now @param seconds since the last sample */
  next(target: number, seconds: number): number;
}

function henriesOf(circuit: CircuitModel): number | null {
  return circuit.family.traits.kind === "valve" ? COIL_HENRIES : null;
}

/**
 * The current of a winding behind a clamp, i' = (V - i R) / L (series R-L circuit, free-wheeling with the same time constant when off); when
 * the pintle moves, the voltage it induces takes a part of the current away for a moment.
 *
 * @param volts what feeds the winding
 * @param usual amperes of the sound winding, switched on
 * @param seized a pintle that does not move
 * @returns null for a circuit whose current follows at once
 */
export function coilCurrent(circuit: CircuitModel, volts: number, usual: number, seized: boolean): CoilCurrent | null {
  const henries = henriesOf(circuit);
  if (henries === null || !(usual > 0)) return null;
  let [amps, since, settles] = [0, Number.POSITIVE_INFINITY, usual];
  return {
    next: (target, seconds) => {
      if (target > 0.05 * usual) settles = target;
      const decay = Math.exp((-seconds * volts) / (settles * henries));
      amps = target + (amps - target) * decay;
      if (target < 0.5 * settles) since = Number.NEGATIVE_INFINITY;
      else if (since === Number.NEGATIVE_INFINITY && amps >= PULLS_SHARE * usual) since = 0;
      else since += seconds;
      if (seized || !(since >= 0 && since < 12 * DIP_SECONDS)) return amps;
      const share = since / DIP_SECONDS;
      return amps - DIP_SHARE * usual * share * Math.exp(1 - share);
    },
  };
}

/**
 * Current of a driven winding while it is switched, amperes: it rises towards V / R and falls through the free-wheeling path with
 * the winding's own time constant, i' = (V - i R) / L (series R-L circuit).
 *
 * @param drivenVolts volts across the winding while it is on
 */
export function windingCurrent(
  drivenVolts: number,
  ohms: number,
  henries: number,
  hertz: number,
  onShare: number,
  seconds: number,
  rate: number,
): Float64Array {
  if (ohms <= 0 || henries <= 0 || rate <= 0) throw new RangeError("a winding needs resistance, inductance and a sampling rate over zero");
  const out = new Float64Array(Math.round(seconds * rate));
  const decay = Math.exp(-ohms / henries / rate);
  let amps = 0;
  for (let sample = 0; sample < out.length; sample += 1) {
    const phase = (sample * hertz) / rate;
    const on = hertz === 0 || phase - Math.floor(phase) < onShare;
    const target = on ? drivenVolts / ohms : 0;
    amps = target + (amps - target) * decay;
    out[sample] = amps;
  }
  return out;
}
