import { BadInput, type Circuit, type Pin, parseOrThrow } from "@fox-lamp/language";
import { type CompiledNetwork, compileNetwork, type Element } from "../network";
import { BoundedCache } from "../numeric";
import { type AlikePair, alikePairs, layCrossings } from "./alike";
import { type CircuitBuilder, elementName, type JoinedAt, layPath, layShorts, type PinPath, pinNode } from "./builder";
import { carElements, MODULE_GROUND } from "./car";
import { FAMILIES } from "./families";
import type { BuiltFamily, Family } from "./family";
import type { PinSpec } from "./pins";
import { statedParameters } from "./provenance";
import { type Share, sharesOf } from "./shares";
import { situationOf } from "./world";

/** A circuit with its family, checked parameters and laid-out pins. */
export interface CircuitModel {
  readonly id: string;
  readonly title: string;
  readonly circuit: Circuit;
  readonly family: Family;
  readonly parameters: unknown;
  readonly built: BuiltFamily;
  /** The pins its parameters give it, in order. */
  readonly pins: readonly PinSpec[];
  readonly paths: readonly PinPath[];
  readonly inline: readonly string[];
  readonly shares: readonly Share[];
  /** Local ids of the module's supplies, off with the key. */
  readonly supplies: readonly string[];
}

/** Several circuits on one battery, one module and one set of grounds: one network. */
export interface Model {
  readonly circuits: readonly CircuitModel[];
  readonly network: CompiledNetwork;
  /** Whose battery and grounds they are: the circuit of family battery-crank, or the implied `car`. */
  readonly carId: string;
  /** Circuits of the same car that share nothing with these and are left out: unplugging them changes nothing here. */
  readonly others: ReadonlySet<string>;
  /** Circuits whose sensor connectors fit one another. */
  readonly alike: readonly AlikePair[];
  /** The network with jumpers, lamps and resistors added to it, by what was added. */
  readonly extended: BoundedCache;
}

/** The car some of whose circuits are looked at by themselves. */
export interface CarAround {
  /** Whose battery and grounds they are, where none of these circuits is of family battery-crank. */
  readonly carId?: string;
  /** The circuits that are left out. */
  readonly others?: Iterable<string>;
  /** Resistance of the body strap, where something was read of it; the usual one unless given. */
  readonly strapOhms?: number | undefined;
}

/** Resistance of an unpowered module supply towards ground, ohms. */
export const SUPPLY_BACK_OHMS = 1e4;
const SUPPLY_OHMS = 0.2;
const LOW_SIDE_OHMS = 0.05;
/** Networks with added parts that a model keeps, bytes. */
const EXTENDED_BYTES = 8e6;

interface Draft {
  readonly circuit: Circuit;
  readonly where: string;
  readonly family: Family;
  readonly parameters: unknown;
  readonly pins: readonly PinSpec[];
  readonly shares: readonly Share[];
}

function familyOf(circuit: Circuit, families: readonly Family[], where: string): Family {
  const family = families.find(({ id }) => id === circuit.family) ?? null;
  if (family !== null) return family;
  throw new BadInput({
    code: "circuit:unknown-family",
    where: `${where}.family`,
    message: `"${circuit.family}" is not a family of this version; expected ${families.map((known) => known.id).join(", ")}`,
  });
}

/** Refuses colours and cavities of pins that the circuit does not have. */
function assertPins(circuit: Circuit, pins: readonly PinSpec[], where: string): void {
  for (const [field, record] of [
    ["colours", circuit.colours],
    ["cavities", circuit.cavities],
  ] as const) {
    const stray = Object.keys(record ?? {}).find((name) => !pins.some(({ pin }) => pin === name));
    if (stray === undefined) continue;
    throw new BadInput({
      code: "circuit:unknown-pin",
      where: `${where}.${field}.${stray}`,
      message: `${circuit.id} has no pin "${stray}"; expected ${pins.map(({ pin }) => pin).join(", ") || "none"}`,
    });
  }
}

/** Parameters of a circuit; a shared reference brings its voltage along and may not be contradicted. */
function parametersOf(circuit: Circuit, family: Family, buses: ReadonlyMap<string, { vref: number }>, where: string): unknown {
  const given = statedParameters(circuit.with).values;
  const name = family.referenceParameter;
  const bus = Object.entries(circuit.shares ?? {}).find(
    ([pin, id]) => pin !== "join" && !pin.startsWith("gnd") && !pin.startsWith("ret") && buses.has(id),
  )?.[1];
  const volts = bus === undefined ? undefined : buses.get(bus)?.vref;
  if (name === undefined || volts === undefined) return parseOrThrow(family.parameters, given, `${where}.with`);
  const stated = given[name];
  if (typeof stated === "number" && Math.abs(stated - volts) > 1e-9) {
    throw new BadInput({ code: "shares:volts", where: `${where}.with.${name}`, message: `${stated} V, but ${bus} feeds it ${volts} V; expected the same` });
  }
  return parseOrThrow(family.parameters, { ...given, [name]: volts }, `${where}.with`);
}

