import type { Circuit, Reading } from "@fox-lamp/language";
import fc from "fast-check";
import { CircuitEngine, type DiagnosedJob, diagnoseJob, EngineCache, openCase, preparations } from "../src/diagnosis";
import { feltAmong } from "../src/diagnosis/felt";
import { compatible, type Member, mergedFault, movedSeverity, orderedPair, steppedSeverity } from "../src/diagnosis/pair-fault";
import { gridOf, pairKey } from "../src/diagnosis/pair-grid";
import { bestOfPool } from "../src/diagnosis/pair-pool";
import { RowBank } from "../src/diagnosis/row-bank";
import type { PredictionTable } from "../src/diagnosis/tables";

const conditions = { pressure: 100, temperature: 20 };

function engineOf(family: string): CircuitEngine {
  return new CircuitEngine([{ id: "x", family }], { conditions: { x: conditions } });
}

/** The point of a fault whose severity is nearest to a wanted one. */
function memberOf({ points }: CircuitEngine, id: string, wanted = 1): Member {
  let best = -1;
  for (let point = 0; point < points.count; point += 1) {
    if (points.faults[points.fault[point] as number]?.id !== id) continue;
    const away = (at: number): number => Math.abs(Math.log((points.severity[at] as number) / wanted));
    if (best < 0 || away(point) < away(best)) best = point;
  }
  const fault = points.faults[points.fault[best] as number];
  if (best < 0 || fault === null || fault === undefined) throw new Error(`no fault ${id}`);
  return { fault, point: best, severity: points.severity[best] as number };
}

describe("two faults as one hypothesis", () => {
  const engine = engineOf("thermistor-2w");
  const sigOpen = memberOf(engine, "x/wire:sig/open");
  const corroded = memberOf(engine, "x/contact:gnd@sensor/corroded", 3000);

  it("sets what both set, at both severities", () => {
    const pair = orderedPair(sigOpen, corroded);
    const merged = mergedFault(engine.points, pair);
    const situation = { setup: {}, world: 20, key: "on", rpm: 0, turning: false } as unknown as Parameters<typeof merged.effect>[1];
    const variant = { direction: 1, section: 0, weight: 1 } as const;
    const set = merged.effect(pair.first.severity, situation, variant, 0);
    const one = corroded.fault.effect(corroded.severity, situation, variant, 0);
    const other = sigOpen.fault.effect(sigOpen.severity, situation, variant, 0);
    expect(set.map(({ element, value }) => `${element} ${value}`).sort()).toEqual([...one, ...other].map(({ element, value }) => `${element} ${value}`).sort());
    expect(merged.unit.split("&").sort()).toEqual([corroded.fault.unit, sigOpen.fault.unit].sort());
  });

  it("puts the fault with a severity first, whichever way round it is asked", () => {
    expect(orderedPair(sigOpen, corroded)).toEqual(orderedPair(corroded, sigOpen));
    expect(orderedPair(sigOpen, corroded).first).toBe(corroded);
  });

  it("needs two units", () => {
    expect(compatible(sigOpen.fault, corroded.fault)).toBe(true);
    expect(compatible(sigOpen.fault, memberOf(engine, "x/wire:sig/resistance", 1e4).fault)).toBe(false);
    expect(compatible(sigOpen.fault, sigOpen.fault)).toBe(false);
  });

  it("is felt elsewhere where one of the two is", () => {
    const rows = [
      [corroded, sigOpen],
      [corroded, memberOf(engine, "x/sensor/wrong-variant")],
    ].map(([first, second]) => ({ point: (first as Member).point, pair: orderedPair(first as Member, second as Member) }));
    const grid = gridOf(engine.points, rows);
    const felt = feltAmong(grid, new Set([sigOpen.fault]));
    expect([...felt].map(({ id }) => id)).toEqual([`${corroded.fault.id}&${sigOpen.fault.id}`]);
  });

  it("weighs as rows whose priors sum to one and that are named by their severities", () => {
    const rows = [
      { point: 0, pair: null },
      { point: corroded.point, pair: orderedPair(corroded, sigOpen) },
    ];
    const grid = gridOf(engine.points, rows);
    expect(grid.prior.reduce((sum, weight) => sum + weight, 0)).toBeCloseTo(1, 12);
    expect(grid.names).toEqual(["", pairKey(orderedPair(corroded, sigOpen))]);
    expect(grid.prior[1] as number).toBeLessThan(engine.points.prior[corroded.point] as number);
  });
});

