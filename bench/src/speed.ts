import { spawnSync } from "node:child_process";
import { fileURLToPath } from "node:url";
import { buildModel, FAMILIES } from "@fox-lamp/core/circuit";
import { CircuitEngine, diagnoseJob, EngineCache } from "@fox-lamp/core/diagnosis";
import { faultsOf, placeFault } from "@fox-lamp/core/faults";
import { simulateReading } from "@fox-lamp/core/instruments";
import { compileNetwork, type Element, prepareEdits, solveNetwork } from "@fox-lamp/core/network";
import { analysePattern, entryOf, percentile, SparseFactor } from "@fox-lamp/core/numeric";
import { generateTests, measurementOf } from "@fox-lamp/core/tests";
import type { Circuit, Reading } from "@fox-lamp/language";

function perSecond(task: () => void, seconds: number): number {
  for (let warm = 0; warm < 200; warm += 1) task();
  const start = performance.now();
  let done = 0;
  while (performance.now() - start < 1000 * seconds) {
    for (let k = 0; k < 50; k += 1) task();
    done += 50;
  }
  return (1000 * done) / (performance.now() - start);
}

function ladder(nodes: number): Element[] {
  const elements: Element[] = [{ kind: "source", id: "s", plus: "n0", minus: "bat-", volts: 12, ohms: 0.1 }];
  for (let index = 0; index < nodes; index += 1) {
    elements.push({ kind: "resistor", id: `a${index}`, a: `n${index}`, b: index + 1 < nodes ? `n${index + 1}` : "bat-", ohms: 10 + index });
    elements.push({ kind: "resistor", id: `b${index}`, a: `n${index}`, b: "bat-", ohms: 1000 + index });
  }
  return elements;
}

/** DC solves a second on 16 nodes: full with inverse, factor and solve alone, and by a rank-one edit. */
export function solveSpeed(): { full: number; factorAndSolve: number; edited: number } {
  const net = compileNetwork(ladder(16));
  const base = solveNetwork(net);
  const room = prepareEdits(base);
  let turn = 0;
  const edited = perSecond(() => {
    turn += 1;
    room.apply([{ element: 5, field: "ohms", value: 10 + (turn % 97) }]);
  }, 1);
  const full = perSecond(() => void solveNetwork(net), 1);
  const n = 16;
  const pairs = Array.from({ length: n - 1 }, (_, row) => [row, row + 1] as const);
  const pattern = analysePattern(n, pairs);
  const places = pairs.flatMap(([row, column]) => [entryOf(pattern, row, column), entryOf(pattern, column, row)]);
  const factor = new SparseFactor(pattern);
  const vector = new Float64Array(n);
  const factorAndSolve = perSecond(() => {
    for (const at of places) factor.values[at] = -0.1;
    factor.sums.fill(1e-3);
    vector.fill(1);
    factor.factor();
    factor.solve(vector, vector);
  }, 1);
  return { full, factorAndSolve, edited };
}

/** Milliseconds to open a circuit: network, faults, grid, and the predictions of every test for every hypothesis. */
export function openingSpeed(): { family: string; points: number; tests: number; ms: number }[] {
  return FAMILIES.map(({ id }) => {
    const times = [0, 1, 2].map(() => {
      const start = performance.now();
      const engine = new CircuitEngine([{ id: "x", family: id }], { conditions: { x: { temperature: 20, pressure: 100 } } });
      engine.testTables(
        engine.tests().map((_, index) => index),
        null,
      );
      return { ms: performance.now() - start, points: engine.points.count, tests: engine.tests().length };
    });
    const best = times.sort((a, b) => a.ms - b.ms)[1] as (typeof times)[number];
    return { family: id, points: best.points, tests: best.tests, ms: best.ms };
  });
}

/** Milliseconds of an advice after a reading, engine warm. */
export function adviceSpeed(): { p50: number; p99: number } {
  const cache = new EngineCache();
  const times: number[] = [];
  for (const { id } of FAMILIES) {
    const circuit = { id: "x", family: id };
    const model = buildModel([circuit]).circuits[0];
    for (let value = 1; value <= 20; value += 1) {
      const measurements = model === undefined ? [] : generateTests(buildModel([circuit]), model, { temperature: 20, pressure: 100, position: 0 });
      const chosen = measurements.filter(({ meter, setup }) => meter === "volts-dc" && setup.add === undefined).slice(0, 2);
      const readings = chosen.map((test, index) => ({ ...measurementOf(test), id: `r${index + 1}`, value: value / 4.1 }));
      diagnoseJob({ circuits: [circuit], readings: readings.slice(0, 1) }, cache);
      const start = performance.now();
      diagnoseJob({ circuits: [circuit], readings }, cache);
      if (value > 2) times.push(performance.now() - start);
    }
  }
  return { p50: percentile(times, 0.5), p99: percentile(times, 0.99) };
}

/** Milliseconds of each advice in a job of eight circuits on one reference, one of them shorted to ground: the opening, then the others. */
export function sharedSpeed(): { opening: number; p50: number; p99: number } {
  const kinds = ["pressure-3w", "potentiometer-3w", "potentiometer-3w", "pressure-3w", "pressure-3w", "potentiometer-3w", "pressure-3w", "potentiometer-3w"];
  const circuits: Circuit[] = [
    { id: "bus", family: "reference-bus" },
    ...kinds.map((family, index) => ({ id: `c${index}`, family, shares: { ref: "bus", join: index % 2 === 1 ? "S1" : "S2" } })),
  ];
  const model = buildModel(circuits);
  const fault = placeFault(model, faultsOf(model), { id: "c3/wire:ref/short-ground", ohms: 1 }, "fault");
  const cache = new EngineCache();
  const readings: Reading[] = [];
  const times: number[] = [];
  for (let step = 0; step < 16; step += 1) {
    const start = performance.now();
    const { next } = diagnoseJob({ circuits, readings, conditions: { pressure: 100, temperature: 20 } }, cache);
    times.push(performance.now() - start);
    const [first] = next;
    if (first === undefined) break;
    const measurement = measurementOf(first);
    readings.push({ ...measurement, id: `r${step + 1}`, value: simulateReading(model, measurement, [fault], "reading") ?? "ok" });
  }
  const [opening = 0, ...later] = times;
  return { opening, p50: percentile(later, 0.5), p99: percentile(later, 0.99) };
}

/** Milliseconds of whole runs of the command line, start-up included. */
export function commandSpeed(): { families: number; diagnose: number } {
  const command = fileURLToPath(new URL("../../bin/fox-lamp", import.meta.url));
  const job = JSON.stringify({
    circuits: [{ id: "ect", family: "thermistor-2w" }],
    readings: [{ meter: "scan", red: "sig@module", value: 4.2, setup: { truth: { temperature: 18 } } }],
  });
  const time = (args: string[], input = ""): number => {
    const runs = [0, 1, 2, 3, 4].map(() => {
      const start = performance.now();
      spawnSync(command, args, { input });
      return performance.now() - start;
    });
    return percentile(runs, 0.5);
  };
  return { families: time(["families"]), diagnose: time(["diagnose", "-"], job) };
}
