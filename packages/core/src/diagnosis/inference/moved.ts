import type { Known, Reading } from "@fox-lamp/language";
import { ANYWHERE, movesSensed, type Quantity } from "../../circuit";
import type { Probe } from "../../instruments";

/** What a recording's ends say while what is sensed was moved between them by an amount that nobody knows. */
type Ends = (ends: { readonly min: number; readonly max: number }, reading: Reading, seen: Seen) => readonly Reading[];
/** Whether it shows what is sensed in its own unit, and what full scale is, volts. */
interface Seen {
  readonly inItsUnit: boolean;
  readonly fullScaleVolts: number;
}

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

/** No stop of a sound track comes this near its reference, as a share of it: there a line that is held up has lost its wiper. */
const LOST_SHARE = 0.97;

/** One end of an ohmmeter on a track that was swept: which way it rises along the pair of leads nobody says. */
function somewhere(reading: Reading, value: Reading["value"], setup: Reading["setup"], position: Known<number> = ANYWHERE): Reading {
  const { record: _record, ...plain } = reading;
  return { ...plain, value, setup: { ...setup, truth: { ...setup?.truth, position } } };
}

/** At one of the stops, nobody says which: of a track's ohms the least are a small part of what they are half way. */
const AT_A_STOP = { value: 50, within: 90 } as const;

/** Of a track that was swept the lowest ohms are its own; the highest show a worn spot, which the wiper rides over. */
const SWEPT_OHMS: Ends = ({ min, max }, reading) => {
  const { stimulus: _swept, ...still } = reading.setup ?? {};
  return [somewhere(reading, min, still, AT_A_STOP), somewhere(reading, max, reading.setup)];
};

/**
 * Where one end is known: a thermistor's volts and ohms fall while it warms, so the highest was there before, and of its degrees the lowest;
 * a vacuum only takes pressure away.
 */
const ENDS: Readonly<Record<Exclude<Quantity, "none">, Readonly<Record<string, Ends>>>> = {
  level: { steel: BOTH_LEVELS, sweep: BOTH_LEVELS },
  temperature: {
    heat: ({ min, max }, reading, { inItsUnit }) => [end(reading, inItsUnit ? min : max)],
    cool: ({ min, max }, reading, { inItsUnit }) => [end(reading, inItsUnit ? max : min)],
  },
  pressure: { vacuum: ({ max }, { setup: { stimulus: _pumped, ...setup } = {}, ...reading }) => [end({ ...reading, setup }, max)], snap: NOTHING },
  flow: { snap: NOTHING },
  // Lowest on the track: a dip shows there. Where the line is held up the signal leaves the track upwards, and the lowest is the track's own.
  position: {
    sweep: (ends, reading, seen) => {
      if (reading.meter === "ohms") return SWEPT_OHMS(ends, reading, seen);
      const { min, max } = ends;
      const { inItsUnit, fullScaleVolts } = seen;
      if (inItsUnit || max < LOST_SHARE * fullScaleVolts) return [end(reading, min)];
      const { stimulus: _swept, ...still } = reading.setup ?? {};
      return [end(reading, min, still), end(reading, max)];
    },
  },
};

/**
 * The readings a recording stands for while what the sensor senses was moved, and an ohmmeter on a track that is swept; null for any other reading, and
 * where somebody states where it was held. Its swing is then no fault: only what is known of an end speaks.
 */
export function movedEnds(reading: Reading, probe: Probe): readonly Reading[] | null {
  if (probe.kind !== "electrical") return null;
  const { world } = probe.circuit.built;
  if (world.quantity === "none" || !movesSensed(world, probe.setup)) return null;
  if (typeof reading.value !== "object")
    return probe.meter === "ohms" && world.quantity === "position" ? [somewhere(reading, reading.value, reading.setup)] : null;
  const seen = { inItsUnit: probe.unit !== null, fullScaleVolts: probe.circuit.built.fullScaleVolts };
  return (ENDS[world.quantity][probe.setup.stimulus?.kind ?? "none"] ?? NOTHING)(reading.value, reading, seen);
}
