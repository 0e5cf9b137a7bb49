import type { EditField } from "../network";

/** How something of a sound car differs from car to car. */
export interface CarSpread {
  readonly element: string;
  readonly field: EditField;
  /** One standard deviation: ln ohms, volts, or the share that is followed. */
  readonly sigma: number;
  readonly what: string;
  /** What the spread is taken from. */
  readonly why: string;
}

/** What differs between sound cars besides their circuits: each a shared variable of its own, known to no reading before one tells. */
export const CAR_SPREADS: readonly CarSpread[] = [
  { element: "car/battery", field: "volts", sigma: 0.28, what: "battery at rest", why: "11.9 to 12.8 V, 13.0 with surface charge" },
  {
    element: "car/ground:chassis",
    field: "ohms",
    sigma: 0.95,
    what: "body strap",
    why: "with what the body draws: 4 to 60 mV on the body with the key on, up to 100 mV is accepted",
  },
  {
    element: "car/body-load",
    field: "ohms",
    sigma: 0.7,
    what: "what the body draws, 1 to 12 A with the key on",
    why: "one car has a fan and lamps on, another nothing",
  },
  {
    element: "car/body-running",
    field: "ohms",
    sigma: 0.8,
    what: "what the body draws besides while the engine runs, 0.35 to 9 A",
    why: "a pump, fans and lamps, or none of them",
  },
  {
    element: "car/module-running",
    field: "ohms",
    sigma: 0.8,
    what: "what the module draws besides while the engine runs, 0.5 to 12 A",
    why: "injectors, coils and relays over the module's ground, or over others",
  },
  { element: "car/ground:engine", field: "ohms", sigma: 0.45, what: "engine strap", why: "80 to 300 mV on the block while cranking" },
  {
    element: "car/module-ground",
    field: "volts",
    sigma: 0.018,
    what: "module's ground point above the body",
    why: "sensor grounds of 2 to 60 mV, up to 80 mV running",
  },
  {
    element: "car/module-ground",
    field: "gain",
    sigma: 0.4,
    what: "share of the block's lift that the module follows",
    why: "on some cars the module is grounded on the block, on others on the body",
  },
  {
    element: "car/starter",
    field: "ohms",
    sigma: 0.23,
    what: "starter",
    why: "with the battery 9.0 to 11.5 V while cranking; under 9.6 V warm is looked into",
  },
  { element: "car/battery", field: "ohms", sigma: 0.25, what: "battery's inner resistance", why: "a factor of 1.6 either way with size, age and cold" },
  { element: "car/alternator", field: "volts", sigma: 0.32, what: "charging voltage", why: "13.4 to 14.8 V" },
  { element: "car/ignition", field: "ohms", sigma: 0.5, what: "supply line before the fuses", why: "0.05 to 0.4 V lost between battery and feed" },
];

/**
 * Spread of sound contacts and wires, ln ohms. Wider than parts differ (0.7): resistances are log-normal, a prediction is linear. They share
 * half of its variance, the rest is each one's own.
 */
export const CONTACT_SIGMA = 1;