function draftsOf(circuits: readonly Circuit[], families: readonly Family[], where: string): Draft[] {
  const buses = new Map<string, { vref: number }>();
  circuits.forEach((circuit, index) => {
    if (familyOf(circuit, families, `${where}[${index}]`).traits.kind !== "reference") return;
    buses.set(
      circuit.id,
      parseOrThrow(familyOf(circuit, families, `${where}[${index}]`).parameters, statedParameters(circuit.with).values, `${where}[${index}].with`) as {
        vref: number;
      },
    );
  });
  const drafts = circuits.map((circuit, index): Draft => {
    const at = `${where}[${index}]`;
    const family = familyOf(circuit, families, at);
    const parameters = parametersOf(circuit, family, buses, at);
    const pins = family.wiring(parameters);
    assertPins(circuit, pins, at);
    return { circuit, where: at, family, parameters, pins, shares: sharesOf(circuit, pins, new Set(buses.keys()), at) };
  });
  const batteries = drafts.filter(({ family }) => family.traits.kind === "battery");
  if (batteries.length > 1) {
    throw new BadInput({
      code: "circuit:two-batteries",
      where: `${batteries[1]?.where ?? where}.family`,
      message: "a car has one battery; expected at most one circuit of family battery-crank",
    });
  }
  const shared = drafts.flatMap(({ shares }) => shares);
  return drafts.map((draft) => {
    if (draft.family.traits.kind !== "reference") return draft;
    const used = shared.filter(({ bus }) => bus === draft.circuit.id);
    return { ...draft, pins: draft.pins.filter(({ pin }) => pin === "ref" || used.some(({ busPin }) => busPin === pin)) };
  });
}

/** Lays a bus' own wires: from its module pin over the splices where branches leave; nothing where all join in the module. */
function layBus(draft: Draft, users: readonly Share[], elements: Element[]): PinPath[] {
  return draft.pins.map((spec): PinPath => {
    const own = users.filter(({ busPin }) => busPin === spec.pin);
    const splices = [...new Set(own.map(({ at }) => at).filter((at) => at !== "module"))].sort();
    const inside = pinNode(draft.circuit.id, spec.pin, "inside");
    if (own.length > 0 && splices.length === 0) {
      const places = new Map([["module", inside]]);
      return { pin: spec.pin, role: spec.role, origin: spec.origin, joins: null, inside, part: inside, steps: [], places };
    }
    return layPath(draft.circuit.id, spec, [...(draft.circuit.inline ?? []), ...splices], null, elements);
  });
}

function joinedAt(share: Share, buses: ReadonlyMap<string, readonly PinPath[]>): JoinedAt {
  const path = buses.get(share.bus)?.find(({ pin }) => pin === share.busPin) as PinPath;
  const before = new Map<string, string>();
  for (const [place, node] of path.places) {
    before.set(place, node);
    if (place === share.at) break;
  }
  return { bus: share.bus, at: share.at, before, node: share.at === "module" ? path.inside : (path.places.get(share.at) as string) };
}

function buildCircuit(draft: Draft, paths: readonly PinPath[], shared: ReadonlySet<Pin>, elements: Element[]): CircuitModel {
  const { circuit, family, parameters, pins, shares } = draft;
  const { origins } = statedParameters(circuit.with);
  const supplies: string[] = [];
  elements.push(...layShorts(circuit.id, paths));
  const pathOfPin = (pin: Pin): PinPath | undefined => paths.find((path) => path.pin === pin);
  const resistor: CircuitBuilder["resistor"] = (id, a, b, ohms, powered) => {
    elements.push({ kind: "resistor", id: elementName(circuit.id, id), a, b, ohms, ...(powered === undefined ? {} : { powered }) });
  };
  const inside = (pin: Pin): string => pathOfPin(pin)?.inside ?? pinNode(circuit.id, pin, "inside");
  const supply: CircuitBuilder["supply"] = (id, out, volts, limitAmps) => {
    supplies.push(id);
    elements.push({
      kind: "regulator",
      id: elementName(circuit.id, id),
      out,
      com: MODULE_GROUND,
      volts,
      ohms: SUPPLY_OHMS,
      limitAmps,
      backOhms: SUPPLY_BACK_OHMS,
    });
  };
  const builder: CircuitBuilder = {
    circuit: circuit.id,
    inside,
    part: (pin) => pathOfPin(pin)?.part ?? inside(pin),
    node: (name) => `${circuit.id}:${name}`,
    moduleGround: MODULE_GROUND,
    origin: (parameter) => origins.get(parameter)?.from ?? "family",
    spread: (parameter) => (origins.get(parameter)?.from === "family" ? null : (origins.get(parameter)?.spread ?? null)),
    sharesPin: (pin) => shared.has(pin),
    add: (element) => elements.push({ ...element, id: elementName(circuit.id, element.id) }),
    resistor,
    electronics: (id, a, b, ohms) => elements.push({ kind: "resistor", id: elementName(circuit.id, id), a, b, ohms, electronics: true }),
    supply,
    reference: (id, pin, volts, limitAmps) => {
      if (!shared.has(pin)) supply(id, inside(pin), volts, limitAmps);
    },
    lowReference: (pin, id = "low-side") => {
      if (!shared.has(pin)) resistor(id, inside(pin), MODULE_GROUND, LOW_SIDE_OHMS);
    },
  };
  const built = family.build(builder, parameters);
  return {
    id: circuit.id,
    title: circuit.title ?? family.title,
    circuit,
    family,
    parameters,
    built,
    pins,
    paths,
    inline: circuit.inline ?? [],
    shares,
    supplies,
  };
}

