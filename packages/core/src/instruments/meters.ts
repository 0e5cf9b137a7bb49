import { TEST_LAMP } from "../circuit";
import { lampAmps, lampVolts, portOhms, type Solution, voltsBetween } from "../network";
import { logistic } from "../numeric";

/** Input resistance of a digital meter on volts. */
export const METER_OHMS = 1e7;
/** Burden of an ammeter with its leads, ohms. */
export const AMMETER_OHMS = 0.1;
/** Above this an ohmmeter shows OL. */
export const OVERLOAD_OHMS = 4e7;
/** Voltage between the leads at which a resistance reading means nothing. */
export const LIVE_VOLTS = 0.15;
/** A beeper sounds below this. */
export const BEEP_OHMS = 30;

/** One standard deviation of a hand-held DC meter at a value: 0.4 % and a few counts. */
export function voltsSigma(volts: number): number {
  return 0.005 + 0.004 * Math.abs(volts);
}
/** Resistances are weighed as ln(ohms + this), so that leads and contacts matter little and decades count alike. */
const LOG_OFFSET_OHMS = 0.5;

/** Ohms on the scale they are weighed on. */
export function logOhms(ohms: number): number {
  return Math.log(Math.max(0, ohms) + LOG_OFFSET_OHMS);
}
/** Ohms from the scale they are weighed on. */
export function ohmsFromLog(value: number): number {
  return Math.max(0, Math.exp(value) - LOG_OFFSET_OHMS);
}
/** d(logOhms) / d(ln ohms): close to one but for very small resistances. */
export function logOhmsSlope(ohms: number): number {
  return ohms / (ohms + LOG_OFFSET_OHMS);
}
/** One standard deviation of an ohmmeter on that scale: 1.2 % and 0.2 ohm of leads. */
export function logOhmsSigma(ohms: number): number {
  return Math.hypot(0.012 * logOhmsSlope(ohms), 0.2 / (ohms + LOG_OFFSET_OHMS));
}
/** One standard deviation of a value the module reports: its converter's steps and its filter, volts. */
export const SCAN_SIGMA_VOLTS = 0.015;

/** One standard deviation of an AC range: its band and wave form are known less well than a level. */
export function acVoltsSigma(volts: number): number {
  return 0.003 + 0.03 * Math.abs(volts);
}
/** One standard deviation of a level read from a scope's screen: its eight bits on the range chosen, and the cursor, volts. */
export function scopeSigma(volts: number, coupling: "dc" | "ac"): number {
  return coupling === "dc" ? 0.03 + 0.012 * Math.abs(volts) : 0.003 + 0.02 * Math.abs(volts);
}
/** One standard deviation of an ammeter or clamp. */
export function ampsSigma(amps: number): number {
  return 0.003 + 0.025 * Math.abs(amps);
}
/** One standard deviation of a duty reading, percent. */
export const DUTY_SIGMA_PERCENT = 1.5;

/** A port's open voltage and resistance, from a solved network. */
export interface Port {
  readonly openVolts: number;
  readonly ohms: number;
}

/** Thevenin equivalent between two node rows. */
export function portOf(solution: Solution, a: number, b: number): Port {
  return { openVolts: voltsBetween(solution.volts, a, b), ohms: Math.max(1e-6, portOhms(solution, a, b)) };
}

/** What a DC meter shows on a port: its own 10 megohm is part of the circuit. */
export function shownVolts(port: Port): number {
  return (port.openVolts * METER_OHMS) / (METER_OHMS + port.ohms);
}

/** What an ohmmeter shows on a port: ohms, OL, or `live` on a line with voltage. */
export function shownOhms(port: Port): number | "OL" | "live" {
  if (Math.abs(shownVolts(port)) > LIVE_VOLTS) return "live";
  return port.ohms > OVERLOAD_OHMS ? "OL" : port.ohms;
}

/** What a continuity beeper does. A live line keeps it silent. */
export function shownContinuity(port: Port): "beep" | "open" {
  const ohms = shownOhms(port);
  return typeof ohms === "number" && ohms < BEEP_OHMS ? "beep" : "open";
}

/** Share of its rated current a test lamp carries across a port. */
export function lampShare(port: Port): number {
  const volts = lampVolts(TEST_LAMP, port.openVolts, port.ohms);
  return Math.abs(lampAmps(TEST_LAMP, volts)) / TEST_LAMP.ratedAmps;
}

/** What an ammeter put between two points shows: it closes the way itself. */
export function shownAmps(port: Port): number {
  return port.openVolts / (port.ohms + AMMETER_OHMS);
}

const LIT_SHARE = 0.75;
const OUT_SHARE = 0.3;

/** What a person calls a lamp carrying this share of its rated current. */
export function lampWord(share: number): "lit" | "dim" | "out" {
  return share >= LIT_SHARE ? "lit" : share >= OUT_SHARE ? "dim" : "out";
}

/** Probabilities of lit, dim, out with soft edges. */
export function lampProbabilities(share: number): readonly [number, number, number] {
  const lit = logistic((share - LIT_SHARE) / 0.025);
  const out = logistic((OUT_SHARE - share) / 0.025);
  return [lit, Math.max(0, 1 - lit - out), out];
}

/** Probability that the beeper sounds, with a soft edge in ln ohms. */
export function beepProbability(ohms: number): number {
  return logistic(Math.log(BEEP_OHMS / Math.max(ohms, 0.01)) / 0.15);
}
