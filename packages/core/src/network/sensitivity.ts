import { type EditField, KIND, type Regulator } from "./elements";
import { rowDifference, type Solution, voltsBetween } from "./solve";
import { BACK_FED, CURRENT_LIMIT, LIMIT_OHMS, OFF } from "./stamp";

/**
 * The adjoint vector of the voltage between two node rows: row a of the inverse minus row b.
 * @param out overwritten, length n
 */
export function adjointOf(solution: Solution, a: number, b: number, out: Float64Array): void {
  rowDifference(solution, a, b, out);
}

/**
 * Derivative of the voltage whose adjoint is given with respect to one number of one element: volts per volt, per
 * unit of gain, or, for `ohms`, volts per relative change (d V / d ln R). Standard adjoint network result:
 * dV = lambda^T (db - dG x).
 */
export function voltsSensitivity(solution: Solution, adjoint: Float64Array, element: number, field: EditField): number {
  if (field === "least") return 0;
  const { net, values, volts, regimes } = solution;
  const a = net.a[element];
  const b = net.b[element];
  const seen = voltsBetween(adjoint, a, b);
  const ohms = values.ohms[element];
  const kind = net.kinds[element];
  const regime = regimes[element];
  if (regime === OFF) return field === "ohms" && kind === KIND.amplifier ? (seen * voltsBetween(volts, a, b)) / ohms : 0;
  if (kind === KIND.regulator && regime !== 0) {
    if (field !== "volts") return 0;
    return regime === CURRENT_LIMIT ? seen / LIMIT_OHMS : regime === BACK_FED ? seen / (net.elements[element] as Regulator).backOhms : 0;
  }
  const siemens = 1 / ohms;
  if (field === "volts") return seen * siemens;
  const controlled = kind === KIND.amplifier ? voltsBetween(volts, net.p[element], net.q[element]) : 0;
  if (field === "gain") return seen * siemens * controlled;
  const drive = values.volts[element] + values.gain[element] * controlled;
  return -siemens * seen * (drive - voltsBetween(volts, a, b));
}

/** Derivative of a port's resistance with respect to an element's relative resistance (ohms per unit of ln R). */
export function portSensitivity(solution: Solution, adjoint: Float64Array, element: number): number {
  const { net, values, regimes } = solution;
  // A part without its supply is not there, whatever its resistance would be.
  if (regimes[element] === OFF) return 0;
  const seen = voltsBetween(adjoint, net.a[element], net.b[element]);
  return (seen * seen) / values.ohms[element];
}
