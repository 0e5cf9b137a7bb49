import { BadInput } from "@fox-lamp/language";
import type { CircuitModel } from "../circuit";
import { ANY_WHEEL, type Wheel } from "./gaps";

/** How a channel of a circuit moves when all is well. */
export type Shape = "square" | "sine" | "ring" | "slow" | "switching" | "level" | "contact" | "current" | "unknown";

/** What is known of a channel before its samples are looked at. */
export interface Expected {
  readonly shape: Shape;
  readonly role: "signal" | "feed" | "reference" | "ground" | "battery" | "control" | "current" | "other";
  /** The wheel behind it; null where nothing turns past it. */
  readonly wheel: Wheel | null;
  /** Volts the module switches at; null where it has no such threshold. */
  readonly threshold: number | null;
  /** Volts of the circuit's supply: what full scale means. */
  readonly supply: number;
}

/** Names of channels that stand for a whole circuit. */
export const CRANK = "crank";
export const CAMS = ["cam", "cam-intake", "cam-exhaust"] as const;

/** Whether a channel is named for a camshaft. */
export function isCam(name: string): boolean {
  return (CAMS as readonly string[]).includes(name) || /^cam\b/iu.test(name);
}

const OXYGEN_VOLTS = 0.45;
const FEEDS = new Set(["feed", "htr-feed"]);

/** The pin a channel's name means: what stands behind the colon, without its place. */
export function pinOf(name: string): string {
  return (name.split(":").at(-1) ?? name).split("@")[0] ?? name;
}

function shapeOf(circuit: CircuitModel): Shape {
  const { traits } = circuit.family;
  switch (traits.kind) {
    case "wheel":
      return traits.alternating === true ? "sine" : "square";
    case "knock":
      return "ring";
    case "mixture":
      return "switching";
    case "valve":
      return "square";
    case "contact":
      return "contact";
    case "reference":
    case "battery":
      return "level";
    case "temperature":
    case "pressure":
    case "air-flow":
    case "track":
      return circuit.built.reads.some(({ by }) => by === "hertz") ? "square" : "slow";
  }
}

function wheelOfCircuit(circuit: CircuitModel): Wheel | null {
  if (circuit.family.traits.kind !== "wheel") return null;
  const { teeth, missing, perRev } = circuit.parameters as { teeth?: number; missing?: number; perRev?: number };
  if (teeth !== undefined) return { teeth, missing: missing ?? 0 };
  return { teeth: perRev === undefined ? null : perRev / 2, missing: 0 };
}

/** What a channel should look like on a circuit. A name that is none of its pins is judged by its samples alone. */
export function expectedOf(circuit: CircuitModel | null, name: string, unit: string): Expected {
  const pin = pinOf(name);
  const supply = circuit?.built.fullScaleVolts ?? 5;
  const plain = { wheel: null, threshold: null, supply };
  const unsaid = { ...plain, wheel: ANY_WHEEL, shape: "unknown", role: "other" } as const;
  if (unit === "A") return { ...plain, shape: circuit?.family.traits.kind === "valve" ? "current" : "unknown", role: "current" };
  if (/^bat|battery/iu.test(pin)) return { ...plain, supply: 12.6, shape: "level", role: "battery" };
  const spec = circuit?.pins.find((known) => known.pin === pin);
  if (FEEDS.has(pin) || spec?.role === "feed" || spec?.role === "heater-feed") return { ...plain, shape: "level", role: "feed" };
  if (/^ref\d?$/u.test(pin)) return { ...plain, shape: "level", role: "reference" };
  if (/^(p?gnd\d?|ret|shield)$/u.test(pin)) return { ...plain, shape: "level", role: "ground" };
  if (circuit === null) return unsaid;
  if (!name.includes(":") && (name === CRANK || isCam(name))) {
    const own = circuit.family.traits.kind === "wheel";
    const wheel = own ? (name === CRANK ? wheelOfCircuit(circuit) : { teeth: null, missing: 0 }) : null;
    return { ...plain, shape: "unknown", role: "signal", wheel };
  }
  if (spec === undefined) return unsaid;
  const control = spec.role === "control" || spec.role === "heater-control";
  if (spec.role === "heater-control") return { ...plain, shape: "unknown", role: "control" };
  const shape = shapeOf(circuit);
  const counts = circuit.built.reads.find(({ by, pin: read }) => by !== "volts" && read === pin);
  const threshold = shape === "switching" ? OXYGEN_VOLTS : shape === "square" && counts !== undefined ? 0.5 * supply : null;
  return { shape, role: control ? "control" : "signal", wheel: wheelOfCircuit(circuit), threshold, supply };
}

/** Refuses channels that a circuit cannot have. @throws BadInput for a circuit prefix that is another circuit's */
export function assertChannels(circuit: CircuitModel, names: readonly string[]): void {
  const stray = names.find((name) => name.includes(":") && name.split(":")[0] !== circuit.id);
  if (stray === undefined) return;
  throw new BadInput({
    code: "capture:circuit",
    where: `channel ${stray}`,
    message: `belongs to circuit "${stray.split(":")[0]}"; expected channels of ${circuit.id}`,
  });
}
