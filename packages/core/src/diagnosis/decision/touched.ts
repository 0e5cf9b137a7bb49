import { type KeyState, meterWords, PIN_ROLES, type Pin, parseUnit, placeIn, type Reading, type RepairUnit } from "@fox-lamp/language";
import type { CircuitModel } from "../../circuit";
import { isInPlug, offPlugs } from "../inference/found-off";
import type { Inference } from "../inference/inference";
import type { NamedReading } from "../inference/observe";
import type { PossibleTest } from "../value-of-information/possible-tests";
import { type RankedTest, rankedAlone } from "../value-of-information/rank";

/** The pin a lead is on, as `circuit:pin`, or the fixed point it is on; null for places. */
function pinOf(point: string | null | undefined, circuit: string): string | null {
  if (point === null || point === undefined) return null;
  if (!point.includes("@")) return point;
  const [left = ""] = point.split("@");
  return left.includes(":") ? left : `${circuit}:${left}`;
}

/** A battery is judged while the starter loads it: one that is merely run down reads low at rest as well. */
function loads(point: string, key: KeyState | undefined): boolean {
  return point !== "bat+" || key === "crank";
}

/**
 * The pins of a circuit no lead has been on yet. What the module says about itself is not enough for a verdict: two faults
 * together can look like a third one in its data, and a practitioner proves feed, ground and signal at the connector before
 * condemning anything between them.
 */
function untouchedPins(circuit: CircuitModel, readings: readonly NamedReading[], onlyCircuit: string): ReadonlySet<string> {
  const wanted = new Set<string>();
  for (const { pin, role } of circuit.pins) if (PIN_ROLES[role].touched && reachable(circuit, pin)) wanted.add(`${circuit.id}:${pin}`);
  for (const { reading } of readings) {
    if (!withLeads(reading)) continue;
    const owner = reading.circuit ?? onlyCircuit;
    for (const lead of [reading.red, reading.black]) wanted.delete(pinOf(lead, owner) ?? "");
  }
  return wanted;
}

/** What a lead must have been on before battery or a ground strap is condemned: the post or the metal itself. */
function fixedPointOf(unit: RepairUnit): string | null {
  if (unit.kind === "battery") return "bat+";
  return unit.kind === "ground" ? unit.ground : null;
}

/**
 * Points a lead must have been on before a unit may be condemned and has not been on yet, as {@link pinOf} names them.
 *
 * @param unit e.g. `ect/wire:sig`; nothing is asked for what lies outside the circuits
 */
export function untouchedPoints(inference: Inference, unit: string, readings: readonly NamedReading[], onlyCircuit: string): ReadonlySet<string> {
  const parsed = parseUnit(unit);
  if (parsed === null || parsed.kind === "outside") return new Set();
  const fixed = fixedPointOf(parsed);
  if (fixed !== null) {
    const touched = readings.some(
      ({ reading }) => withLeads(reading) && (reading.red === fixed || reading.black === fixed) && loads(fixed, reading.setup?.key),
    );
    return new Set(touched ? [] : [fixed]);
  }
  const circuit = inference.circuits.find((candidate) => candidate.id === parsed.circuit);
  if (circuit === undefined || (isOfPart(parsed) && onPart(parsed.circuit, readings, onlyCircuit))) return new Set();
  if (isReadOpen(lineOf(circuit, parsed), readings, onlyCircuit)) return new Set();
  // Wrong with the plug off and right with it home: no lead tells more of its terminals.
  if (offPlugs(readings, onlyCircuit).some((plug) => plug.readSince && isInPlug(unit, plug))) return new Set();
  const pins = untouchedPins(circuit, readings, onlyCircuit);
  if (parsed.kind !== "wire" && parsed.kind !== "contact") return pins;
  const own = `${circuit.id}:${parsed.pin}`;
  // The heater has a feed and a control of its own: what the sensor beside it stands on says nothing of them.
  if (circuit.pins.some(({ pin, role }) => pin === parsed.pin && HEATER_ROLES.includes(role))) return new Set();
  if (isolated(own, readings, onlyCircuit)) return new Set();
  // What feeds the circuit and what leads its current back, besides the line itself: two of them together can look like a third.
  const needed = new Set(
    circuit.pins
      .filter(({ pin, role }) => (PIN_ROLES[role].supply || PIN_ROLES[role].ground) && isOfTrack(pin, parsed.pin))
      .map(({ pin }) => `${circuit.id}:${pin}`),
  );
  return new Set([...pins].filter((pin) => pin === own || needed.has(pin)));
}

/** Whether a pin belongs to the same of two tracks as another one, or to both: the first track's reference says nothing of the second's wiper. */
function isOfTrack(pin: string, other: string): boolean {
  const [track, own] = [pin, other].map((name) => /\d$/u.exec(name)?.[0]);
  return track === undefined || own === undefined || track === own;
}

const HEATER_ROLES: readonly string[] = ["heater-feed", "heater-control"];

/** The pins of the line a unit is a piece of, or that it makes, as far as it ends at the sensor's plug; none for a terminal in that plug itself. */
function lineOf(circuit: CircuitModel, unit: RepairUnit): string[] {
  if (unit.kind === "wire" || (unit.kind === "contact" && unit.place !== "sensor")) return [`${circuit.id}:${unit.pin}`];
  if (unit.kind !== "module" || unit.stage !== "ref") return [];
  return circuit.pins.flatMap(({ pin, role }) => (PIN_ROLES[role].shared === "ref" ? [`${circuit.id}:${pin}`] : []));
}

