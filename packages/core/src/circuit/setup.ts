import { type Added, BadInput, parsePoint, type Setup } from "@fox-lamp/language";
import {
  assignValues,
  type CompiledNetwork,
  compileNetwork,
  type Edit,
  type Element,
  type Fuse,
  type Lamp,
  OPEN_OHMS,
  type Resistor,
  type Values,
  withEdits,
} from "../network";
import type { Assignment } from "./assignment";
import { CONTACT_OHMS, elementName, isContact, type PinPath } from "./builder";
import { carAssignments } from "./car";
import { type Drive, steady, switching } from "./family";
import { type CircuitModel, circuitOf, connectorsOf, type Model, pathOf, SUPPLY_BACK_OHMS } from "./model";
import { situationOf, statedWorld } from "./world";

/** A circuit network in the state a setup asks for, before any fault. */
export interface SetupNetwork {
  readonly model: Model;
  readonly setup: Setup;
  readonly net: CompiledNetwork;
  /** How the circuit that was asked for moves. */
  readonly drive: Drive;
  /** Values in each moment of that drive. */
  readonly moments: readonly { readonly share: number; readonly values: Values }[];
}

/** Fused jumper with its clips; its fuse blows instead of something in the module. */
const JUMPER_OHMS = 0.05;
export const JUMPER_FUSE_AMPS = 2;
/** What an LED tester draws: next to nothing. */
const LED_OHMS = 1e4;
/** The small incandescent test lamp: 12 V, 0.25 A, cold a tenth of its hot resistance. */
export const TEST_LAMP = { ratedVolts: 12, ratedAmps: 0.25, coldOhms: 4.8 } as const;

/** The half of an inline connector towards the sensor, `C1.out`; undefined where the path has none such. */
function outerHalf({ steps }: PinPath, place: string): string | undefined {
  const step = steps.find((one) => one.kind === "contact" && one.place !== "sensor" && one.place !== "module" && place === `${one.place}.out`);
  return step?.outer;
}

/**
 * The node a point stands for.
 * @throws BadInput when the text is no point, the circuit or pin is unknown, or the place is not on its path
 */
export function resolvePoint(model: Model, text: string, circuit: string | undefined, where: string): string {
  const point = parsePoint(text);
  if (point === null) {
    throw new BadInput({
      code: "point:invalid",
      where,
      message: `"${text}" is not a point; expected [circuit:]pin@place such as sig@sensor, or bat+, bat-, engine, chassis`,
    });
  }
  if (point.kind === "fixed") return point.point;
  const owner = circuitOf(model, point.circuit ?? circuit, where);
  const path = pathOf(owner, point.pin);
  if (!path) {
    const pins = owner.pins.map(({ pin }) => pin).join(", ") || "none";
    throw new BadInput({ code: "point:no-pin", where, message: `${owner.id} has no pin "${point.pin}"; expected ${pins}` });
  }
  const node = path.places.get(point.place) ?? outerHalf(path, point.place);
  if (node === undefined) {
    const places = [...path.places.keys()].join(", ");
    throw new BadInput({ code: "point:no-place", where, message: `${point.pin} of ${owner.id} has no place "${point.place}"; expected ${places}` });
  }
  return node;
}

/** Whether a setup leaves a connector of a circuit unplugged. */
export function isOpen(model: Model, setup: Setup, circuit: CircuitModel, place: string): boolean {
  return openPlaces(model, setup, circuit.id, "setup.open").some((open) => open.place === place && (open.circuit === circuit.id || place === "module"));
}

function openPlaces(model: Model, setup: Setup, circuit: string | undefined, where: string): { circuit: string; place: string }[] {
  return (setup.open ?? []).flatMap((text, index) => {
    const at = `${where}[${index}]`;
    const [first = "", second] = text.split(":");
    const place = second ?? first;
    if (place === "module") return [{ circuit: "", place }];
    if (second !== undefined && model.others.has(first)) return [];
    const owner = circuitOf(model, second === undefined ? circuit : first, at);
    const connectors = connectorsOf(owner);
    if (!connectors.includes(place)) {
      throw new BadInput({
        code: "setup:no-connector",
        where: at,
        message: `"${place}" is not a connector of ${owner.id}; expected ${["module", ...connectors.filter((known) => known !== "module")].join(", ")}`,
      });
    }
    return [{ circuit: owner.id, place }];
  });
}

