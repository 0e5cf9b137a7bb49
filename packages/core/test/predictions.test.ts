import type { Measurement } from "@fox-lamp/language";
import fc from "fast-check";
import { applySetup, buildModel, type CircuitModel, connectorsOf, FAMILIES, type Model } from "../src/circuit";
import { inferenceOf } from "../src/diagnosis";
import { emptyTable } from "../src/diagnosis/predictions/table";
import { TableBuilder } from "../src/diagnosis/predictions/table-builder";
import {
  AC_OFFSET_VOLTS,
  acFactor,
  averageOf,
  columnsOf,
  conductorAmps,
  type ElectricalProbe,
  harmOf,
  logOhms,
  portsOf,
  probeOf,
  type Rhythm,
  shownAmps,
  shownVolts,
  swingOf,
} from "../src/instruments";
import { type EditField, OPEN_OHMS, portOhms, prepareEdits, solveNetwork, withEdits } from "../src/network";
import { BoundedCache } from "../src/numeric";
import { expectHealthy, generateTests, measurementOf, predictHealthy } from "../src/procedures";

const CONDITIONS = { temperature: 20, pressure: 100, position: 0 };

interface Change {
  readonly element: number;
  readonly field: EditField;
  readonly value: (now: number) => number;
}

/** What a probe's number is with some element values changed, without any of the engine's shortcuts. */
function numberWith(model: Model, probe: ElectricalProbe, world: number, changes: readonly Change[]): number {
  const { circuit } = probe;
  const prepared = applySetup(model, probe.setup, circuit.id, "setup", new Map([[circuit.id, world]]));
  const moments = prepared.moments.map(({ share, values }) => {
    const edits = changes.map(({ element, field, value }) => ({ element, field, value: value(values[field][element] as number) }));
    return { share, solution: solveNetwork(prepared.net, withEdits(values, edits)) };
  });
  const seen: Rhythm = { moments, swing: prepared.drive.swing, shape: prepared.drive.shape, hertz: prepared.drive.hertz };
  const ports = portsOf(seen, probe.red, probe.black);
  const port = (moment: number) => ports[moment] as (typeof ports)[number];
  switch (probe.meter) {
    case "scan":
      return averageOf(seen, (moment) => port(moment).openVolts);
    case "ohms":
      return logOhms(port(0).ohms);
    case "volts-ac":
      return Math.log(acFactor(seen) * Math.abs(swingOf(seen, (moment) => shownVolts(port(moment)))) + AC_OFFSET_VOLTS);
    case "amps-dc":
      return averageOf(seen, (moment) =>
        probe.clamp === null ? shownAmps(port(moment)) : conductorAmps((moments[moment] as (typeof moments)[number]).solution, probe.clamp),
      );
    default:
      return averageOf(seen, (moment) => shownVolts(port(moment)));
  }
}

const SLOPED = ["volts-dc", "volts-ac", "scan", "ohms", "amps-dc"];

describe.each(FAMILIES.map(({ id }) => id))("predictions of %s", (family) => {
  const model = buildModel([{ id: "x", family }]);
  const circuit = model.circuits[0] as CircuitModel;
  const columns = columnsOf(model);
  const numeric = generateTests(model, circuit, CONDITIONS).filter(({ meter, record, unit }) => SLOPED.includes(meter) && !record && unit === null);
  const world = circuit.built.world.nominal;

  it("have the slopes that moving each tolerance by a little gives", () => {
    fc.assert(
      fc.property(fc.constantFrom(...numeric), fc.nat(Math.max(...columns.tolerances.column)), (test, column) => {
        const probe = probeOf(model, measurementOf(test), "m") as ElectricalProbe;
        const prediction = predictHealthy(model, probe, columns, world, 1);
        // A lamp's resistance moves with its current; its slope is taken at the working point, which the full change is not.
        fc.pre(!(test.setup.add ?? []).some(({ kind }) => kind === "lamp"));
        const step = 0.01;
        const { moments } = applySetup(model, probe.setup, circuit.id, "setup", new Map([[circuit.id, world]]));
        const { tolerances: flat } = columns;
        const targets = [...flat.column.keys()].flatMap((at) =>
          flat.column[at] === column
            ? [{ element: flat.element[at] as number, field: flat.field[at] as EditField, sigma: flat.sigma[at] as number, ofVolts: flat.ofVolts[at] === 1 }]
            : [],
        );
        const moved = (by: number): Change[] =>
          targets.map(({ element, field, sigma, ofVolts }) => ({
            element,
            field,
            value: (now) => (field === "ohms" ? now * Math.exp(sigma * by) : now + (ofVolts ? now : 1) * sigma * by),
          }));
        // An opened contact is no longer a tolerance, and a lowered supply may switch a part off.
        fc.pre(!targets.some(({ element, field }) => field === "ohms" && moments.some(({ values }) => (values.ohms[element] as number) >= 1e8)));
        const slope = (numberWith(model, probe, world, moved(step)) - numberWith(model, probe, world, moved(-step))) / (2 * step);
        expect(Math.abs((prediction.jacobian[column] as number) - slope)).toBeLessThan(Math.max(1e-3, 5e-3 * Math.abs(slope)));
      }),
      { numRuns: 60 },
    );
  });

  it("follow the sensed quantity by its own slope", () => {
    const { normal, forced } = circuit.built.world;
    const test = numeric.find(({ meter, setup }) => meter === "scan" && setup.key === undefined && setup.open === undefined);
    if (test === undefined || forced !== undefined || normal.length < 3) return;
    const probe = probeOf(model, { ...measurementOf(test), setup: {} }, "m") as ElectricalProbe;
    const at = normal[Math.floor(normal.length / 2)]?.value ?? world;
    const prediction = predictHealthy(model, probe, columns, at, 2);
    const slope = numberWith(model, probe, at + 1, []) - numberWith(model, probe, at - 1, []);
    expect(prediction.jacobian[columns.worldOf.get("x") ?? -1]).toBeCloseTo(slope, 1);
  });
});

