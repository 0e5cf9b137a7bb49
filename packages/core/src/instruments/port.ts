import { portOhms, type Solution, voltsBetween } from "../network";

/** Input resistance of a digital meter on volts. */
export const METER_OHMS = 1e7;
/** Voltage between the leads at which a resistance reading means nothing. */
export const LIVE_VOLTS = 0.15;

/** A port's open voltage and resistance, from a solved network. */
export interface Port {
  readonly openVolts: number;
  readonly ohms: number;
}

/** Thevenin equivalent between two node rows. */
export function portOf(solution: Solution, a: number, b: number): Port {
  return { openVolts: voltsBetween(solution.volts, a, b), ohms: Math.max(1e-6, portOhms(solution, a, b)) };
}

/** What is left of a port's voltage under a load, volts. @param load ohms across the port */
export function loadedVolts(port: Port, load: number): number {
  return (port.openVolts * load) / (load + port.ohms);
}

/** What a DC meter shows on a port: its own 10 megohm is part of the circuit. */
export function shownVolts(port: Port): number {
  return loadedVolts(port, METER_OHMS);
}
