import { type Circuit, knownValue, type Reading, type SpecCurve } from "@fox-lamp/language";
import { dividerLowerOhms } from "../arithmetic";
import { thermistorCircuit } from "./pull-up";
import { curveSlotOf } from "./use";

/** A reading as it stands on a circuit's curve: what is shown, and what was sensed where the technician knows it. */
export interface ReadingOnCurve {
  readonly reading: string;
  readonly shown: number;
  readonly sensed: number | null;
}

const SENSES: Readonly<Record<string, "temperature" | "pressure" | "position">> = {
  temperature: "temperature",
  pressure: "pressure",
  position: "position",
};

/** Ohms of a thermistor behind a reading of its signal: the divider with the module's pull-up; null at either end of it. */
function thermistorOf(circuit: Circuit, volts: number): number | null {
  const made = thermistorCircuit(circuit);
  if (made === null) return null;
  const { pullOhms, supplyVolts } = made;
  return volts <= 0.01 * supplyVolts || volts >= 0.99 * supplyVolts ? null : dividerLowerOhms(supplyVolts, pullOhms, volts).value;
}

/** What a reading shows of a kind of curve, in the curve's own unit; null where it shows nothing of it. */
function shownBy(circuit: Circuit, kind: SpecCurve["kind"], { meter, red, black, value, setup = {} }: Reading): number | null {
  if (typeof value !== "number" || (setup.add ?? []).length > 0) return null;
  const [pin = "", place] = red.split("@");
  if (!/^sig1?$/u.test(pin)) return null;
  const plugged = (setup.open ?? []).length === 0;
  if (kind === "temperature-ohms") {
    if (meter === "ohms") return place === "part" && !plugged ? value : null;
    return meter === "volts-dc" && plugged && (setup.key ?? "on") === "on" ? thermistorOf(circuit, value) : null;
  }
  if (kind.endsWith("-hertz")) return meter === "hertz" && plugged ? value : null;
  return meter === "volts-dc" && plugged && (black === "bat-" || black?.startsWith("gnd") === true) ? value : null;
}

/** Readings of a circuit that say something of its curve. */
export function readingsOnCurve(circuit: Circuit, readings: readonly (Reading & { readonly id: string })[]): ReadingOnCurve[] {
  const slot = curveSlotOf(circuit.family);
  if (slot === null) return [];
  const sense = SENSES[slot.kind.split("-")[0] ?? ""];
  return readings
    .filter((reading) => reading.circuit === circuit.id)
    .flatMap((reading) => {
      const shown = shownBy(circuit, slot.kind, reading);
      const truth = sense === undefined ? undefined : reading.setup?.truth?.[sense];
      return shown === null ? [] : [{ reading: reading.id, shown, sensed: truth === undefined ? null : knownValue(truth) }];
    });
}