/** Grounds, or a feed that is the battery's own. */
const GROUND = /^(?:gnd|ret|pgnd)|^feed@|^htr-feed@/u;

describe.each(FAMILIES.map(({ id }) => id))("generated tests of %s", (family) => {
  const model = buildModel([{ id: "x", family, inline: ["C1"] }]);
  const circuit = model.circuits[0] as CircuitModel;
  const tests = generateTests(model, circuit, CONDITIONS);

  it("are each their own, can be done, and know what a healthy circuit shows", () => {
    expect(new Set(tests.map(({ id }) => id)).size).toBe(tests.length);
    for (const test of tests) {
      expect(test.title.length).toBeGreaterThan(5);
      expect(test.proves.length).toBeGreaterThan(10);
      const expected = expectHealthy(model, measurementOf(test) as Measurement, test.id);
      expect(expected?.word !== undefined || (expected?.low !== null && expected?.high !== null)).toBe(true);
    }
  });
  it("never measure resistance on a live line", () => {
    for (const test of tests.filter(({ meter }) => meter === "ohms" || meter === "continuity")) {
      expect(test.setup.key).toBe("off");
      expect(test.opens.length).toBeGreaterThan(0);
      expect(test.cautions.length).toBeGreaterThan(0);
    }
  });
  it("never put battery voltage on a reference or signal pin, and the lamp on grounds only", () => {
    for (const { setup, meter, red, black } of tests) {
      const bridges = [...(setup.add ?? []).map(({ from, to }) => [from, to]), ...(meter === "lamp" ? [[red, black ?? ""]] : [])];
      for (const ends of bridges) if (ends.includes("bat+")) expect(ends.every((end) => end === "bat+" || GROUND.test(end ?? ""))).toBe(true);
    }
  });
  it("say which connectors they open and what they need", () => {
    for (const test of tests) {
      expect([...test.opens].sort()).toEqual([...(test.setup.open ?? [])].sort());
      if ((test.setup.add ?? []).length > 0) expect(test.needs.length).toBeGreaterThan(1);
    }
  });
  it("warn of no harm by themselves", () => {
    for (const test of tests) expect(harmOf(model, measurementOf(test))).toEqual([]);
  });
  it("never probe a shield", () => {
    for (const { red, black } of tests) expect(`${red} ${black ?? ""}`).not.toContain("shield");
  });
  it("reach the inline connector too", () => {
    if (circuit.paths.length > 0 && family !== "reference-bus") expect(tests.some(({ red }) => red.endsWith("@C1"))).toBe(true);
  });
});

