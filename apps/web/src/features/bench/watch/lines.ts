import type { CircuitView, PinView } from "@fox-lamp/core";
import { type Expect, type Measurement, pinWord, placeWord, type Setup } from "@fox-lamp/language";
import { messages } from "../../../messages";

const t = messages.watch;
const ROLES: readonly PinView["role"][] = ["reference", "feed", "signal", "ground", "return", "power-ground"];
const MOST_LINES = 3;

/** One line that is watched. */
export interface Line {
  readonly name: string;
  readonly measurement: Measurement;
  readonly isSignal: boolean;
}

/** Feed, signal and ground of a circuit at its sensor: what is read together while something is moved. */
export function linesOf(circuit: CircuitView, setup: Setup): Line[] {
  const ordered = ROLES.flatMap((role) => circuit.pins.filter((pin) => pin.role === role));
  const first = (roles: readonly PinView["role"][]): PinView[] => ordered.filter(({ role }) => roles.includes(role)).slice(0, 1);
  const chosen = [...first(["reference", "feed"]), ...first(["signal"]), ...first(["ground", "return", "power-ground"])];
  const pins = chosen.length > 0 ? chosen : circuit.pins.slice(0, MOST_LINES);
  return pins.map(({ pin, places, role }) => ({
    name: pinWord(pin),
    isSignal: role === "signal",
    measurement: { circuit: circuit.id, meter: "volts-dc", red: `${pin}@${places.includes("sensor") ? "sensor" : "module"}`, black: "bat-", setup },
  }));
}

/** A line's measurement while a place is moved; null where nothing is. */
export function movedAt(measurement: Measurement, at: string | null): Measurement {
  return at === null ? measurement : { ...measurement, setup: { ...measurement.setup, stimulus: { kind: "wiggle", at } } };
}

/** Places of a circuit that can be moved, the loom last. */
export function movedPlaces(circuit: CircuitView): string[] {
  return [...new Set([...circuit.pins.flatMap(({ places }) => places.filter((name) => !name.startsWith("S"))), "loom"])];
}

/** A place that is moved, in words. */
export function placeText(place: string | null): string {
  if (place === null) return t.untouched;
  return place === "loom" ? t.loom : placeWord(place).replace(/^at (the )?/u, "");
}

/** Whether a value has left its window. */
export function isOutside(value: number | null | undefined, window: Expect | null | undefined): boolean {
  if (value == null || !window) return false;
  return (window.low !== null && value < window.low) || (window.high !== null && value > window.high);
}
