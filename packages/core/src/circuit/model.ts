import { BadInput, type Circuit, type Pin, parseOrThrow } from "@fox-lamp/language";
import { type CompiledNetwork, compileNetwork, type Element } from "../network";
import { type CircuitBuilder, elementName, layPaths, layShorts, MODULE_GROUND, type PinPath, pinNode } from "./builder";
import { CAR_ELEMENTS } from "./car";
import { FAMILIES, familyById } from "./families";
import type { BuiltFamily, Family } from "./family";

/** A circuit with its family, checked parameters and laid-out pins. */
export interface CircuitModel {
  readonly id: string;
  readonly title: string;
  readonly circuit: Circuit;
  readonly family: Family;
  readonly parameters: unknown;
  readonly built: BuiltFamily;
  readonly paths: readonly PinPath[];
  readonly inline: readonly string[];
  /** Local ids of the module's supplies, off with the key. */
  readonly supplies: readonly string[];
}

/** Several circuits on one battery, one module and one set of grounds: one network. */
export interface Model {
  readonly circuits: readonly CircuitModel[];
  readonly network: CompiledNetwork;
}

/** Resistance of an unpowered module supply towards ground, ohms. */
export const SUPPLY_BACK_OHMS = 1e4;
const SUPPLY_OHMS = 0.2;

function buildCircuit(circuit: Circuit, where: string, elements: Element[]): CircuitModel {
  const family = familyById(circuit.family);
  if (family === null) {
    throw new BadInput({
      code: "circuit:unknown-family",
      where: `${where}.family`,
      message: `"${circuit.family}" is not a family of this version; expected ${FAMILIES.map((known) => known.id).join(", ")}`,
    });
  }
  const parameters = parseOrThrow(family.parameters, circuit.with ?? {}, `${where}.with`);
  for (const [field, record] of [
    ["colours", circuit.colours],
    ["cavities", circuit.cavities],
  ] as const) {
    const stray = Object.keys(record ?? {}).find((pin) => !(family.pins as readonly string[]).includes(pin));
    if (stray !== undefined) {
      throw new BadInput({
        code: "circuit:unknown-pin",
        where: `${where}.${field}.${stray}`,
        message: `${circuit.id} has no pin "${stray}"; expected ${family.pins.join(", ")}`,
      });
    }
  }
  const inline = circuit.inline ?? [];
  const { paths, elements: laid } = layPaths(circuit.id, family.pins, inline);
  elements.push(...laid, ...layShorts(circuit.id, paths));
  const supplies: string[] = [];
  const builder: CircuitBuilder = {
    circuit: circuit.id,
    inside: (pin) => pinNode(circuit.id, pin, "inside"),
    part: (pin) => pinNode(circuit.id, pin, "part"),
    node: (name) => `${circuit.id}:${name}`,
    moduleGround: MODULE_GROUND,
    add: (element) => elements.push({ ...element, id: elementName(circuit.id, element.id) }),
    supply: (id, out, volts, limitAmps) => {
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
    },
  };
  const built = family.build(builder, parameters);
  return { id: circuit.id, title: circuit.title ?? family.title, circuit, family, parameters, built, paths, inline, supplies };
}

/**
 * Builds the network of a file's circuits at nominal values, key on, everything plugged.
 *
 * @throws BadInput for an unknown family, a wrong parameter, or a pin the family does not have
 */
export function buildModel(circuits: readonly Circuit[], where = "circuits"): Model {
  const elements: Element[] = [...CAR_ELEMENTS];
  const models = circuits.map((circuit, index) => buildCircuit(circuit, `${where}[${index}]`, elements));
  return { circuits: models, network: compileNetwork(elements) };
}

/** The circuit with an id; with none given, the only one. */
export function circuitOf(model: Model, id: string | undefined, where: string): CircuitModel {
  if (id === undefined) {
    const [only, second] = model.circuits;
    if (only && !second) return only;
    throw new BadInput({
      code: "circuit:missing",
      where,
      message: `says no circuit; expected one of ${model.circuits.map((circuit) => circuit.id).join(", ")}`,
    });
  }
  const found = model.circuits.find((circuit) => circuit.id === id);
  if (found) return found;
  throw new BadInput({
    code: "circuit:unknown",
    where,
    message: `no circuit is called "${id}"; expected one of ${model.circuits.map((circuit) => circuit.id).join(", ")}`,
  });
}

/** The path of a pin; undefined when the family has no such pin. */
export function pathOf(circuit: CircuitModel, pin: Pin): PinPath | undefined {
  return circuit.paths.find((path) => path.pin === pin);
}
