import type { Circuit, Measurement } from "@fox-lamp/language";
import { openCase, Session } from "..";

const circuits: Circuit[] = [
  { id: "bus", family: "reference-bus" },
  { id: "map", family: "pressure-3w", shares: { ref: "bus", join: "S1" } },
  { id: "tps", family: "potentiometer-3w", shares: { ref: "bus", join: "S1" } },
];
const scan = (circuit: string, value: number): Measurement & { id: string; value: number } => ({
  id: `${circuit} ${value}`,
  circuit,
  meter: "scan",
  red: "sig@module",
  setup: circuit === "map" ? { truth: { pressure: 98.5 } } : { truth: { position: 0 } },
  value,
});

/** What a reading is predicted as under each severity of a fault, with its standard deviation. */
function predicted(fault: string, reading: ReturnType<typeof scan>): { readonly mean: number; readonly sigma: number }[] {
  const [cluster] = openCase({ circuits, readings: [reading] }, new Session()).clusters;
  const [observation] = cluster?.observations ?? [];
  if (cluster === undefined || observation === undefined) throw new Error("nothing was weighed");
  const { grid, columns } = cluster.inference;
  const { table } = observation;
  return Array.from({ length: grid.count }, (_, cell) => cell)
    .filter((cell) => grid.faults[grid.fault[cell] ?? 0]?.id === fault)
    .map((cell) => {
      const slot = table.slot[cell] ?? 0;
      const slopes = table.jacobian.subarray(slot * columns.count, (slot + 1) * columns.count);
      return { mean: table.mean[slot] ?? 0, sigma: Math.sqrt(slopes.reduce((sum, slope) => sum + slope * slope, table.noise[slot] ?? 0)) };
    });
}

describe("a module's value near the end of what its converter shows", () => {
  // A reference of six volts: a ratiometric sensor of four fifths sends 4.8 V, which is inside.
  const near = predicted("bus/wire:ref/short-battery", scan("map", 4.88));

  it("is held at the end only where the level lies beyond it for sure", () => {
    const held = near.filter(({ mean }) => mean === 5);
    const free = near.filter(({ mean }) => mean > 5);
    expect(held.length).toBeGreaterThan(0);
    expect(free.length).toBeGreaterThan(0);
    for (const { sigma } of held) expect(sigma).toBeLessThan(0.1);
    for (const { mean, sigma } of free) expect((mean - 5) / sigma).toBeLessThan(2.5 + 1e-9);
  });

  it("leaves a reference that is fed from the battery its one fault, where a sensor still answers inside", () => {
    const readings = [
      scan("map", 4.88),
      { id: "r", circuit: "map", meter: "volts-dc" as const, red: "ref@sensor", black: "gnd@sensor", setup: { truth: { pressure: 98.5 } }, value: 5.98 },
      { id: "u", circuit: "map", meter: "volts-dc" as const, red: "ref@sensor", black: "gnd@sensor", setup: { open: ["sensor"] }, value: 10.13 },
    ];
    const { joint } = openCase({ circuits, readings, conditions: { pressure: 98.5 } }, new Session());
    const [cluster] = joint.circuits;
    const units = cluster?.inference.grid.units ?? [];
    const ofReference = units.reduce((sum, unit, at) => sum + (/^\w+\/wire:ref$/u.test(unit) ? (cluster?.units[at] ?? 0) : 0), 0);
    expect(ofReference).toBeGreaterThan(0.8);
  });
});
