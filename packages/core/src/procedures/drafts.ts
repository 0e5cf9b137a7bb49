import { type Instrument, inSentence, type Pin, type PinRole, placeWord, type Setup, type Truth } from "@fox-lamp/language";
import { type CircuitModel, connectorsOf, engineOf, type PinPath, type PinSpec, situationOf } from "../circuit";
import { CAUTIONS, PROVES } from "../instruments";
import type { Procedure, ScopeSetting } from "./procedure";

/** What is known independently of the circuit while the tests are done, by quantity. */
export type Conditions = { readonly [K in keyof Pick<Truth, "temperature" | "pressure" | "position">]: number | undefined };

/** Which schools a shop follows, as far as they change what is offered. */
export interface Policy {
  /** How a signal is substituted: with a fused wire, a resistor, or either. */
  readonly bypass: "wire" | "resistor" | "both";
  /** Whether resistance tests are offered at all. */
  readonly resistance: boolean;
}

export const USUAL_POLICY: Policy = { bypass: "both", resistance: true };

export type Draft = Omit<Procedure, "id" | "circuit" | "black" | "cautions" | "needs" | "unit" | "record" | "scope"> & {
  readonly black?: string;
  readonly unit?: string;
  readonly record?: boolean;
  readonly scope?: ScopeSetting;
  readonly cautions?: readonly string[];
  readonly needs?: readonly Instrument[];
};

/** A state in which the signal says something: what to set, in words and minutes. */
export interface State {
  readonly setup: Setup;
  readonly how: string;
  readonly minutes: number;
}

/** What the generators know of a circuit. */
export interface Bench {
  readonly circuit: CircuitModel;
  readonly policy: Policy;
  readonly part: string;
  readonly connectors: readonly string[];
  /** States of the sensed quantity with the engine standing, under which levels are read. */
  readonly states: readonly State[];
  /** The first of them, without a stimulus: the setup of tests that are not about the signal. */
  readonly plain: Setup;
  readonly moves: { readonly still: boolean; readonly turning: boolean; readonly running: boolean; readonly tapped: boolean };
  readonly ofRole: (...roles: PinRole[]) => readonly PinSpec[];
  readonly path: (pin: Pin) => PinPath;
}

/** Places of a pin's path a lead can touch with everything plugged. */
export function pluggedPlaces(path: PinPath): readonly string[] {
  return [...path.places.keys()].filter((place) => place !== "part");
}

function statesOf(circuit: CircuitModel, conditions: Conditions): State[] {
  const { world } = circuit.built;
  const { quantity } = world;
  const states: State[] = [];
  if (quantity === "temperature" || quantity === "pressure") {
    const known = conditions[quantity];
    states.push({ setup: known === undefined ? {} : { truth: { [quantity]: known } }, how: "", minutes: 0 });
  }
  if (quantity === "flow" || quantity === "none") states.push({ setup: {}, how: "", minutes: 0 });
  for (const settable of world.settable) {
    const truth: Truth = quantity === "level" ? { level: settable.value > 0.5 ? "high" : "low" } : { [quantity]: settable.value };
    const stimulus = settable.stimulus ? { stimulus: settable.stimulus } : {};
    states.push({ setup: { ...stimulus, truth }, how: settable.how, minutes: settable.minutes });
  }
  return states;
}

/** Gathers what generators need. */
export function benchOf(circuit: CircuitModel, conditions: Conditions, policy: Policy): Bench {
  const { world } = circuit.built;
  const rate = (setup: Setup): number => circuit.built.drive(situationOf(world, setup, world.nominal)).hertz;
  const still = rate({}) > 0;
  const states = circuit.family.traits.recorded ? [{ setup: {}, how: "", minutes: 0 }] : statesOf(circuit, conditions);
  const [first] = states;
  const plain = first === undefined || first.setup.stimulus || world.quantity === "level" ? {} : first.setup;
  return {
    circuit,
    policy,
    part: inSentence(circuit.family.part),
    connectors: connectorsOf(circuit),
    states: states.length === 0 ? [{ setup: {}, how: "", minutes: 0 }] : states,
    plain,
    moves: { still, turning: rate({ key: "crank" }) > 0, running: rate({ key: "idle" }) > 0, tapped: !still && rate({ stimulus: { kind: "tap" } }) > 0 },
    ofRole: (...roles) => circuit.pins.filter(({ role }) => roles.includes(role)),
    path: (pin) => circuit.paths.find((path) => path.pin === pin) as PinPath,
  };
}

/** Cautions that come with a state of the engine or a stimulus. */
export function cautionsOf(setup: Setup): readonly string[] {
  const { turning, running } = engineOf(setup);
  const list: string[] = [];
  if (running) list.push(CAUTIONS.running);
  else if (turning) list.push(CAUTIONS.crank);
  if (setup.stimulus?.kind === "tap") list.push(CAUTIONS.tap);
  if (setup.stimulus?.kind === "heat") list.push(CAUTIONS.heat);
  if (setup.stimulus?.kind === "command") list.push(CAUTIONS.command);
  return list;
}

/** A test by voltmeter with the usual minutes. */
export function volts(
  technique: Draft["technique"],
  title: string,
  red: string,
  black: string,
  setup: Setup,
  reach: readonly string[],
  extra: Partial<Draft> = {},
): Draft {
  const helper: Instrument[] = engineOf(setup).key === "crank" ? ["helper"] : [];
  return {
    technique,
    title,
    meter: "volts-dc",
    red,
    black,
    setup,
    minutes: 0.7,
    reach,
    opens: setup.open ?? [],
    proves: PROVES.plugged,
    ...extra,
    needs: [...(extra.needs ?? ["meter"]), ...helper],
    cautions: [...(extra.cautions ?? []), ...cautionsOf(setup)],
  };
}

/** A look at the module's data for one pin. */
export function scan(pin: Pin, setup: Setup, title: string, extra: Partial<Draft> = {}): Draft {
  return {
    technique: "T1",
    title,
    meter: "scan",
    red: `${pin}@module`,
    setup,
    minutes: 0.5,
    reach: [],
    opens: [],
    proves: PROVES.scan,
    ...extra,
    needs: extra.needs ?? ["scan"],
    cautions: [...(extra.cautions ?? []), ...cautionsOf(setup)],
  };
}

/** A resistance test: key off, connectors open. */
export function ohms(title: string, red: string, black: string, setup: Setup, reach: readonly string[], proves: string): Draft {
  return {
    technique: "T7",
    title,
    meter: "ohms",
    red,
    black,
    setup,
    minutes: 0.9,
    reach,
    opens: setup.open ?? [],
    needs: ["meter"],
    proves,
    cautions: [CAUTIONS.ohms],
  };
}

const STATE_WORDS: Readonly<Record<string, string>> = { on: "key on", crank: "cranking", idle: "at idle", rev: "at raised speed" };

/** The state of the engine or the stimulus as people say it. */
export function stateWord(setup: Setup): string {
  switch (setup.stimulus?.kind) {
    case "tap":
      return "while the block is tapped";
    case "hand-turn":
      return "while the engine is turned by hand";
    case "command":
      return "on command";
    default:
      return STATE_WORDS[setup.key ?? "on"] ?? "";
  }
}

/** "Signal at the sensor, released, ..." */
export function titled(subject: string, place: string | null, how: string): string {
  return [place === null ? subject : `${subject} ${placeWord(place)}`, how].filter((text) => text !== "").join(", ");
}
