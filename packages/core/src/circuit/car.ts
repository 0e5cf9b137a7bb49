import type { KeyState } from "@fox-lamp/language";
import { DATUM, type Element, OPEN_OHMS } from "../network";
import type { Assignment } from "./assignment";

/** Open voltage of a healthy battery in each key state, volts; what an alternator adds is a source of its own. */
export const BATTERY_VOLTS: Readonly<Record<KeyState, number>> = { off: 12.5, on: 12.4, crank: 12.4, idle: 12.5, rev: 12.5 };
/** Inner resistance of a healthy battery with its cables, ohms. */
export const BATTERY_OHMS = 0.012;
/** The alternator's regulator and its line, while the engine runs: 14.1 V at the battery. */
const ALTERNATOR_VOLTS: Readonly<Record<"idle" | "rev", number>> = { idle: 14.4, rev: 14.5 };
const ALTERNATOR_OHMS = 0.002;
/** The starter while it turns the engine, ohms: about 180 A, which pulls the battery to 10.3 V and lifts the block by 0.18 V. */
const STARTER_OHMS = 0.057;

/** The switched supply behind the ignition, before the fuses. */
export const FUSED_SUPPLY = "ignition";
/** With what the body draws they drop some 0.16 V before any sensor's fuse, and lift the body by some 16 mV. */
const IGNITION_OHMS = 0.04;
const BODY_LOAD_OHMS = 3;
/** What runs over the engine's own ground: hardly anything with the key on, ignition and injectors while it runs. */
const ENGINE_LOAD_OHMS: Readonly<Record<KeyState, number>> = { off: OPEN_OHMS, on: 12, crank: OPEN_OHMS, idle: 0.9, rev: 0.7 };

/**
 * What comes in addition while the engine runs, over the module's ground (injectors, coils, valves, the relay of the pump) and over the body's (the
 * pump, fans, lamps), as resistances: it has nothing to do with what flows with the key on, and differs more.
 */
const RUNNING_OHMS = { module: 6, body: 8 };

/** What the module draws from its own feed with the key on, as a resistance, ohms. */
const MODULE_LOAD_OHMS = 15;
const MODULE_ASLEEP_OHMS = 1e4;
/**
 * How far the module's ground point lies above the body, volts: its wire, its bolt, what else hangs there. The starter lifts engine, body
 * and module together; how far the module follows the block differs from car to car (the amplifier's gain, whose spread says so).
 */
const MODULE_LIFT_VOLTS: Readonly<Record<KeyState, number>> = { off: 0, on: 0.01, crank: 0.09, idle: 0, rev: 0 };
const MODULE_GROUND_OHMS = 0.005;

/** Node where every module stage's ground meets. */
export const MODULE_GROUND = "module:ground";

/** Resistance of a usual strap between body and battery post. */
export const BODY_STRAP_OHMS = 0.004;

/** Battery, alternator, starter, grounds, switched supply and the module's own supply: the implied circuit `car`. @param strapOhms the body strap's */
export const carElements = (strapOhms = BODY_STRAP_OHMS): Element[] => [
  { kind: "source", id: "car/battery", plus: "bat+", minus: DATUM, volts: BATTERY_VOLTS.on, ohms: BATTERY_OHMS },
  { kind: "source", id: "car/alternator", plus: "bat+", minus: DATUM, volts: ALTERNATOR_VOLTS.idle, ohms: OPEN_OHMS },
  { kind: "resistor", id: "car/starter", a: "bat+", b: "engine", ohms: Number.POSITIVE_INFINITY },
  { kind: "resistor", id: "car/ground:engine", a: "engine", b: DATUM, ohms: 0.001 },
  { kind: "resistor", id: "car/ground:chassis", a: "chassis", b: DATUM, ohms: strapOhms },
  { kind: "resistor", id: "car/ignition", a: "bat+", b: FUSED_SUPPLY, ohms: IGNITION_OHMS },
  { kind: "resistor", id: "car/body-load", a: FUSED_SUPPLY, b: "chassis", ohms: BODY_LOAD_OHMS },
  { kind: "resistor", id: "car/engine-load", a: "bat+", b: "engine", ohms: ENGINE_LOAD_OHMS.on },
  {
    kind: "amplifier",
    id: "car/module-ground",
    out: MODULE_GROUND,
    com: "chassis",
    plus: "engine",
    minus: "chassis",
    gain: 0,
    volts: MODULE_LIFT_VOLTS.on,
    ohms: MODULE_GROUND_OHMS,
  },
  { kind: "resistor", id: "car/module-load", a: "bat+", b: MODULE_GROUND, ohms: MODULE_LOAD_OHMS },
  { kind: "resistor", id: "car/module-running", a: "bat+", b: MODULE_GROUND, ohms: OPEN_OHMS },
  { kind: "resistor", id: "car/body-running", a: "bat+", b: "chassis", ohms: OPEN_OHMS },
];

/** The key's part of a setup in the car itself: battery and alternator, starter, loads, grounds, module awake or asleep. */
export function carAssignments(key: KeyState): Assignment[] {
  const all: Assignment[] = [
    { element: "car/battery", field: "volts", value: BATTERY_VOLTS[key] },
    { element: "car/module-ground", field: "volts", value: MODULE_LIFT_VOLTS[key] },
    { element: "car/engine-load", field: "ohms", value: ENGINE_LOAD_OHMS[key] },
  ];
  if (key === "crank") all.push({ element: "car/starter", field: "ohms", value: STARTER_OHMS });
  if (key === "idle" || key === "rev") {
    all.push(
      { element: "car/alternator", field: "volts", value: ALTERNATOR_VOLTS[key] },
      { element: "car/alternator", field: "ohms", value: ALTERNATOR_OHMS },
      { element: "car/module-running", field: "ohms", value: RUNNING_OHMS.module },
      { element: "car/body-running", field: "ohms", value: RUNNING_OHMS.body },
    );
  }
  if (key === "off") {
    all.push({ element: "car/ignition", field: "ohms", value: OPEN_OHMS }, { element: "car/module-load", field: "ohms", value: MODULE_ASLEEP_OHMS });
  }
  return all;
}

/** A weak battery in a key state: much more inner resistance, and somewhat less open voltage, which may well look good at rest. */
export function weakBattery(key: KeyState, severity: number): Assignment[] {
  return [
    { element: "car/battery", field: "volts", value: BATTERY_VOLTS[key] - (0.15 + 0.7 * severity) },
    { element: "car/battery", field: "ohms", value: BATTERY_OHMS + 0.008 + 0.09 * severity },
  ];
}
