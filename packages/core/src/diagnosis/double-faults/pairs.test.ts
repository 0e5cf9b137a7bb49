import type { Circuit, Reading } from "@fox-lamp/language";
import fc from "fast-check";
import { completeSheets } from "../../circuit";
import { BoundedCache, finished } from "../../numeric";
import { type DiagnosedJob, diagnoseJob, type Inference, inferenceOf, openCase, preparations, Session } from "..";
import { farReachingAmong } from "../hypotheses/far-reaching";
import { bankRows, rowBank, takeFromBank } from "../predictions/row-bank";
import type { PredictionTable } from "../predictions/table";
import { compatible, type Member, mergedFault, movedSeverity, orderedPair, steppedSeverity } from "./pair-fault";
import { gridOf, pairKey } from "./pair-grid";
import { bestOfPool, type Wanted } from "./pair-pool";

const conditions = { pressure: 100, temperature: 20 };

function engineOf(family: string): Inference {
  return inferenceOf([{ id: "x", family }], { conditions: { x: conditions } });
}

/** The point of a fault whose severity is nearest to a wanted one. */
function memberOf({ grid }: Inference, id: string, wanted = 1): Member {
  let best = -1;
  for (let cell = 0; cell < grid.count; cell += 1) {
    if (grid.faults[grid.fault[cell] as number]?.id !== id) continue;
    const away = (at: number): number => Math.abs(Math.log((grid.severity[at] as number) / wanted));
    if (best < 0 || away(cell) < away(best)) best = cell;
  }
  const fault = grid.faults[grid.fault[best] as number];
  if (best < 0 || fault === null || fault === undefined) throw new Error(`no fault ${id}`);
  return { fault, cell: best, severity: grid.severity[best] as number };
}

/** Any pairs, whatever they explain. */
const ANY: Wanted = { most: 80, counts: () => true, floor: Number.NEGATIVE_INFINITY };

describe("two faults as one hypothesis", () => {
  const inference = engineOf("thermistor-2w");
  const sigOpen = memberOf(inference, "x/wire:sig/open");
  const corroded = memberOf(inference, "x/contact:gnd@sensor/corroded", 3000);

  it("sets what both set, at both severities", () => {
    const pair = orderedPair(sigOpen, corroded);
    const merged = mergedFault(inference.grid, pair);
    const situation = { setup: {}, world: 20, key: "on", rpm: 0, turning: false } as unknown as Parameters<typeof merged.effect>[1];
    const variant = { direction: 1, section: 0, weight: 1 } as const;
    const set = merged.effect(pair.first.severity, situation, variant, 0);
    const one = corroded.fault.effect(corroded.severity, situation, variant, 0);
    const other = sigOpen.fault.effect(sigOpen.severity, situation, variant, 0);
    expect(set.map(({ element, value }) => `${element} ${value}`).sort()).toEqual([...one, ...other].map(({ element, value }) => `${element} ${value}`).sort());
    expect(merged.unit.split("&").sort()).toEqual([corroded.fault.unit, sigOpen.fault.unit].sort());
  });

  it("hands what lies outside on to the part: a wheel whose teeth are gone does not heal a shorted winding", () => {
    const coil = engineOf("vr-2w");
    const [short, target] = [memberOf(coil, "x/sensor/short", 1), memberOf(coil, "x/outside/no-target", 0.65)];
    const situation = { setup: { key: "crank" }, world: 0, engine: { rpm: 200, turning: true } } as unknown as Parameters<typeof merged.effect>[1];
    const variant = { direction: 1, section: 0, weight: 1 } as const;
    const merged = mergedFault(coil.grid, orderedPair(short, target));
    const voltsOf = (effect: ReturnType<typeof merged.effect>): number[] =>
      effect.flatMap(({ element, field, value }) => (element === "winding" && field === "volts" ? [value] : []));
    const [shorted] = voltsOf(short.fault.effect(short.severity, situation, variant, 0));
    const [far] = voltsOf(target.fault.effect(target.severity, situation, variant, 0));
    const whole = (far as number) / (2 * (0.8 - target.severity));
    const both = voltsOf(merged.effect(orderedPair(short, target).first.severity, situation, variant, 0));
    expect(both).toHaveLength(1);
    expect(both[0]).toBeCloseTo(((shorted as number) * (far as number)) / whole, 9);
    expect(Math.abs(both[0] as number)).toBeLessThan(Math.abs(shorted as number));
  });

  it("puts the fault with a severity first, whichever way round it is asked", () => {
    expect(orderedPair(sigOpen, corroded)).toEqual(orderedPair(corroded, sigOpen));
    expect(orderedPair(sigOpen, corroded).first).toBe(corroded);
  });

  it("needs two units", () => {
    expect(compatible(sigOpen.fault, corroded.fault)).toBe(true);
    expect(compatible(sigOpen.fault, memberOf(inference, "x/wire:sig/resistance", 1e4).fault)).toBe(false);
    expect(compatible(sigOpen.fault, sigOpen.fault)).toBe(false);
  });

  it("is felt elsewhere where one of the two is", () => {
    const rows = [
      [corroded, sigOpen],
      [corroded, memberOf(inference, "x/sensor/wrong-variant")],
    ].map(([first, second]) => ({ cell: (first as Member).cell, pair: orderedPair(first as Member, second as Member) }));
    const grid = gridOf(inference.grid, rows);
    const felt = farReachingAmong(grid, new Set([sigOpen.fault]));
    expect([...felt].map(({ id }) => id)).toEqual([`${corroded.fault.id}&${sigOpen.fault.id}`]);
  });

  it("weighs as rows whose priors sum to one and that are named by their severities", () => {
    const rows = [
      { cell: 0, pair: null },
      { cell: corroded.cell, pair: orderedPair(corroded, sigOpen) },
    ];
    const grid = gridOf(inference.grid, rows);
    expect(grid.prior.reduce((sum, weight) => sum + weight, 0)).toBeCloseTo(1, 12);
    expect(grid.names).toEqual(["", pairKey(orderedPair(corroded, sigOpen))]);
    expect(grid.prior[1] as number).toBeLessThan(inference.grid.prior[corroded.cell] as number);
  });
});