describe("fitted severities", () => {
  const engine = engineOf("pressure-3w");
  const { points } = engine;
  const faults = points.faults.flatMap((fault) => (fault?.severity ? [fault.id] : []));

  it("stay in their fault's range and stand on a lattice that no step of zero leaves", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...faults),
        fc.double({ min: 0.01, max: 1e5, noNaN: true }),
        fc.double({ min: -8, max: 8, noNaN: true }),
        (id, wanted, by) => {
          const member = memberOf(engine, id, wanted);
          const severity = steppedSeverity(points, member, by);
          const scale = member.fault.severity;
          if (scale === null) throw new Error("no scale");
          expect(severity).toBeGreaterThanOrEqual(scale.low);
          expect(severity).toBeLessThanOrEqual(scale.high);
          expect(steppedSeverity(points, { ...member, severity }, 0)).toBeCloseTo(severity, 8);
          // A step of the lattice is a quarter of the cell: never further away than half of that, but for the range's ends.
          const exact = movedSeverity(member, points.severitySpread[member.point] as number, by);
          const spread = points.severitySpread[member.point] as number;
          const away = scale.key === "ohms" ? Math.log(severity / exact) : severity - exact;
          expect(Math.abs(away)).toBeLessThanOrEqual(0.126 * spread + 1e-9);
        },
      ),
    );
  });

  it("of a fault without one never move", () => {
    const open = memberOf(engine, "x/wire:sig/open");
    expect(steppedSeverity(points, open, 3)).toBe(open.severity);
  });
});

describe("banked rows", () => {
  const engine = engineOf("pressure-3w");
  const first = memberOf(engine, "x/contact:gnd@sensor/corroded", 200);
  const partners = ["x/wire:sig/open", "x/sensor/dead", "x/wire:ref/resistance"].map((id) => memberOf(engine, id, 500));
  const rowsOf = (members: readonly Member[]) => members.map((second) => ({ point: first.point, pair: orderedPair(first, second) }));
  const [measurement] = engine.tests().filter(({ procedure }) => procedure.meter === "volts-dc");
  if (measurement === undefined) throw new Error("no test");
  const key = "signal";
  const tableOf = (grid: CircuitEngine): PredictionTable => grid.tablesFor([{ key, probe: measurement.probe }], null)[0] as PredictionTable;
  const meansOf = ({ mean, slot }: PredictionTable): number[] => [...slot].map((at) => mean[at] as number);

  it("are what solving them again gives, in whatever order they are asked for", () => {
    const all = tableOf(engine.beside(gridOf(engine.points, rowsOf(partners))));
    const turned = [...partners].reverse();
    const again = tableOf(engine.beside(gridOf(engine.points, rowsOf(turned))));
    const fresh = engineOf("pressure-3w");
    const alone = tableOf(fresh.beside(gridOf(fresh.points, rowsOf(turned))));
    expect(meansOf(again)).toEqual(meansOf(all).reverse());
    meansOf(alone).forEach((mean, index) => {
      expect(mean).toBeCloseTo(meansOf(again)[index] as number, 9);
    });
  });

  it("are copied with their slopes, and only into rows that are missing", () => {
    const grid = gridOf(engine.points, rowsOf(partners));
    const table = tableOf(engine.beside(grid));
    const bank = new RowBank();
    bank.store(key, table, grid);
    const empty: PredictionTable = {
      ...table,
      slot: new Int32Array(grid.count).fill(-1),
      rows: 0,
      mean: new Float64Array(0),
      noise: new Float64Array(0),
      jacobian: new Float64Array(0),
      words: new Float64Array(0),
    };
    bank.fill(key, empty, grid, engine.columns.count + 1);
    expect(meansOf(empty)).toEqual(meansOf(table));
    const d = engine.columns.count + 1;
    const slopes = ({ jacobian, slot }: PredictionTable, row: number): number[] => [
      ...jacobian.subarray((slot[row] as number) * d, ((slot[row] as number) + 1) * d),
    ];
    expect(slopes(empty, 1)).toEqual(slopes(table, 1));
    const rows = empty.rows;
    bank.fill(key, empty, grid, d);
    expect(empty.rows).toBe(rows);
    const other = { ...empty, slot: new Int32Array(grid.count).fill(-1) };
    bank.fill("another probe", other, grid, d);
    expect([...other.slot]).toEqual([-1, -1, -1]);
  });
});

