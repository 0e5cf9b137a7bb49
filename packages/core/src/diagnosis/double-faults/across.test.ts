import type { Circuit, Reading } from "@fox-lamp/language";
import { completeSheets } from "../../circuit";
import { type DiagnosedJob, diagnoseJob, inferenceOf, openCase, Session } from "..";
import type { Inference } from "../inference/inference";
import { acrossCircuits } from "./across";
import { type Member, orderedPair } from "./pair-fault";
import { gridOf } from "./pair-grid";

const CIRCUITS: Circuit[] = completeSheets([
  { id: "bus", family: "reference-bus" },
  { id: "map", family: "pressure-3w", shares: { ref: "bus", join: "S1" } },
  { id: "tps", family: "potentiometer-3w", shares: { ref: "bus", join: "S1" } },
]);
const scan = (circuit: string, value: number, truth: object): Reading => ({
  circuit,
  meter: "scan",
  red: "sig@module",
  setup: { truth: truth as NonNullable<Reading["setup"]>["truth"] & object },
  value,
});

function memberOf({ grid }: Inference, id: string, wanted: number): Member {
  const cells = Array.from({ length: grid.count }, (_, cell) => cell).filter((cell) => grid.faults[grid.fault[cell] as number]?.id === id);
  const away = (cell: number): number => Math.abs((grid.severity[cell] as number) - wanted);
  const cell = cells.reduce((best, one) => (away(one) < away(best) ? one : best));
  const fault = grid.faults[grid.fault[cell] as number];
  if (fault === null || fault === undefined) throw new Error(`no fault ${id}`);
  return { fault, cell, severity: grid.severity[cell] as number };
}

describe("two parts of two circuits on one reference", () => {
  const inference = inferenceOf(CIRCUITS, { conditions: { map: { pressure: 60 } } });
  const asked = [
    { circuit: "map", meter: "scan", red: "sig@module", setup: { truth: { pressure: 60 } } },
    { circuit: "tps", meter: "scan", red: "sig@module", setup: { truth: { position: 100 } } },
    { circuit: "tps", meter: "volts-dc", red: "sig@sensor", black: "bat-", setup: { truth: { position: 0 } } },
  ] as const;
  const probes = asked.map((measurement, index) => {
    const probe = inference.probe({ ...measurement, setup: { truth: { ...measurement.setup.truth } } }, "");
    if (probe === null) throw new Error("no probe");
    return { key: `asked ${index}`, probe };
  });

  it.each([
    ["map/sensor/skewed", "tps/sensor/stuck-high"],
    ["map/sensor/dead", "tps/sensor/skewed"],
    ["map/sensor/wrong-variant", "tps/sensor/stuck-low"],
  ])("with %s and %s read each what the one of its own circuit makes of it", (first, second) => {
    const [one, other] = [memberOf(inference, first, 0.6), memberOf(inference, second, 0.6)];
    const pair = orderedPair(one, other);
    const both = inference.under(`${first} ${second}`, () => gridOf(inference.grid, [{ cell: pair.first.cell, pair }]));
    const singles = inference.tablesFor(probes, null);
    const pairs = both.tablesFor(probes, null);
    for (const [index, { probe }] of probes.entries()) {
      const own = probe.circuit.id === one.fault.circuit ? one : other;
      const [single, row] = [singles[index], pairs[index]];
      if (single === undefined || row === undefined) throw new Error("no table");
      const alone = single.mean[single.slot[own.cell] as number] as number;
      // The other circuit's part moves the shared reference by millivolts.
      expect(Math.abs((row.mean[row.slot[0] as number] as number) - alone)).toBeLessThan(0.02);
    }
  });
});

describe("two faults in two branches", () => {
  const readings = [
    scan("map", 4.97, { pressure: 94.9 }),
    scan("tps", 0, { position: 100 }),
    scan("map", 4.98, { pressure: 94.9 }),
    scan("tps", 0, { position: 100 }),
  ];
  const job: DiagnosedJob = { circuits: CIRCUITS, readings };

  it("are tried each with each, the likeliest first, no two of them twice", () => {
    const [cluster] = openCase({ ...job, readings: readings.slice(0, 1) }, new Session()).clusters;
    if (cluster === undefined) throw new Error("no part");
    const wanted = { most: 500, counts: () => true, floor: Number.NEGATIVE_INFINITY };
    const all = acrossCircuits(cluster, wanted);
    expect(new Set(all.map(({ first, second }) => [first.fault.id, second.fault.id].sort().join("&"))).size).toBe(all.length);
    for (const { first, second } of all) expect(first.fault.circuit).not.toBe(second.fault.circuit);
    expect(acrossCircuits(cluster, { ...wanted, most: 7 })).toEqual(all.slice(0, 7));
    expect(acrossCircuits(cluster, { ...wanted, floor: 1000 })).toEqual([]);
  });

  it("prove nobody while several of each branch explain it alike", () => {
    const { verdict, units } = diagnoseJob(job);
    expect(verdict.status).toBe("narrowing");
    const shown = units.filter(({ probability }) => probability > 0.02).map(({ unit }) => unit);
    for (const unit of ["map/contact:gnd@sensor", "map/wire:gnd", "tps/sensor", "tps/contact:sig@sensor"]) expect(shown).toContain(unit);
  });

  it("are none where a circuit stands alone", () => {
    const [cluster] = openCase({ circuits: [{ id: "ect", family: "thermistor-2w" }], readings: [] }, new Session()).clusters;
    if (cluster === undefined) throw new Error("no part");
    expect(acrossCircuits(cluster, { most: 10, counts: () => true, floor: Number.NEGATIVE_INFINITY })).toEqual([]);
  });
});