describe("fitted severities", () => {
  const inference = engineOf("pressure-3w");
  const { grid } = inference;
  const faults = grid.faults.flatMap((fault) => (fault?.severity ? [fault.id] : []));

  it("stay in their fault's range and stand on a lattice that no step of zero leaves", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...faults),
        fc.double({ min: 0.01, max: 1e5, noNaN: true }),
        fc.double({ min: -8, max: 8, noNaN: true }),
        (id, wanted, by) => {
          const member = memberOf(inference, id, wanted);
          const severity = steppedSeverity(grid, member, by);
          const scale = member.fault.severity;
          if (scale === null) throw new Error("no scale");
          expect(severity).toBeGreaterThanOrEqual(scale.low);
          expect(severity).toBeLessThanOrEqual(scale.high);
          expect(steppedSeverity(grid, { ...member, severity }, 0)).toBeCloseTo(severity, 8);
          // A step of the lattice is a quarter of the cell: never further away than half of that, but for the range's ends.
          const exact = movedSeverity(member, grid.severitySpread[member.cell] as number, by);
          const spread = grid.severitySpread[member.cell] as number;
          const away = scale.key === "ohms" ? Math.log(severity / exact) : severity - exact;
          expect(Math.abs(away)).toBeLessThanOrEqual(0.126 * spread + 1e-9);
        },
      ),
    );
  });

  it("of a fault without one never move", () => {
    const open = memberOf(inference, "x/wire:sig/open");
    expect(steppedSeverity(grid, open, 3)).toBe(open.severity);
  });
});

