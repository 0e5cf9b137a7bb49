import { BadInput, type Measurement, type Meter, type Setup } from "@fox-lamp/language";
import { type CircuitModel, circuitOf, MODULE_GROUND, type Model, pinNode, resolvePoint } from "../circuit";

/** Meters that can be computed from the circuit's working point. */
export type ElectricalMeter = "volts-dc" | "ohms" | "continuity" | "lamp" | "scan";

/** A measurement with its leads resolved to nodes. */
export type Probe =
  | {
      readonly kind: "electrical";
      readonly meter: ElectricalMeter;
      readonly circuit: CircuitModel;
      readonly red: string;
      readonly black: string;
      readonly setup: Setup;
      /** Engineering unit of a scan value; null for volts. */
      readonly unit: string | null;
    }
  | { readonly kind: "look"; readonly circuit: CircuitModel; readonly place: string; readonly setup: Setup };

const ELECTRICAL: readonly Meter[] = ["volts-dc", "ohms", "continuity", "lamp", "scan"];

/** Whether readings of this meter say something about a circuit's working point. */
export function isElectrical(meter: Meter): meter is ElectricalMeter {
  return ELECTRICAL.includes(meter);
}

/**
 * Resolves a measurement's leads.
 *
 * @returns null for a meter that has nothing to say about these circuits (hertz on a steady signal)
 * @throws BadInput when a point, circuit, pin or place does not exist, or a lead is missing
 */
export function probeOf(model: Model, measurement: Measurement, where: string): Probe | null {
  const circuit = circuitOf(model, measurement.circuit, `${where}.circuit`);
  const setup = measurement.setup ?? {};
  if (measurement.meter === "look" || measurement.meter === "listen") {
    return { kind: "look", circuit, place: measurement.red.split(":").at(-1) ?? measurement.red, setup };
  }
  if (!isElectrical(measurement.meter)) return null;
  const meter = measurement.meter;
  if (meter === "scan") {
    const node = resolvePoint(model, measurement.red.includes("@") ? measurement.red : `${measurement.red}@module`, circuit.id, `${where}.red`);
    const pin = /:([^:@]+)@/u.exec(node)?.[1];
    if (pin === undefined) {
      throw new BadInput({
        code: "probe:scan-pin",
        where: `${where}.red`,
        message: `"${measurement.red}" is not a pin the module watches; expected one such as sig@module`,
      });
    }
    const unit = measurement.unit === undefined || measurement.unit === "V" ? null : measurement.unit;
    const { world } = circuit.built;
    if (unit !== null && unit !== world.unit) {
      throw new BadInput({ code: "probe:unit", where: `${where}.unit`, message: `"${unit}" is not a unit of ${circuit.id}; expected V or ${world.unit}` });
    }
    return { kind: "electrical", meter, circuit, red: pinNode(circuit.id, pin, "inside"), black: MODULE_GROUND, setup, unit };
  }
  if (measurement.black === undefined) {
    throw new BadInput({ code: "probe:no-black", where: `${where}.black`, message: `meter ${meter} needs a black lead; expected a point such as bat-` });
  }
  const red = resolvePoint(model, measurement.red, circuit.id, `${where}.red`);
  const black = resolvePoint(model, measurement.black, circuit.id, `${where}.black`);
  if (red === black) throw new BadInput({ code: "probe:same-point", where: `${where}.black`, message: `both leads are on ${measurement.red}` });
  return { kind: "electrical", meter, circuit, red, black, setup, unit: null };
}
