import type { Reading } from "@fox-lamp/language";
import type { CircuitModel } from "../circuit";

/** A calculator with the numbers a reading and its circuit give it; the one that is asked for is left out. */
export interface OpenedCalculator {
  readonly calculator: string;
  readonly given: Readonly<Record<string, number>>;
}

function numbered(parameters: unknown, name: string): number | null {
  const value = (parameters as Record<string, unknown>)[name];
  return typeof value === "number" ? value : null;
}

/** The pin a lead is on. */
function pinAt(lead: string): string {
  return (lead.split("@")[0] ?? lead).split(":").at(-1) ?? lead;
}

/** Volts of a line that a module pulls up: what the sensor behind it has to ground. */
function pulledUp(circuit: CircuitModel, volts: number): OpenedCalculator | null {
  const [pull, supply] = [numbered(circuit.parameters, "pullup"), numbered(circuit.parameters, "pullupV") ?? numbered(circuit.parameters, "vref") ?? 5];
  return pull === null || !(volts >= 0 && volts < supply) ? null : { calculator: "divider", given: { supply, pull, signal: volts } };
}

function ofVolts(circuit: CircuitModel, { red, setup = {} }: Reading, volts: number): OpenedCalculator | null {
  const pin = pinAt(red);
  if (/^(gnd\d?|ret)$/u.test(pin)) return volts >= 0 ? { calculator: "drop", given: { volts, amps: 0.02 } } : null;
  const signal = circuit.pins.find((spec) => spec.pin === pin)?.role === "signal";
  if (!signal) return null;
  const { kind } = circuit.family.traits;
  const plugged = setup.open === undefined || setup.open.length === 0;
  if ((kind === "temperature" || kind === "contact") && plugged) return pulledUp(circuit, volts);
  if (kind === "wheel" && (setup.key === "crank" || setup.key === "idle" || setup.key === "rev"))
    return { calculator: "average", given: { low: 0.1, high: numbered(circuit.parameters, "pullupV") ?? 5, average: volts } };
  return null;
}

/**
 * The calculator a reading is best looked at with, its numbers filled in from the reading and the circuit's sheet.
 *
 * @returns null for one that there is nothing to compute from
 */
export function calculatorFor(circuit: CircuitModel, reading: Reading): OpenedCalculator | null {
  const { meter, value } = reading;
  if (typeof value !== "number") return null;
  switch (meter) {
    case "volts-dc":
      return ofVolts(circuit, reading, value);
    case "hertz": {
      const [teeth, missing] = [numbered(circuit.parameters, "teeth"), numbered(circuit.parameters, "missing") ?? 0];
      return teeth === null ? null : { calculator: "teeth", given: { teeth, missing, turns: 1, hertz: value } };
    }
    case "ohms":
      return circuit.family.traits.kind === "valve" && value > 0 ? { calculator: "load", given: { volts: 13.5, ohms: value } } : null;
    case "volts-ac":
    case "continuity":
    case "amps-dc":
    case "duty":
    case "count":
    case "lamp":
    case "scan":
    case "look":
    case "listen":
    case "gauge":
    case "notice":
    case "capture":
      return null;
  }
}
