import { knownValue, placeIn, type Setup } from "@fox-lamp/language";
import type { Conditions } from "../../procedures";
import type { NamedReading } from "./observe";

/** What is known of each circuit's sensed quantity for the whole job, by circuit id. */
export type Known = Readonly<Record<string, Conditions>>;

/** What is read from the module in some state of a circuit. */
export interface OnScreen {
  readonly circuit: string;
  readonly meter: string;
  readonly setup: Setup;
}

/** Of what is stated for a circuit, that which is not known for the whole job anyway. */
export function statedBesides(circuit: string, { truth }: Setup, known: Known): (readonly [string, number | string])[] {
  const usual: Readonly<Record<string, unknown>> = known[circuit] ?? {};
  return Object.entries(truth ?? {}).flatMap(([name, value]) => {
    const bare = value === undefined ? undefined : knownValue<number | string>(value);
    return bare === undefined || bare === usual[name] ? [] : [[name, bare] as const];
  });
}

/** The screen a module value is read from: the state of the car, and what is stated of the circuit itself. */
export interface Screen {
  readonly state: string;
  readonly circuit: string;
  readonly stated: string;
}

/**
 * The screen a module value is read from; null for what is not read from the module. A connector is moved, and the key turned, for all circuits; a part is
 * swept, tapped or driven, and something added, only for its own.
 */
export function screenOf({ circuit, meter, setup }: OnScreen, known: Known): Screen | null {
  if (meter !== "scan") return null;
  const { truth: _truth, stimulus, open = [], ...state } = setup;
  const kind = stimulus?.kind ?? "none";
  const at = stimulus?.at === undefined ? null : placeIn(circuit, stimulus.at);
  const own = (kind !== "none" && kind !== "wiggle") || state.add !== undefined;
  const named = Object.entries({ ...state, key: state.key ?? "on" }).sort(([a], [b]) => (a < b ? -1 : 1));
  const places = open.map((place) => placeIn(circuit, place)).sort();
  return { state: JSON.stringify([named, kind, at, places, own ? circuit : null]), circuit, stated: JSON.stringify(statedBesides(circuit, setup, known)) };
}

/** A go at the car in which values are read from one screen: what is stated of each circuit in it, and what was read. */
export interface Go {
  readonly state: string;
  readonly stated: Map<string, string>;
  readonly read: Set<string>;
}

/** The go that begins with a screen. @param read what is read from it */
export function goWith({ state, circuit, stated }: Screen, ...read: readonly string[]): Go {
  return { state, stated: new Map([[circuit, stated]]), read: new Set(read) };
}

/** Whether a screen is that of a go: the same state of the car, and a circuit that is as it was in it. */
export function isOf(go: Go, { state, circuit, stated }: Screen): boolean {
  return go.state === state && (go.stated.get(circuit) ?? stated) === stated;
}

/**
 * The go a reading is of: the last one where it is another value on its screen, else a new one; null for what is not read from the module.
 * @param last the go so far, which grows
 * @param read what was read: each value once in a go
 */
export function follow(last: Go | null, screen: Screen | null, read: string): Go | null {
  if (screen === null) return null;
  if (last === null || !isOf(last, screen) || last.read.has(read)) return goWith(screen, read);
  last.stated.set(screen.circuit, screen.stated);
  last.read.add(read);
  return last;
}

/**
 * The goes in which readings were taken from the module while a connector was moved: readings that follow one another on one screen, each of another
 * value, are of one go.
 *
 * @param onlyCircuit the circuit of readings that name none
 * @returns for each reading the number of its go; -1 for one that is of none
 */
export function goesOf(readings: readonly NamedReading[], onlyCircuit: string, known: Known): number[] {
  let last: Go | null = null;
  let first = -1;
  return readings.map(({ reading }, number) => {
    const { setup = {}, meter, red, value } = reading;
    const circuit = reading.circuit ?? onlyCircuit;
    const screen = setup.stimulus?.kind === "wiggle" && typeof value === "number" ? screenOf({ circuit, meter, setup }, known) : null;
    const go: Go | null = follow(last, screen, `${circuit} ${red} ${reading.unit ?? ""}`);
    if (go !== last) first = number;
    last = go;
    return go === null ? -1 : first;
  });
}
