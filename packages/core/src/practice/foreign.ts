import type { Circuit } from "@fox-lamp/language";
import { completeSheets } from "../circuit";
import type { Random } from "../numeric";

type Given = Record<string, unknown>;

const between = (random: Random, low: number, high: number): number => low + (high - low) * random.uniform();
const logBetween = (random: Random, low: number, high: number): number => low * (high / low) ** random.uniform();
const oneOf = <T>(random: Random, list: readonly [T, ...T[]]): T => list[random.below(list.length)] ?? list[0];
/** A window a tenth to both sides. */
const around = (value: number): [number, number] => [0.9 * value, 1.1 * value];
const scaled = (line: unknown, input: number, output: number): [number, number][] => (line as [number, number][]).map(([x, y]) => [x * input, y * output]);

/** An open input is held down on some cars, up on others. */
const pull = (random: Random): Given =>
  random.uniform() < 0.6 ? { pulldown: logBetween(random, 47_000, 1e6) } : { pullup: logBetween(random, 22_000, 470_000) };

/**
 * What another maker's circuit is, drawn by laws of its own: other resistors, lines, duties, wheels, windings than the families' usual ones,
 * uniform where the engine believes in bells.
 */
const MAKERS: Readonly<Record<string, (random: Random, usual: Given) => Given>> = {
  "thermistor-2w": (random, { curve }) => ({ pullup: logBetween(random, 330, 10_000), curve: scaled(curve, 1, logBetween(random, 0.75, 1.33)) }),
  "potentiometer-3w": (random) => ({
    ...pull(random),
    track: logBetween(random, 1000, 10_000),
    percentOf: oneOf(random, ["opening", "reference"]),
    transfer: [
      [0, between(random, 0.35, 0.95)],
      [100, between(random, 3.6, 4.7)],
    ],
  }),
  "dual-track": (random) => ({
    pulldown: logBetween(random, 47_000, 1e6),
    heldUp: oneOf(random, ["none", "none", "second", "both"]),
    track: logBetween(random, 800, 6000),
    transfer: [
      [0, between(random, 0.45, 1.05)],
      [100, between(random, 3.7, 4.45)],
    ],
  }),
  "pressure-3w": (random) => ({
    ...pull(random),
    transfer: [
      [20, between(random, 0.25, 0.55)],
      [oneOf(random, [105, 115, 250, 300]), between(random, 4.4, 4.8)],
    ],
  }),
  "pressure-freq": (random, { transfer }) => ({ transfer: scaled(transfer, 1, between(random, 0.75, 1.3)), duty: between(random, 35, 65) }),
  "maf-voltage": (random, { transfer }) => ({
    ...pull(random),
    transfer: scaled(transfer, logBetween(random, 0.75, 1.3), between(random, 0.9, 1.02)),
  }),
  "maf-freq": (random, { transfer }) => ({ transfer: scaled(transfer, 1, logBetween(random, 0.7, 1.45)), duty: between(random, 25, 75) }),
  "hall-3w": (random) => {
    const feedV = oneOf(random, [5, 8, 12]);
    return {
      feedV,
      pullupV: random.uniform() < 0.75 ? 5 : feedV,
      pullup: logBetween(random, 900, 8000),
      teeth: oneOf(random, [2, 6, 12, 36, 60]),
      duty: between(random, 10, 90),
    };
  },
  "vr-2w": (random) => ({ resistance: around(logBetween(random, 200, 3000)), ...(random.uniform() < 0.4 ? { biasV: between(random, 1.4, 2.5) } : {}) }),
  "knock-1w": (random) => ({ resistance: around(logBetween(random, 1e5, 5e6)) }),
  "knock-2w": (random) => ({ resistance: around(logBetween(random, 1e5, 5e6)), biasV: between(random, 1.8, 2.9) }),
  "oxygen-narrow": (random) => ({ biasV: oneOf(random, [0.45, 0.45, 1.5, 0]), heater: around(logBetween(random, 3, 12)) }),
  "solenoid-2w": (random) => ({ coil: around(logBetween(random, 4.5, 38)), duty: between(random, 15, 85), hertz: logBetween(random, 60, 300) }),
  switch: (random) => ({ pullup: logBetween(random, 2000, 30_000), pullupV: oneOf(random, [5, 5, 12]) }),
};

/** Share of what the maker chose that the technician's sheet says. */
const STATED = 0.4;

/** Circuits as another maker builds them, and the sheet a technician has of them: some of it, the rest left out. */
export function foreignCircuits(circuits: readonly Circuit[], random: Random): { actual: Circuit[]; sheet: Circuit[] } {
  const whole = completeSheets(circuits);
  const drawn = whole.map((circuit) => ({ ...circuit, with: { ...circuit.with, ...MAKERS[circuit.family]?.(random, circuit.with ?? {}) } }));
  const actual = completeSheets(drawn);
  const sheet = circuits.map((circuit, index): Circuit => {
    const chosen = MAKERS[circuit.family] === undefined ? [] : Object.entries(drawn[index]?.with ?? {});
    const said = chosen.filter(([name, value]) => JSON.stringify(value) !== JSON.stringify(whole[index]?.with?.[name]) && random.uniform() < STATED);
    return said.length === 0 ? circuit : { ...circuit, with: { ...circuit.with, ...Object.fromEntries(said) } };
  });
  return { actual, sheet };
}