describe("banked rows", () => {
  const inference = engineOf("pressure-3w");
  const first = memberOf(inference, "x/contact:gnd@sensor/corroded", 200);
  const partners = ["x/wire:sig/open", "x/sensor/dead", "x/wire:ref/resistance"].map((id) => memberOf(inference, id, 500));
  const rowsOf = (members: readonly Member[]) => members.map((second) => ({ cell: first.cell, pair: orderedPair(first, second) }));
  const [measurement] = inference.tests().filter(({ procedure }) => procedure.meter === "volts-dc");
  if (measurement === undefined) throw new Error("no test");
  const key = "signal";
  const tableOf = (grid: Inference): PredictionTable => grid.tablesFor([{ key, probe: measurement.probe }], null)[0] as PredictionTable;
  const meansOf = ({ mean, slot }: PredictionTable): number[] => [...slot].map((at) => mean[at] as number);

  it("are what solving them again gives, in whatever order they are asked for", () => {
    const all = tableOf(inference.under("partners", () => gridOf(inference.grid, rowsOf(partners))));
    const turned = [...partners].reverse();
    const again = tableOf(inference.under("turned", () => gridOf(inference.grid, rowsOf(turned))));
    const fresh = engineOf("pressure-3w");
    const alone = tableOf(fresh.under("turned", () => gridOf(fresh.grid, rowsOf(turned))));
    expect(meansOf(again)).toEqual(meansOf(all).reverse());
    meansOf(alone).forEach((mean, index) => {
      expect(mean).toBeCloseTo(meansOf(again)[index] as number, 9);
    });
  });

  it("are copied with their slopes, and only into rows that are missing", () => {
    const grid = gridOf(inference.grid, rowsOf(partners));
    const table = tableOf(inference.under("once more", () => grid));
    const d = inference.columns.count + 1;
    const bank = rowBank(new BoundedCache(1e6), "here", key, d);
    bankRows(bank, table, grid);
    const empty: PredictionTable = {
      ...table,
      slot: new Int32Array(grid.count).fill(-1),
      rows: 0,
      mean: new Float64Array(0),
      noise: new Float64Array(0),
      jacobian: new Float64Array(0),
      words: new Float64Array(0),
    };
    takeFromBank(bank, empty, grid, d);
    expect(meansOf(empty)).toEqual(meansOf(table));
    const slopes = ({ jacobian, slot }: PredictionTable, row: number): number[] => [
      ...jacobian.subarray((slot[row] as number) * d, ((slot[row] as number) + 1) * d),
    ];
    expect(slopes(empty, 1)).toEqual(slopes(table, 1));
    const rows = empty.rows;
    takeFromBank(bank, empty, grid, d);
    expect(empty.rows).toBe(rows);
    const other = { ...empty, slot: new Int32Array(grid.count).fill(-1) };
    takeFromBank(rowBank(new BoundedCache(1e6), "here", "another probe", d), other, grid, d);
    expect([...other.slot]).toEqual([-1, -1, -1]);
  });
});

/** An air flow sensor whose two grounds are corroded at the sensor: a wire shorted to feed explains the first readings just as well. */
const circuits: Circuit[] = completeSheets([{ id: "maf", family: "maf-voltage" }]);
const CORRODED: Reading[] = [
  { id: "r1", meter: "scan", red: "sig@module", setup: {}, value: 5 },
  { id: "r2", meter: "scan", red: "sig@module", setup: {}, value: 5 },
  { id: "r3", meter: "volts-dc", red: "chassis", black: "bat-", setup: {}, value: 0.0011 },
  { id: "r4", meter: "volts-dc", red: "feed@sensor", black: "ret@sensor", setup: {}, value: 12.42 },
  { id: "r5", meter: "volts-dc", red: "sig@sensor", black: "bat-", setup: {}, value: 6.62 },
  { id: "r6", meter: "volts-dc", red: "pgnd@sensor", black: "bat-", setup: {}, value: -0.0031 },
];
const corrodedJob: DiagnosedJob = { circuits, readings: CORRODED, conditions };

