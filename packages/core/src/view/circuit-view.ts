import { type Circuit, isGroundRole, type PinRole, parseLocalUnit } from "@fox-lamp/language";
import { buildModel, type CircuitModel, type Model, type Quantity } from "../circuit";

/** One conductor of a circuit, as the drawing needs it. */
export interface PinView {
  readonly pin: string;
  readonly colour: string | null;
  readonly cavity: string | null;
  readonly role: PinRole | "car-ground";
  /** Where it starts: at the module, at a fuse, at a ground point, or at another circuit's wire. */
  readonly origin: "module" | "fuse" | "chassis" | "engine" | "battery";
  /** Places a lead can touch, from there outwards; the part's terminal is not among them. */
  readonly places: readonly string[];
  readonly contacts: readonly string[];
  /** Circuit whose wire it leaves, where it is a branch of a shared one. */
  readonly joins: { readonly bus: string; readonly at: string } | null;
  readonly reachesPart: boolean;
}

/** A circuit as the drawing needs it. */
export interface CircuitView {
  readonly id: string;
  readonly title: string;
  readonly part: string;
  readonly pins: readonly PinView[];
  readonly quantity: Quantity;
  readonly unit: string;
  /** It senses pressure against nothing, the air's own included; another pressure is against the air outside, as a gauge shows it. */
  readonly absolute: boolean;
  /** What stands on the left: the module, or the battery. */
  readonly left: "module" | "battery";
  /** Repair unit of the box on the right; null where there is none of its own. */
  readonly partUnit: string | null;
  readonly stages: readonly string[];
  /** Units shown in the right box besides its own: heater, outside. */
  readonly extras: readonly string[];
  /** The part is grounded by its body. */
  readonly body: boolean;
  /** Circuits that share this one's wires. */
  readonly members: readonly string[];
}

/** Ground straps of the car drawn as conductors of the battery's circuit. */
const CAR_GROUNDS: readonly PinView[] = (["engine", "chassis"] as const).map((name) => ({
  pin: `ground:${name}`,
  colour: null,
  cavity: null,
  role: "car-ground",
  origin: "battery",
  places: [],
  contacts: [],
  joins: null,
  reachesPart: true,
}));

function pinView(circuit: CircuitModel, path: CircuitModel["paths"][number]): PinView {
  const { colours, cavities } = circuit.circuit;
  const cavity = cavities?.[path.pin];
  return {
    pin: path.pin,
    colour: colours?.[path.pin] ?? null,
    cavity: cavity === undefined ? null : String(cavity),
    role: path.role,
    origin: path.origin,
    places: [...path.places.keys()].filter((place) => place !== "part"),
    contacts: path.steps.flatMap((step) => (step.kind === "contact" ? [step.place] : [])),
    joins: path.joins,
    reachesPart: path.places.has("part"),
  };
}

/** A circuit of a model as the drawing needs it. */
export function viewOf(model: Model, circuit: CircuitModel): CircuitView {
  const { id, title, family, paths, built } = circuit;
  const units = [...new Set(built.faults.map(({ unit }) => unit))];
  const battery = model.carId === id;
  const roles = paths.map(({ role }) => role);
  return {
    id,
    title,
    part: battery ? "Engine and body" : family.part,
    pins: battery ? CAR_GROUNDS : paths.map((path) => pinView(circuit, path)),
    quantity: built.world.quantity,
    unit: built.world.unit,
    absolute: built.world.outsideAir === true,
    left: battery ? "battery" : "module",
    partUnit: units.includes("sensor") ? "sensor" : units.includes("coil") ? "coil" : null,
    stages: units.filter((unit) => parseLocalUnit(id, unit)?.kind === "module"),
    extras: units.filter((unit) => unit === "heater" || unit === "outside"),
    body: roles.filter((role) => role === "signal").length === 1 && !roles.some(isGroundRole),
    members: model.circuits.filter(({ shares }) => shares.some(({ bus }) => bus === id)).map((member) => member.title),
  };
}

/** The circuits of a file as the drawing needs them. @throws BadInput for what cannot be */
export function viewsOf(circuits: readonly Circuit[]): CircuitView[] {
  const model = buildModel(circuits);
  return model.circuits.map((circuit) => viewOf(model, circuit));
}
