/** What a circuit family is called, and its part on the bench. */
export interface FamilyName {
  readonly id: string;
  readonly title: string;
  readonly part: string;
}

const NAMES = {
  "thermistor-2w": { title: "Temperature sensor, two wires", part: "Temperature sensor" },
  "potentiometer-3w": { title: "Position sensor, three wires", part: "Position sensor" },
  "dual-track": { title: "Position sensor, two tracks", part: "Pedal or throttle sensor" },
  "pressure-3w": { title: "Pressure sensor, three wires", part: "Pressure sensor" },
  "pressure-freq": { title: "Pressure sensor, frequency output", part: "Pressure sensor" },
  "maf-voltage": { title: "Air-flow sensor, voltage output", part: "Air-flow sensor" },
  "maf-freq": { title: "Air-flow sensor, frequency output", part: "Air-flow sensor" },
  "hall-3w": { title: "Hall sensor, three wires", part: "Hall sensor" },
  "vr-2w": { title: "Inductive speed sensor", part: "Speed sensor" },
  "knock-1w": { title: "Knock sensor, one wire", part: "Knock sensor" },
  "knock-2w": { title: "Knock sensor, two wires", part: "Knock sensor" },
  "oxygen-narrow": { title: "Oxygen sensor", part: "Oxygen sensor" },
  "solenoid-2w": { title: "Solenoid, two wires", part: "Solenoid" },
  "reference-bus": { title: "Shared reference", part: "Shared reference" },
  "battery-crank": { title: "Battery, starter and grounds", part: "Battery" },
  switch: { title: "Switch, two wires", part: "Switch" },
} as const satisfies Record<string, Omit<FamilyName, "id">>;

/** The name of a family. */
export function familyName(id: keyof typeof NAMES): FamilyName {
  return { id, ...NAMES[id] };
}

/** The names of every family this version knows, in the order they are listed: a list of families is shown without building any. */
export const FAMILY_NAMES: readonly FamilyName[] = Object.entries(NAMES).map(([id, name]) => ({ id, ...name }));

/** The name of the family with an id, or null. */
export function familyNamed(id: string): FamilyName | null {
  return FAMILY_NAMES.find((name) => name.id === id) ?? null;
}
