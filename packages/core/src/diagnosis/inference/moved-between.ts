import { parsePoint, type Reading } from "@fox-lamp/language";
import { ANYWHERE, type CircuitModel, fixedWorld } from "../../circuit";

/** Two readings of one place further apart than this are of two positions, shares of full scale; a switch or a Hall output is either low or high. */
const APART = { position: 0.06, level: 0.3 } as const;
/** A track that is sound ends this far from its ground and its reference, as shares of full scale: what lies beyond is no position. */
const STOPS = { low: 0.03, high: 0.97 } as const;

/** What data show a pedal or a throttle in: of its reference, or of how far it is open, which goes from end to end. */
const PERCENT = "%";

/** Whether the engine turns, which makes a level of its own. */
const TURNING: readonly (string | undefined)[] = ["crank", "idle", "rev"];

/** Whether a lead is on a signal of the circuit. */
function isOnSignal({ id, paths }: CircuitModel, lead: string): boolean {
  const point = parsePoint(lead);
  return point?.kind === "pin" && (point.circuit ?? id) === id && paths.some(({ pin, role }) => pin === point.pin && role === "signal");
}

/** What a hand can move in a second, where nobody said where it stood when a signal was read; null for any other reading. */
function movedByHand(circuit: CircuitModel, reading: Reading): keyof typeof APART | null {
  const { world } = circuit.built;
  const { setup = {}, meter, unit, value, symptom } = reading;
  if (world.quantity !== "position" && world.quantity !== "level") return null;
  if (typeof value !== "number" || symptom !== undefined || (meter !== "volts-dc" && meter !== "scan")) return null;
  if (unit !== undefined && unit !== "V" && !(unit === PERCENT && world.quantity === "position")) return null;
  if (setup.stimulus !== undefined || (setup.open ?? []).length > 0 || (setup.add ?? []).length > 0) return null;
  if (fixedWorld(world, setup) !== null || (world.quantity === "level" && TURNING.includes(setup.key))) return null;
  return isOnSignal(circuit, reading.red) ? world.quantity : null;
}

/** The same measurement in the same state, as far as it was said. */
function nameOf({ circuit, meter, red, black, setup, record, coupling, unit = "V", symptom }: Reading): string {
  return JSON.stringify([circuit, meter, red, black, setup, record, coupling, unit, symptom]);
}

/**
 * Readings with what two of them say of each other: whoever reads a pedal, a throttle or a switch twice and gets two values moved it in between, and
 * did not say so. Where a position stood is then not known, of none of them; a level is the lower of two or the higher.
 *
 * @param circuitOf the circuit a reading is of; null for none
 */
export function movedBetween(readings: readonly Reading[], circuitOf: (reading: Reading) => CircuitModel | null): readonly Reading[] {
  const groups = new Map<string, number[]>();
  readings.forEach((reading, index) => {
    if (typeof reading.value !== "number") return;
    const name = nameOf(reading);
    groups.set(name, [...(groups.get(name) ?? []), index]);
  });
  const stated = new Map<number, Reading>();
  for (const group of groups.values()) {
    const own = group.flatMap((index) => readings[index] ?? []);
    const [first] = own;
    if (first === undefined || own.every(({ value }) => value === first.value)) continue;
    const circuit = circuitOf(first);
    const quantity = circuit === null ? null : movedByHand(circuit, first);
    if (circuit === null || quantity === null) continue;
    const full = first.unit === PERCENT ? 100 : circuit.built.fullScaleVolts;
    const values = own.map(({ value }) => value as number);
    const [least, most] = [Math.min(...values), Math.max(...values)];
    if (most - least < APART[quantity] * full || least < -STOPS.low * full || most > full * (1 + STOPS.low)) continue;
    if (quantity === "position" && first.unit !== PERCENT && (least < STOPS.low * full || most > STOPS.high * full)) continue;
    group.forEach((index, place) => {
      const reading = own[place] as Reading;
      const truth =
        quantity === "position" ? { position: ANYWHERE } : { level: (values[place] as number) > 0.5 * (least + most) ? ("high" as const) : ("low" as const) };
      stated.set(index, { ...reading, setup: { ...reading.setup, truth: { ...reading.setup?.truth, ...truth } } });
    });
  }
  return stated.size === 0 ? readings : readings.map((reading, index) => stated.get(index) ?? reading);
}
