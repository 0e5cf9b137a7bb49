import type { KeyState } from "@fox-lamp/language";
import { DATUM, type Element, OPEN_OHMS } from "../network";
import type { Assignment } from "./assignment";

/** Open voltage of battery and alternator in each key state with a healthy battery, volts. */
export const BATTERY_VOLTS: Readonly<Record<KeyState, number>> = { off: 12.6, on: 12.4, crank: 12.4, idle: 14.1, rev: 14.2 };
/** Inner resistance of a healthy battery with its cables, ohms. */
export const BATTERY_OHMS = 0.012;
/** The starter while it turns the engine, ohms: about 180 A, which pulls the battery to 10.3 V and lifts the block by 0.18 V. */
const STARTER_OHMS = 0.057;

/** The switched supply behind the ignition, before the fuses. */
export const FUSED_SUPPLY = "ignition";
const IGNITION_OHMS = 0.02;

/** What the module draws from its own feed with the key on, as a resistance, ohms. */
const MODULE_LOAD_OHMS = 15;
const MODULE_ASLEEP_OHMS = 1e4;

/** Node where every module stage's ground meets. */
export const MODULE_GROUND = "module:ground";

/** Battery, starter, grounds, switched supply and the module's own supply: the implied circuit `car`. */
export const CAR_ELEMENTS: readonly Element[] = [
  { kind: "source", id: "car/battery", plus: "bat+", minus: DATUM, volts: BATTERY_VOLTS.on, ohms: BATTERY_OHMS },
  { kind: "resistor", id: "car/starter", a: "bat+", b: "engine", ohms: Number.POSITIVE_INFINITY },
  { kind: "resistor", id: "car/ground:engine", a: "engine", b: DATUM, ohms: 0.001 },
  { kind: "resistor", id: "car/ground:chassis", a: "chassis", b: DATUM, ohms: 0.002 },
  { kind: "resistor", id: "car/ignition", a: "bat+", b: FUSED_SUPPLY, ohms: IGNITION_OHMS },
  { kind: "resistor", id: "car/module-ground", a: MODULE_GROUND, b: "chassis", ohms: 0.01 },
  { kind: "resistor", id: "car/module-load", a: "bat+", b: MODULE_GROUND, ohms: MODULE_LOAD_OHMS },
];

/** The key's part of a setup in the car itself: battery or alternator, starter, switched supply, module awake or asleep. */
export function carAssignments(key: KeyState): Assignment[] {
  const all: Assignment[] = [{ element: "car/battery", field: "volts", value: BATTERY_VOLTS[key] }];
  if (key === "crank") all.push({ element: "car/starter", field: "ohms", value: STARTER_OHMS });
  if (key === "off") {
    all.push({ element: "car/ignition", field: "ohms", value: OPEN_OHMS }, { element: "car/module-load", field: "ohms", value: MODULE_ASLEEP_OHMS });
  }
  return all;
}

/** A weak battery in a key state: less open voltage, more inner resistance; an alternator hides most of it. */
export function weakBattery(key: KeyState, severity: number): Assignment[] {
  const running = key === "idle" || key === "rev";
  return [
    { element: "car/battery", field: "volts", value: BATTERY_VOLTS[key] - (running ? 0.4 * severity : 0.4 + 1.8 * severity) },
    { element: "car/battery", field: "ohms", value: BATTERY_OHMS + (running ? 0 : 0.012 + 0.06 * severity) },
  ];
}