describe("all pairs of a circuit", () => {
  it("hold two faults that explain together what neither explains in part", () => {
    const [cluster] = openCase(corrodedJob, new Session()).clusters;
    if (cluster === undefined) throw new Error("no part");
    const best = finished(
      bestOfPool(cluster, "maf", { ...ANY, counts: ({ first, second }) => ![first, second].some(({ fault }) => fault.unit === "maf/wire:sig") }),
    );
    const units = best.map(({ first, second }) => [first.fault.unit, second.fault.unit].sort().join(" and "));
    expect(units).toContain("maf/contact:pgnd@sensor and maf/contact:ret@sensor");
    expect(new Set(best.map(({ first, second }) => `${first.fault.id}&${second.fault.id}`)).size).toBe(best.length);
  });

  it("are left out where they do not reach what a leader reaches, and only then", () => {
    const [cluster] = openCase(corrodedJob, new Session()).clusters;
    if (cluster === undefined) throw new Error("no part");
    const name = ({ first, second }: { first: Member; second: Member }): string => `${first.fault.id}&${second.fault.id}`;
    const all = finished(bestOfPool(cluster, "maf", ANY)).map(name);
    const low = finished(bestOfPool(cluster, "maf", { ...ANY, floor: -100 })).map(name);
    const some = finished(bestOfPool(cluster, "maf", { ...ANY, floor: 6 })).map(name);
    expect(low).toEqual(all);
    expect(some.length).toBeLessThan(all.length);
    expect(some).toEqual(all.slice(0, some.length));
    expect(finished(bestOfPool(cluster, "maf", { ...ANY, floor: 100 }))).toEqual([]);
  });

  it("keep a wire from being condemned before a reading tells it from them", () => {
    const { verdict, next, units } = diagnoseJob(corrodedJob);
    // A return that has lost its ground floats there as well: an end of the converter tells nobody how far.
    expect(["maf/contact:ret@sensor", "maf/wire:sig"]).toContain(units[0]?.unit);
    expect(units.map(({ unit }) => unit)).toContain("maf/wire:sig");
    expect(verdict.status).toBe("narrowing");
    expect(next.length).toBeGreaterThan(0);
  });

  it("are those of the circuit asked for where several share something", () => {
    const shared: Circuit[] = [
      { id: "bus", family: "reference-bus" },
      { id: "map", family: "pressure-3w", shares: { ref: "bus", join: "module" } },
      { id: "tps", family: "potentiometer-3w", shares: { ref: "bus", join: "module" } },
    ];
    const readings: Reading[] = [{ id: "r1", circuit: "tps", meter: "scan", red: "sig@module", setup: { truth: { position: 0 } }, value: 0.02 }];
    const [cluster] = openCase({ circuits: shared, readings, conditions }, new Session()).clusters;
    if (cluster === undefined) throw new Error("no part");
    const best = finished(bestOfPool(cluster, "tps", { ...ANY, most: 10 }));
    expect(best).toHaveLength(10);
    for (const { first, second } of best) expect([first.fault.circuit, second.fault.circuit]).toEqual(["tps", "tps"]);
  });
});

describe("what is computed ahead", () => {
  it("changes nothing of what is said of a leader and its challengers", () => {
    const warm = new Session();
    for (const count of [3, 5, 6]) {
      const job = { ...corrodedJob, readings: CORRODED.slice(0, count) };
      const prepared = diagnoseJob(job, warm);
      const fresh = diagnoseJob(job, new Session());
      expect(prepared.verdict.status).toBe(fresh.verdict.status);
      expect(prepared.next.map(({ test }) => test)).toEqual(fresh.next.map(({ test }) => test));
      // Among what is next to impossible the order may differ.
      for (const [index, { unit, probability }] of fresh.units.entries()) {
        if (probability > 1e-6) expect(prepared.units[index]?.unit).toBe(unit);
        const again = prepared.units.find((one) => one.unit === unit)?.probability ?? 0;
        expect(again).toBeCloseTo(probability, 6);
      }
      for (const _ of preparations(job, warm));
    }
  });

  it("leaves nothing to solve for a recording that was proposed", () => {
    const inference = engineOf("oxygen-narrow");
    const test = inference.tests().find(({ procedure }) => procedure.record && procedure.meter === "scan");
    if (test === undefined) throw new Error("no recording");
    inference.fillAhead(test);
    const { meter, red, setup } = test.procedure;
    const reading: Reading = { id: "r1", meter, red, setup, record: "min-max", value: { min: 0.1, max: 0.8 } } as Reading;
    const observations = inference.observe([{ reading, id: "r1", where: "readings[0]" }]);
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
    const { verdict, next } = diagnoseJob({ circuits: completeSheets([{ id: "purge", family: "solenoid-2w" }]), readings });
    expect(verdict.status).toBe("narrowing");
    // Its feed, or the winding by itself.
    expect(["feed@sensor", "feed@part"]).toContain(next[0]?.red);
    expect(next[0]?.meter).not.toBe("amps-dc");
  });
});

