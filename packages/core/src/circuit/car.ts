import type { KeyState } from "@fox-lamp/language";
import { DATUM, type Element } from "../network";
import { MODULE_GROUND } from "./builder";

/** Battery voltage in each key state with a healthy battery, volts. */
export const BATTERY_VOLTS: Readonly<Record<KeyState, number>> = { off: 12.5, on: 12.4, crank: 10.4, idle: 14.1, rev: 14.2 };

/** What the module draws from its own feed with the key on, as a resistance, ohms. */
const MODULE_LOAD_OHMS = 15;
export const MODULE_ASLEEP_OHMS = 1e4;

/** Battery, grounds and the module's own supply: the implied circuit `car`. */
export const CAR_ELEMENTS: readonly Element[] = [
  { kind: "source", id: "car/battery", plus: "bat+", minus: DATUM, volts: BATTERY_VOLTS.on, ohms: 0.02 },
  { kind: "resistor", id: "car/ground:engine", a: "engine", b: DATUM, ohms: 0.002 },
  { kind: "resistor", id: "car/ground:chassis", a: "chassis", b: DATUM, ohms: 0.002 },
  { kind: "resistor", id: "car/module-ground", a: MODULE_GROUND, b: "chassis", ohms: 0.01 },
  { kind: "resistor", id: "car/module-load", a: "bat+", b: MODULE_GROUND, ohms: MODULE_LOAD_OHMS },
];