describe("prediction tables", () => {
  it("are the same filled at once or point by point", () => {
    const engine = inferenceOf([{ id: "x", family: "thermistor-2w" }], { conditions: { x: { temperature: 20 } } });
    const probes = engine.tests().slice(0, 6);
    const fresh = (): TableBuilder => new TableBuilder(engine.model, engine.grid, engine.columns, new BoundedCache(1e8), "x", "x own");
    const [whole, bits] = [fresh(), fresh()];
    const wholeTables = probes.map(({ probe }) => emptyTable(probe, engine.grid.count));
    whole.fill(wholeTables, null);
    const bitTables = probes.map(({ probe }) => emptyTable(probe, engine.grid.count));
    for (const point of [7, 3, 120, 3, 55]) bits.fill(bitTables, [point]);
    bitTables.forEach((table, index) => {
      for (const point of [3, 7, 55, 120]) {
        if (!table.numeric) continue;
        const [slot, other] = [table.slot[point] ?? -1, wholeTables[index]?.slot[point] ?? -1];
        expect(table.mean[slot]).toBeCloseTo(wholeTables[index]?.mean[other] ?? Number.NaN, 12);
        expect(table.noise[slot]).toBeCloseTo(wholeTables[index]?.noise[other] ?? Number.NaN, 12);
      }
    });
  });
  it.each(["potentiometer-3w", "dual-track", "thermistor-2w", "pressure-3w"])(
    "share what a stated quantity makes alike, and are what each cell alone would show: %s",
    (family) => {
      const engine = inferenceOf([{ id: "x", family }], {});
      const { grid, model, columns } = engine;
      const circuit = model.circuits[0] as CircuitModel;
      const truth = { [circuit.built.world.quantity]: circuit.built.world.nominal };
      const probes = ["sig", "sig1"].flatMap((pin) =>
        circuit.pins.some((one) => one.pin === pin)
          ? [
              probeOf(model, { circuit: "x", meter: "volts-dc", red: `${pin}@sensor`, black: "bat-", setup: { key: "on", truth } }, "m"),
              probeOf(model, { circuit: "x", meter: "scan", red: `${pin}@module`, setup: { key: "on", open: ["sensor"] } }, "m"),
            ]
          : [],
      );
      const fresh = (): TableBuilder => new TableBuilder(model, grid, columns, new BoundedCache(1e8), "x", "x own");
      const tables = probes.map((probe) => emptyTable(probe as ElectricalProbe, grid.count));
      fresh().fill(tables, null);
      const looks = new Set(
        [...grid.fault.keys()].map((cell) => `${grid.fault[cell]} ${grid.severity[cell]} ${grid.severitySpread[cell]} ${JSON.stringify(grid.variant[cell])}`),
      );
      fc.assert(
        fc.property(fc.nat(grid.count - 1), (cell) => {
          const alone = probes.map((probe) => emptyTable(probe as ElectricalProbe, grid.count));
          fresh().fill(alone, [cell]);
          tables.forEach((table, index) => {
            const other = alone[index] as (typeof alone)[number];
            const [slot, own] = [table.slot[cell] as number, other.slot[cell] as number];
            expect(table.mean[slot]).toBeCloseTo(other.mean[own] as number, 12);
            expect(table.noise[slot]).toBeCloseTo(other.noise[own] as number, 12);
            const slopes = ({ jacobian }: typeof table, row: number): number[] => [...jacobian.subarray(row * columns.count, (row + 1) * columns.count)];
            const ours = slopes(other, own);
            for (const [column, slope] of slopes(table, slot).entries()) expect(slope).toBeCloseTo(ours[column] as number, 12);
            expect((table.quiet[cell] ?? -1) >= 0).toBe((other.quiet[cell] ?? -1) >= 0);
          });
        }),
        { numRuns: 60 },
      );
      // The healthy circuit, and electronics on the brink, have rows of their own besides.
      for (const { rows, brinks } of tables) expect(rows).toBeLessThanOrEqual(looks.size + (brinks?.size ?? 0));
    },
  );
  it("cover a severity between two grid points", () => {
    const engine = inferenceOf([{ id: "x", family: "thermistor-2w" }], { conditions: { x: { temperature: 20 } } });
    const { grid } = engine;
    const resistance = grid.faults.findIndex((fault) => fault?.id === "x/wire:sig/resistance");
    const own = [...grid.fault.keys()].filter((point) => grid.fault[point] === resistance);
    own.slice(1).forEach((point, index) => {
      const gap = Math.log((grid.severity[point] as number) / (grid.severity[own[index] as number] as number));
      // Half of the way from one, half of it from the other: what is slight stands in fewer, wider cells.
      const reached = (grid.severitySpread[point] as number) + (grid.severitySpread[own[index] as number] as number);
      expect(reached).toBeGreaterThanOrEqual(0.98 * gap);
    });
    expect(grid.prior.reduce((sum, weight) => sum + weight, 0)).toBeCloseTo(1, 9);
  });
});

describe("opening what ties an island to the rest", () => {
  it.each(FAMILIES.map(({ id }) => id))("an edit that cuts off part of %s equals a rebuild, unplugged at both ends", (family) => {
    const model = buildModel([{ id: "x", family }]);
    const [circuit] = model.circuits as [CircuitModel];
    const places = connectorsOf(circuit);
    const { net, moments } = applySetup(model, { key: "off", open: places.map((place) => (place === "module" ? place : `x:${place}`)) }, "x");
    const base = solveNetwork(net, (moments[0] as (typeof moments)[number]).values);
    const room = prepareEdits(base);
    let cut = 0;
    for (const [name, element] of net.elementIndex) {
      if (!/\/(wire|contact):/u.test(name) || (base.values.ohms[element] as number) > 1e6) continue;
      const edits = [{ element, field: "ohms" as const, value: OPEN_OHMS }];
      const quick = room.apply(edits);
      const slow = solveNetwork(net, withEdits(base.values, edits), base.regimes);
      for (let row = 0; row < net.nodes.length; row += 1) expect(Math.abs((quick.volts[row] as number) - (slow.volts[row] as number))).toBeLessThan(1e-5);
      const [a, b] = [net.a[element] as number, net.b[element] as number];
      const [left, right] = [portOhms(quick, a, b), portOhms(slow, a, b)];
      expect(Math.abs(left - right)).toBeLessThan(2e-3 * right + 1e-6);
      cut += 1;
    }
    expect(cut > 0 || circuit.paths.every(({ steps }) => steps.every(({ kind }) => kind === "contact"))).toBe(true);
  });
});