/**
 * Builds the network of a file's circuits at nominal values, key on, everything plugged. Buses are laid first, since the
 * wires of other circuits leave them.
 *
 * @param around the rest of the car, where these are not all of its circuits
 * @param families the families to choose from
 * @throws BadInput for an unknown family, a wrong parameter, a pin the family does not have, or a share that leads nowhere
 */
export function buildModel(circuits: readonly Circuit[], where = "circuits", around: CarAround = {}, families: readonly Family[] = FAMILIES): Model {
  const elements = carElements(around.strapOhms);
  const drafts = draftsOf(circuits, families, where);
  const users = drafts.flatMap(({ shares }) => shares);
  const buses = new Map<string, readonly PinPath[]>();
  for (const draft of drafts) {
    if (draft.family.traits.kind !== "reference") continue;
    buses.set(
      draft.circuit.id,
      layBus(
        draft,
        users.filter(({ bus }) => bus === draft.circuit.id),
        elements,
      ),
    );
  }
  const models = drafts.map((draft): CircuitModel => {
    const laid = buses.get(draft.circuit.id);
    if (laid !== undefined) {
      const joined = new Set<Pin>(users.filter(({ bus }) => bus === draft.circuit.id).map(({ busPin }) => busPin));
      return buildCircuit(draft, laid, joined, elements);
    }
    const places = [...(draft.circuit.inline ?? []), "sensor"];
    const paths = draft.pins.map((spec) => {
      const share = draft.shares.find(({ pin }) => pin === spec.pin);
      return layPath(draft.circuit.id, spec, places, share === undefined ? null : joinedAt(share, buses), elements);
    });
    return buildCircuit(draft, paths, new Set(draft.shares.map(({ pin }) => pin)), elements);
  });
  const carId = models.find(({ family }) => family.traits.kind === "battery")?.id ?? around.carId ?? "car";
  const alike = alikePairs(
    models.map(({ id, circuit, paths, built }) => ({ id, circuit, paths, still: standsStill(built) })),
    where,
  );
  const pathIn = (id: string, pin: Pin): PinPath => models.find((model) => model.id === id)?.paths.find((path) => path.pin === pin) as PinPath;
  elements.push(...layCrossings(alike, pathIn));
  const others = new Set(around.others ?? []);
  return { circuits: models, network: compileNetwork(elements), carId, others, alike, extended: new BoundedCache(EXTENDED_BYTES) };
}

/** Whether a circuit moves in no state of the engine. */
function standsStill({ world, drive }: BuiltFamily): boolean {
  return (["on", "crank", "idle"] as const).every((key) => drive(situationOf(world, { key }, world.nominal)).hertz === 0);
}

/** Whether a circuit moves in some state of the engine, or under some stimulus. */
export function moves({ world, drive }: BuiltFamily): boolean {
  const stimuli = ["none", "tap", "command", "steel", "hand-turn"] as const;
  return (["on", "crank", "idle"] as const).some((key) =>
    stimuli.some((kind) => drive(situationOf(world, { key, stimulus: { kind } }, world.nominal)).swing !== null),
  );
}

/** The circuit with an id; with none given, the only one. */
export function circuitOf(model: Model, id: string | undefined, where: string): CircuitModel {
  const known = model.circuits.map((circuit) => circuit.id).join(", ");
  if (id === undefined) {
    const [only, second] = model.circuits;
    if (only && !second) return only;
    throw new BadInput({ code: "circuit:missing", where, message: `says no circuit; expected one of ${known}` });
  }
  const found = model.circuits.find((circuit) => circuit.id === id);
  if (found) return found;
  throw new BadInput({ code: "circuit:unknown", where, message: `no circuit is called "${id}"; expected one of ${known}` });
}

/** The path of a pin; undefined when the circuit has no such pin. */
export function pathOf(circuit: CircuitModel, pin: Pin): PinPath | undefined {
  return circuit.paths.find((path) => path.pin === pin);
}

/** Connectors of a circuit where something can be unplugged, from the module outwards. */
export function connectorsOf(circuit: CircuitModel): readonly string[] {
  const places = new Set(circuit.paths.flatMap(({ steps }) => steps.flatMap((step) => (step.kind === "contact" ? [step.place] : []))));
  return ["module", ...circuit.inline, "sensor"].filter((place) => places.has(place));
}
