import type { CircuitView, PinView } from "@fox-lamp/core";

/** A wire of a circuit from the module through its places to the sensor. */
export function pinView(pin: string, role: PinView["role"], more: Partial<PinView> = {}): PinView {
  return {
    pin,
    colour: null,
    cavity: null,
    role,
    origin: "module",
    places: ["module", "C1", "sensor"],
    contacts: ["module", "C1", "sensor"],
    joins: null,
    reachesPart: true,
    ...more,
  };
}

/** A circuit with feed, signal and ground, as the bench is given it. */
export function circuitView(id: string, title: string, more: Partial<CircuitView> = {}): CircuitView {
  return {
    id,
    title,
    part: `${title} sensor`,
    pins: [pinView("feed", "feed"), pinView("sig", "signal", { colour: "green", cavity: "2" }), pinView("gnd", "ground")],
    quantity: "level",
    unit: "",
    absolute: false,
    left: "module",
    partUnit: "sensor",
    stages: [],
    extras: [],
    body: false,
    members: [],
    ...more,
  };
}