/** An air flow sensor whose two grounds are corroded at the sensor: a wire shorted to feed explains the first readings just as well. */
const circuits: Circuit[] = [{ id: "maf", family: "maf-voltage" }];
const CORRODED: Reading[] = [
  { id: "r1", meter: "scan", red: "sig@module", setup: {}, value: 6.67 },
  { id: "r2", meter: "scan", red: "sig@module", setup: {}, value: 6.65 },
  { id: "r3", meter: "volts-dc", red: "chassis", black: "bat-", setup: {}, value: 0.0011 },
  { id: "r4", meter: "volts-dc", red: "feed@sensor", black: "ret@sensor", setup: {}, value: 12.42 },
  { id: "r5", meter: "volts-dc", red: "sig@sensor", black: "bat-", setup: {}, value: 6.62 },
  { id: "r6", meter: "volts-dc", red: "pgnd@sensor", black: "bat-", setup: {}, value: -0.0031 },
];
const corrodedJob: DiagnosedJob = { circuits, readings: CORRODED, conditions };

describe("all pairs of a circuit", () => {
  it("hold two faults that explain together what neither explains in part", () => {
    const [part] = openCase(corrodedJob, new EngineCache()).parts;
    if (part === undefined) throw new Error("no part");
    const best = bestOfPool(part, 80, ({ first, second }) => ![first, second].some(({ fault }) => fault.unit === "maf/wire:sig"));
    const units = best.map(({ first, second }) => [first.fault.unit, second.fault.unit].sort().join(" and "));
    expect(units).toContain("maf/contact:pgnd@sensor and maf/contact:ret@sensor");
    expect(new Set(best.map(({ first, second }) => `${first.fault.id}&${second.fault.id}`)).size).toBe(best.length);
  });

  it("keep a wire from being condemned before a reading tells it from them", () => {
    const { verdict, next, units } = diagnoseJob(corrodedJob);
    expect(units[0]?.unit).toBe("maf/wire:sig");
    expect(verdict.status).toBe("narrowing");
    expect(next.length).toBeGreaterThan(0);
  });

  it("are none where circuits share something", () => {
    const shared: Circuit[] = [
      { id: "bus", family: "reference-bus" },
      { id: "map", family: "pressure-3w", shares: { ref: "bus", join: "module" } },
      { id: "tps", family: "potentiometer-3w", shares: { ref: "bus", join: "module" } },
    ];
    const [part] = openCase({ circuits: shared, readings: [], conditions }, new EngineCache()).parts;
    if (part === undefined) throw new Error("no part");
    expect(bestOfPool(part, 10, () => true)).toEqual([]);
  });
});

describe("what is computed ahead", () => {
  it("changes nothing of what is said of a leader and its challengers", () => {
    const warm = new EngineCache();
    for (const count of [3, 5, 6]) {
      const job = { ...corrodedJob, readings: CORRODED.slice(0, count) };
      const prepared = diagnoseJob(job, warm);
      const fresh = diagnoseJob(job, new EngineCache());
      expect(prepared.verdict.status).toBe(fresh.verdict.status);
      expect(prepared.next.map(({ test }) => test)).toEqual(fresh.next.map(({ test }) => test));
      for (const [index, { unit, probability }] of fresh.units.entries()) {
        expect(prepared.units[index]?.unit).toBe(unit);
        expect(prepared.units[index]?.probability).toBeCloseTo(probability, 6);
      }
      for (const _ of preparations(job, warm));
    }
  });

  it("leaves nothing to solve for a recording that was proposed", () => {
    const engine = engineOf("oxygen-narrow");
    const test = engine.tests().find(({ procedure }) => procedure.record && procedure.meter === "scan");
    if (test === undefined) throw new Error("no recording");
    engine.fillAhead(test);
    const { meter, red, setup } = test.procedure;
    const reading: Reading = { id: "r1", meter, red, setup, record: "min-max", value: { min: 0.1, max: 0.8 } } as Reading;
    const observations = engine.observe([{ reading, id: "r1", where: "readings[0]" }]);
    expect(observations).toHaveLength(2);
    for (const { table } of observations) expect(table.rows).toBeGreaterThan(0);
  });
});

describe("a clamp around the feed", () => {
  it("is no lead on it: the coil is not condemned before somebody measured its feed", () => {
    const readings: Reading[] = [
      { id: "r1", meter: "listen", red: "part", setup: { stimulus: { kind: "command" } }, value: "no-click" },
      { id: "r2", meter: "volts-dc", red: "ctl@sensor", black: "bat-", setup: { stimulus: { kind: "command" } }, value: 0.1279 },
      { id: "r3", meter: "amps-dc", red: "feed@sensor", setup: { stimulus: { kind: "command" } }, value: 0.0006 },
    ];
    const { verdict, next } = diagnoseJob({ circuits: [{ id: "purge", family: "solenoid-2w" }], readings });
    expect(verdict.status).toBe("narrowing");
    expect([next[0]?.red, next[0]?.black]).toContain("feed@sensor");
    expect(next[0]?.meter).not.toBe("amps-dc");
  });
});