/** What is touched on and off goes over a contact of its own: its name, by the part's place in the setup. */
const touchName = (index: number): string => `added/touch#${index}`;
/** How often people touch a lead on and off, a second, and how far that differs, relative. */
const TOUCH_HERTZ = 2;
const TOUCH_SPREAD = 0.5;

/** Whether what is put in is touched on and off while the reading is taken. */
function isTouched({ stimulus, add = [] }: Setup): boolean {
  return stimulus?.kind === "touch" && add.length > 0;
}

function addedElements(model: Model, setup: Setup, circuit: string | undefined, where: string): Element[] {
  const touched = isTouched(setup);
  return (setup.add ?? []).flatMap((part, index) => {
    const element = addedElement(model, part, index, circuit, `${where}.add[${index}]`);
    if (!touched) return [element];
    const tip = touchName(index);
    return [
      { ...element, b: tip },
      { kind: "resistor", id: tip, a: tip, b: element.b, ohms: CONTACT_OHMS },
    ];
  });
}

function addedElement(model: Model, added: Added, index: number, circuit: string | undefined, where: string): Resistor | Fuse | Lamp {
  const a = resolvePoint(model, added.from, circuit, `${where}.from`);
  const b = resolvePoint(model, added.to, circuit, `${where}.to`);
  if (a === b) throw new BadInput({ code: "setup:same-point", where, message: `both ends of the ${added.kind} are on ${added.from}` });
  const id = `added#${index}`;
  switch (added.kind) {
    case "jumper":
      return { kind: "fuse", id, a, b, ohms: JUMPER_OHMS, ratedAmps: JUMPER_FUSE_AMPS };
    case "resistor":
      return { kind: "resistor", id, a, b, ohms: added.ohms ?? OPEN_OHMS };
    case "led-lamp":
      return { kind: "resistor", id, a, b, ohms: LED_OHMS };
    case "lamp":
      return { kind: "lamp", id, a, b, ...TEST_LAMP };
  }
}

/** Where a circuit's elements stand in a network, and whether they are contacts: names are put together and looked up once, not a million times. */
interface Place {
  readonly element: number;
  readonly contact: boolean;
}
const places = new WeakMap<CompiledNetwork, Map<string, Map<string, Place>>>();

function placesIn(net: CompiledNetwork, circuit: string): Map<string, Place> {
  const byCircuit = places.get(net) ?? new Map<string, Map<string, Place>>();
  places.set(net, byCircuit);
  const known = byCircuit.get(circuit) ?? new Map<string, Place>();
  byCircuit.set(circuit, known);
  return known;
}

function placeOf(net: CompiledNetwork, circuit: string, local: string): Place {
  const name = local.includes("/") ? local : elementName(circuit, local);
  const element = net.elementIndex.get(name);
  if (element === undefined) throw new Error(`no element is called ${name}`);
  return { element, contact: isContact(name) };
}

/** Turns assignments by element name into edits of a compiled network; an opened contact stays open. */
export function editsOf(net: CompiledNetwork, values: Values, circuit: string, assignments: readonly Assignment[]): Edit[] {
  const known = placesIn(net, circuit);
  return assignments.map(({ element: local, field, value }) => {
    const place = known.get(local) ?? placeOf(net, circuit, local);
    known.set(local, place);
    const opened = field === "ohms" && place.contact;
    return { element: place.element, field, value: opened ? Math.max(value, values.ohms[place.element] as number) : value };
  });
}