/**
 * Whether a line was read at the sensor's open plug against a fixed point of the car: the sensor is out of it, and no other pin of the plug has to do
 * with what was read.
 */
function isReadOpen(line: readonly string[], readings: readonly NamedReading[], onlyCircuit: string): boolean {
  return readings.some(({ reading }) => {
    const owner = reading.circuit ?? onlyCircuit;
    const opened = (reading.setup?.open ?? []).some((place) => placeIn(owner, place) === placeIn(owner, "sensor"));
    if (!opened || reading.meter !== "volts-dc") return false;
    const leads = [reading.red, reading.black ?? ""];
    const on = leads.filter((lead) => lead.endsWith("@sensor") && line.includes(pinOf(lead, owner) ?? ""));
    return on.length === 1 && leads.some((lead) => lead !== "" && !lead.includes("@"));
  });
}

/** Whether a line was measured with both its ends free: then nothing else in the circuit speaks. */
function isolated(own: string, readings: readonly NamedReading[], onlyCircuit: string): boolean {
  return readings.some(({ reading }) => {
    const owner = reading.circuit ?? onlyCircuit;
    const open = (reading.setup?.open ?? []).map((place) => place.split(":").at(-1));
    const free = open.includes("module") && open.includes("sensor");
    return free && withLeads(reading) && (pinOf(reading.red, owner) === own || pinOf(reading.black, owner) === own);
  });
}

function isOfPart({ kind }: RepairUnit): boolean {
  return kind === "sensor" || kind === "coil" || kind === "heater";
}

/** Whether the part itself was measured, at its own terminals: no lead elsewhere tells more of it. */
function onPart(circuit: string, readings: readonly NamedReading[], onlyCircuit: string): boolean {
  const unplugged = `${circuit}:sensor`;
  return readings.some(({ reading }) => {
    if (!withLeads(reading)) return false;
    const owner = reading.circuit ?? onlyCircuit;
    // What an unplugged sensor changes on a shared wire is its own doing.
    return owner === circuit ? reading.red.endsWith("@part") : (reading.setup?.open ?? []).includes(unplugged);
  });
}

/** Whether a reading was taken with leads on the circuit; a clamp goes around a wire and says nothing of its volts. */
function withLeads({ meter }: Reading): boolean {
  return meterWords(meter).leads && meter !== "amps-dc";
}

function reachable(circuit: CircuitModel, pin: Pin): boolean {
  return circuit.paths.some((path) => path.pin === pin && (path.places.has("sensor") || path.places.has("module")));
}

/** Whether the module's own plug of a circuit was off in some reading, or looked into. */
function moduleOpened(circuit: string, readings: readonly NamedReading[], onlyCircuit: string): boolean {
  return readings.some(({ reading }) =>
    (reading.setup?.open ?? []).some((place) => placeIn(reading.circuit ?? onlyCircuit, place) === placeIn(circuit, "module")),
  );
}

/**
 * Tests with the module's own plug off, owed before a module is condemned: what it reads wrong may be its terminals, and a module is the
 * dearest part of all. Empty where the plug was off, where another unit leads, or where nothing can be done there.
 */
export function plugOffTests(
  tests: readonly PossibleTest[],
  unit: string,
  readings: readonly NamedReading[],
  onlyCircuit: string,
  units: number,
  most: number,
): RankedTest[] {
  const parsed = parseUnit(unit);
  if (parsed?.kind !== "module" || moduleOpened(parsed.circuit, readings, onlyCircuit)) return [];
  const place = placeIn(parsed.circuit, "module");
  const ranked = tests.flatMap((test) => {
    const { circuit, setup } = test.offered.procedure;
    if (!(setup.open ?? []).some((open) => placeIn(circuit, open) === place)) return [];
    return [rankedAlone(test, new Float64Array(units).fill(1), (gainBits) => (gainBits + LEAST_TOLD) / test.minutes)];
  });
  return ranked.sort((a, b) => b.score - a.score).slice(0, most);
}

/** Bits any look at an opened plug counts for, so that of tests that would tell next to nothing the quickest is done. */
const LEAST_TOLD = 0.01;

/** Tests that put a lead on pins nobody has touched yet, those that cover most per minute first. @param units how many units there are */
export function touchingTests(tests: readonly PossibleTest[], pins: ReadonlySet<string>, units: number, most: number): RankedTest[] {
  const touching = tests.flatMap((test) => {
    const { circuit, red, black, meter } = test.offered.procedure;
    if (meter === "scan" || meter === "ohms" || meter === "continuity" || meter === "amps-dc") return [];
    const { key } = test.offered.procedure.setup;
    const covered = [pinOf(red, circuit), pinOf(black, circuit)].filter((pin) => pin !== null && pins.has(pin) && loads(pin, key)).length;
    return covered === 0 ? [] : [{ test, score: covered / test.minutes }];
  });
  touching.sort((a, b) => b.score - a.score);
  return touching.slice(0, most).map(({ test, score }) => rankedAlone(test, new Float64Array(units).fill(1), () => score));
}
