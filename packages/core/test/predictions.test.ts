import type { Measurement } from "@fox-lamp/language";
import fc from "fast-check";
import { applySetup, buildModel, type CircuitModel, FAMILIES } from "../src/circuit";
import { CircuitEngine } from "../src/diagnosis";
import { TableBuilder } from "../src/diagnosis/tables";
import { logOhms, type Probe, portOfProbe, probeOf, shownVolts } from "../src/instruments";
import { solveNetwork, voltsBetween, withEdits } from "../src/network";
import { columnsOf, expectHealthy, generateTests, measurementOf, predictHealthy } from "../src/tests";

type Electrical = Extract<Probe, { kind: "electrical" }>;

const CONDITIONS = { temperature: 20, pressure: 100 };

/** What a probe's number is with some element values changed, without any of the engine's shortcuts. */
function numberWith(
  circuit: CircuitModel,
  model: ReturnType<typeof buildModel>,
  probe: Electrical,
  world: number,
  change: { element: number; field: "ohms" | "volts" | "gain"; value: number }[],
): number {
  const prepared = applySetup(model, probe.setup, circuit.id, "setup", new Map([[circuit.id, world]]));
  const solution = solveNetwork(prepared.net, withEdits(prepared.values, change));
  const { nodeIndex } = solution.net;
  if (probe.meter === "scan") return voltsBetween(solution.volts, nodeIndex.get(probe.red) ?? -1, nodeIndex.get(probe.black) ?? -1);
  const port = portOfProbe(solution, probe.red, probe.black);
  return probe.meter === "ohms" ? logOhms(port.ohms) : shownVolts(port);
}

describe.each(FAMILIES.map(({ id }) => id))("predictions of %s", (family) => {
  const model = buildModel([{ id: "x", family }]);
  const circuit = model.circuits[0] as CircuitModel;
  const columns = columnsOf(model, circuit);
  const tests = generateTests(circuit, CONDITIONS);
  const numeric = tests.filter(({ meter }) => meter === "volts-dc" || meter === "scan" || meter === "ohms");

  it("have the slopes that moving each tolerance by a little gives", () => {
    fc.assert(
      fc.property(fc.constantFrom(...numeric), fc.nat(columns.tolerances.length - 1), (test, column) => {
        const probe = probeOf(model, measurementOf(test), "m") as Electrical;
        const world = circuit.built.world.nominal;
        const prediction = predictHealthy(model, probe, columns, world, 1);
        // A lamp's resistance moves with its current; its slope is taken at the working point, which the full change is not.
        fc.pre(!(test.setup.add ?? []).some(({ kind }) => kind === "lamp"));
        const step = 0.01;
        const prepared = applySetup(model, probe.setup, circuit.id, "setup", new Map([[circuit.id, world]]));
        const targets = columns.tolerances[column] ?? [];
        const moved = (by: number) =>
          targets.map(({ element, field, sigma }) => {
            const value = prepared.values[field][element] as number;
            return { element, field, value: field === "ohms" ? value * Math.exp(sigma * by) : value + sigma * by };
          });
        const opened = targets.some(({ element, field }) => field === "ohms" && (prepared.values.ohms[element] as number) >= 1e8);
        fc.pre(!opened);
        const slope = (numberWith(circuit, model, probe, world, moved(step)) - numberWith(circuit, model, probe, world, moved(-step))) / (2 * step);
        expect(Math.abs((prediction.jacobian[column] as number) - slope)).toBeLessThan(5e-3 * Math.max(0.05, Math.abs(slope)));
      }),
      { numRuns: 60 },
    );
  });

  it("follow the sensed quantity by its own slope", () => {
    const probe = probeOf(model, { circuit: "x", meter: "scan", red: "sig@module" }, "m") as Electrical;
    const { normal } = circuit.built.world;
    const world = normal[Math.floor(normal.length / 2)]?.value ?? circuit.built.world.nominal;
    const prediction = predictHealthy(model, probe, columns, world, 2);
    const slope = numberWith(circuit, model, probe, world + 1, []) - numberWith(circuit, model, probe, world - 1, []);
    expect(prediction.jacobian[columns.world]).toBeCloseTo(slope, 1);
  });
});

describe.each(FAMILIES.map(({ id }) => id))("generated tests of %s", (family) => {
  const model = buildModel([{ id: "x", family, inline: ["C1"] }]);
  const circuit = model.circuits[0] as CircuitModel;
  const tests = generateTests(circuit, CONDITIONS);

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
      for (const ends of bridges) if (ends.includes("bat+")) expect(ends.every((end) => end === "bat+" || (end ?? "").startsWith("gnd"))).toBe(true);
    }
  });
  it("say which connectors they open and what they need", () => {
    for (const test of tests) {
      expect([...test.opens].sort()).toEqual([...(test.setup.open ?? [])].sort());
      if ((test.setup.add ?? []).length > 0) expect(test.needs.length).toBeGreaterThan(1);
    }
  });
  it("reach the inline connector too", () => {
    expect(tests.some(({ red }) => red.endsWith("@C1"))).toBe(true);
  });
});

describe("prediction tables", () => {
  it("are the same filled at once or point by point", () => {
    const engine = new CircuitEngine({ id: "x", family: "thermistor-2w" }, { temperature: 20 }, false);
    const probes = engine.tests().slice(0, 6);
    const fresh = (): TableBuilder => new TableBuilder(engine.model, engine.circuit, engine.points, engine.columns);
    const [whole, bits] = [fresh(), fresh()];
    const wholeTables = whole.make(probes.map(({ probe }) => probe));
    whole.fill(wholeTables, null);
    const bitTables = bits.make(probes.map(({ probe }) => probe));
    for (const point of [7, 3, 120, 3, 55]) bits.fill(bitTables, [point]);
    bitTables.forEach((table, index) => {
      for (const point of [3, 7, 55, 120]) {
        if (!table.numeric) continue;
        expect(table.mean[point]).toBeCloseTo(wholeTables[index]?.mean[point] ?? Number.NaN, 12);
        expect(table.noise[point]).toBeCloseTo(wholeTables[index]?.noise[point] ?? Number.NaN, 12);
      }
    });
  });
  it("cover a severity between two grid points", () => {
    const engine = new CircuitEngine({ id: "x", family: "thermistor-2w" }, { temperature: 20 }, false);
    const { points } = engine;
    const resistance = points.faults.findIndex((fault) => fault?.id === "x/wire:sig/resistance");
    const own = [...points.fault.keys()].filter((point) => points.fault[point] === resistance);
    own.slice(1).forEach((point, index) => {
      const gap = Math.log((points.severity[point] as number) / (points.severity[own[index] as number] as number));
      expect(points.severitySpread[point]).toBeGreaterThanOrEqual(0.49 * gap);
    });
    expect(points.prior.reduce((sum, weight) => sum + weight, 0)).toBeCloseTo(1, 9);
  });
});