/** The network with further elements at its end; the values it had stay, so element numbers and edits stay good. Kept: many setups add the same. */
function withAdded({ network, extended }: Model, added: readonly Element[]): CompiledNetwork {
  return extended.keep(
    JSON.stringify(added),
    () => {
      const net = compileNetwork([...network.elements, ...added]);
      assignValues(net.values, network.values);
      return net;
    },
    ({ elements }) => 400 * elements.length,
  );
}

/** The key's part of a setup: the car, and the module's supplies. */
function keyAssignments(model: Model, setup: Setup): Assignment[] {
  const key = setup.key ?? "on";
  const all = carAssignments(key);
  if (key !== "off") return all;
  for (const circuit of model.circuits) {
    for (const supply of circuit.supplies) {
      const element = elementName(circuit.id, supply);
      all.push({ element, field: "volts", value: 0 }, { element, field: "ohms", value: SUPPLY_BACK_OHMS });
    }
  }
  return all;
}

/** The value of a circuit's sensed quantity in a setup: known from elsewhere, stated for the circuit asked, or nominal. */
export function worldIn(model: Model, owner: CircuitModel, setup: Setup, circuit: string | undefined, worlds?: ReadonlyMap<string, number>): number {
  const { world } = owner.built;
  const mine = owner.id === circuit || model.circuits.length === 1;
  const stated = statedWorld(world, mine ? setup : { ...setup, truth: undefined });
  return worlds?.get(owner.id) ?? stated ?? world.nominal;
}

/** How a circuit moves in a setup: by itself; or, where it stands still, as something is touched on and off on it, on in the first moment. */
export function touchedDrive(setup: Setup, drive: Drive): Drive {
  if (!isTouched(setup) || drive.swing !== null) return drive;
  const still = drive.moments[0]?.assignments ?? [];
  const lifted = (setup.add ?? []).map((_, index): Assignment => ({ element: touchName(index), field: "ohms", value: OPEN_OHMS }));
  return switching(still, [...still, ...lifted], 0.5, TOUCH_HERTZ, TOUCH_SPREAD);
}

/**
 * Puts the network of a model into the state of a setup: key, engine, unplugged connectors, added parts, and the sensors at
 * the values of `worlds` (by circuit id), else at the stated truth, else nominal. Circuits other than the one asked for stand
 * in the first moment of their drive.
 *
 * @throws BadInput for a connector, point or circuit that does not exist
 */
export function applySetup(model: Model, setup: Setup, circuit: string | undefined, where = "setup", worlds?: ReadonlyMap<string, number>): SetupNetwork {
  const added = addedElements(model, setup, circuit, where);
  const net = added.length === 0 ? model.network : withAdded(model, added);
  const edits = editsOf(net, net.values, "", keyAssignments(model, setup));
  for (const open of openPlaces(model, setup, circuit, `${where}.open`)) {
    for (const owner of model.circuits) {
      if (open.place !== "module" && owner.id !== open.circuit) continue;
      for (const path of owner.paths) {
        for (const step of path.steps) {
          if (step.kind === "contact" && step.place === open.place)
            edits.push(...editsOf(net, net.values, owner.id, [{ element: step.element, field: "ohms", value: OPEN_OHMS }]));
        }
      }
    }
  }
  const asked = circuit ?? (model.circuits.length === 1 ? model.circuits[0]?.id : undefined);
  let drive: Drive | null = null;
  for (const owner of model.circuits) {
    const own = owner.built.drive(situationOf(owner.built.world, setup, worldIn(model, owner, setup, circuit, worlds)));
    if (owner.id === asked) drive = own;
    else edits.push(...editsOf(net, net.values, owner.id, own.moments[0]?.assignments ?? []));
  }
  const moves = touchedDrive(setup, drive ?? steady([]));
  const base = withEdits(net.values, edits);
  const moments = moves.moments.map(({ share, assignments }) => ({
    share,
    values: withEdits(base, editsOf(net, base, asked ?? "", assignments)),
  }));
  return { model, setup, net, drive: moves, moments };
}
