import { BadInput, type Circuit, PIN_ROLES, type Pin } from "@fox-lamp/language";
import type { PinSpec } from "./pins";

/** The pin of a bus that a pin of this role joins; null where nothing is shared. */
export function busPinOf(spec: PinSpec): "ref" | "gnd" | null {
  return spec.origin === "module" ? PIN_ROLES[spec.role].shared : null;
}

/** One pin of a circuit that joins a bus. */
export interface Share {
  readonly pin: Pin;
  readonly bus: string;
  readonly busPin: "ref" | "gnd";
  /** "module" (joined inside it) or a splice of the bus' wire. */
  readonly at: string;
}

/**
 * What a circuit shares, checked.
 *
 * @param buses ids of the file's buses
 * @throws BadInput for a bus that does not exist, a pin that cannot be shared, or a join to nowhere
 */
export function sharesOf(circuit: Circuit, pins: readonly PinSpec[], buses: ReadonlySet<string>, where: string): Share[] {
  const { shares } = circuit;
  if (shares === undefined) return [];
  const join = shares["join"] ?? "module";
  const refuse = (field: string, code: string, message: string): never => {
    throw new BadInput({ code, where: `${where}.shares.${field}`, message });
  };
  if (join !== "module" && !/^S[1-9]\d?$/u.test(join)) refuse("join", "shares:join", `"${join}" is no joint; expected "module" or a splice such as "S1"`);
  const named = Object.entries(shares).filter(([pin]) => pin !== "join");
  if (named.length === 0) refuse("join", "shares:nowhere", `${circuit.id} joins ${join} but says no pin and bus; expected such as "ref": "busA"`);
  return named.map(([name, bus]): Share => {
    const spec = pins.find(({ pin }) => pin === name);
    if (spec === undefined) return refuse(name, "shares:pin", `${circuit.id} has no pin "${name}"; expected ${pins.map(({ pin }) => pin).join(", ")}`);
    const busPin = busPinOf(spec);
    if (busPin === null) return refuse(name, "shares:pin", `the ${name} of ${circuit.id} cannot be shared; expected a reference or a ground of the module`);
    if (!buses.has(bus)) {
      const known = buses.size === 0 ? "this file has none" : `expected ${[...buses].join(", ")}`;
      return refuse(name, "shares:bus", `"${bus}" is not a circuit of family reference-bus; ${known}`);
    }
    return { pin: spec.pin, bus, busPin, at: join };
  });
}
