import type { Reading } from "@fox-lamp/language";
import { movesSensed, type Quantity } from "../../circuit";
import type { Probe } from "../../instruments";

/** What a recording's ends say while what is sensed was moved between them by an amount that nobody knows. */
type Ends = (ends: { readonly min: number; readonly max: number }, reading: Reading, inItsUnit: boolean) => readonly Reading[];

/** One end as a reading of its own, in the state that it was taken in. */
function end({ record: _record, ...reading }: Reading, value: number, setup: Reading["setup"] = reading.setup): Reading {
  return { ...reading, value, setup };
}

const NOTHING: Ends = () => [];
/** Steel passed by and gone: the output was in both its states. */
const BOTH_LEVELS: Ends = ({ min, max }, reading) => [
  end(reading, min, { ...reading.setup, truth: { ...reading.setup?.truth, level: "low" } }),
  end(reading, max, { ...reading.setup, truth: { ...reading.setup?.truth, level: "high" } }),
];

/**
 * Where one end is known: a thermistor's volts and ohms fall while it warms, so the highest was there before, and of its degrees the lowest;
 * a vacuum only takes pressure away.
 */
const ENDS: Readonly<Record<Exclude<Quantity, "none">, Readonly<Record<string, Ends>>>> = {
  level: { steel: BOTH_LEVELS, sweep: BOTH_LEVELS },
  temperature: {
    heat: ({ min, max }, reading, inItsUnit) => [end(reading, inItsUnit ? min : max)],
    cool: ({ min, max }, reading, inItsUnit) => [end(reading, inItsUnit ? max : min)],
  },
  pressure: { vacuum: ({ max }, { setup: { stimulus: _pumped, ...setup } = {}, ...reading }) => [end({ ...reading, setup }, max)], snap: NOTHING },
  flow: { snap: NOTHING },
  // Lowest on the track: a dip shows there.
  position: { sweep: ({ min }, reading) => [end(reading, min)] },
};

/**
 * The readings a recording stands for while what the sensor senses was moved; null where it was not moved, or somebody states where it was held.
 * Its swing is then no fault: only what is known of an end speaks.
 */
export function movedEnds(reading: Reading, probe: Probe): readonly Reading[] | null {
  if (probe.kind !== "electrical" || typeof reading.value !== "object") return null;
  const { world } = probe.circuit.built;
  if (world.quantity === "none" || !movesSensed(world, probe.setup)) return null;
  return (ENDS[world.quantity][probe.setup.stimulus?.kind ?? "none"] ?? NOTHING)(reading.value, reading, probe.unit !== null);
}