describe("two faults of which one shares its unit with whoever led alone", () => {
  const setup = { truth: { pressure: 98.3 } };
  const volts = (id: string, red: string, black: string, value: number): Reading => ({ id, meter: "volts-dc", red, black, setup, value });
  it("are weighed with that unit: a ground wire on battery led, a ground wire with ohms in it is one of the two", () => {
    const readings: Reading[] = [
      { id: "r1", meter: "scan", red: "sig@module", setup, value: 2.91 },
      volts("r2", "sig@sensor", "bat-", 5.02),
      volts("r3", "ref@sensor", "gnd@sensor", 0.24),
      volts("r4", "gnd@sensor", "bat-", 4.77),
      volts("r5", "sig@module", "bat-", 2.91),
    ];
    const circuit: Circuit = {
      id: "map",
      family: "pressure-3w",
      with: {
        vref: 5,
        limitA: 0.1,
        pulldown: 100_000,
        transfer: [
          [20, 0.5],
          [110, 4.5],
        ],
      },
    };
    const { verdict, units } = diagnoseJob({ circuits: [circuit], readings });
    const share = (unit: string): number => units.find((one) => one.unit === unit)?.probability ?? 0;
    expect(share("map/wire:sig")).toBeGreaterThan(0.95);
    // No reading tells the ground wire from its terminal at the module.
    for (const unit of ["map/wire:gnd", "map/contact:gnd@module"]) {
      expect(share(unit)).toBeGreaterThan(0.1);
      expect(verdict.unit).not.toBe(unit);
    }
  });
});

describe("units of several pairs that remain", () => {
  it("are open, and none of them is cleared: alone each explains too little", () => {
    const unplugged = { open: ["sensor"] };
    const tapped = { stimulus: { kind: "tap" as const } };
    const readings: Reading[] = [
      { id: "r1", meter: "scan", red: "sig@module", unit: "taps", setup: tapped, value: 0 },
      { id: "r2", meter: "scan", red: "sig@module", value: 2.5 },
      { id: "r3", meter: "volts-dc", red: "sig@sensor", black: "bat-", value: 2.51 },
      { id: "r4", meter: "volts-ac", red: "sig@part", black: "gnd@part", setup: { ...tapped, ...unplugged }, value: 0.0025 },
      { id: "r5", meter: "volts-dc", red: "bat+", black: "gnd@sensor", setup: unplugged, value: 0.43 },
      { id: "r6", meter: "lamp", red: "bat+", black: "gnd@sensor", setup: unplugged, value: "out" },
      { id: "r7", meter: "ohms", red: "gnd@module", black: "gnd@sensor", setup: { key: "off", open: ["sensor", "module"] }, value: 0.08 },
      { id: "r8", meter: "volts-dc", red: "gnd@module", black: "bat-", value: 0.05 },
      { id: "r9", meter: "volts-dc", red: "gnd@sensor", black: "bat-", value: 0.044 },
      { id: "r10", meter: "look", red: "sensor", setup: { key: "off", ...unplugged }, value: "ok" },
      {
        id: "r11",
        meter: "scan",
        red: "sig@module",
        setup: { ...unplugged, add: [{ kind: "resistor", from: "sig@sensor", to: "gnd@sensor", ohms: 4700 }] },
        value: 2.48,
      },
    ];
    const { verdict } = diagnoseJob({ circuits: completeSheets([{ id: "ks", family: "knock-2w" }]), readings });
    const cleared = verdict.refuted.map(({ unit }) => unit);
    expect([verdict.unit, verdict.also?.unit]).toContain("ks/sensor");
    expect(verdict.open.length).toBeGreaterThan(0);
    for (const unit of [verdict.unit, ...verdict.open]) expect(cleared).not.toContain(unit);
    expect(cleared).toContain("ks/wire:gnd");
  });
});
