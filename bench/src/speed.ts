import { spawnSync } from "node:child_process";
import { fileURLToPath } from "node:url";
import { buildModel, FAMILIES } from "@fox-lamp/core/circuit";
import { type DiagnosedJob, diagnoseJob, inferenceOf, preparations, Session } from "@fox-lamp/core/diagnosis";
import { faultsOf, placeFault } from "@fox-lamp/core/faults";
import { simulateReading } from "@fox-lamp/core/instruments";
import { compileNetwork, type Element, prepareEdits, solveNetwork } from "@fox-lamp/core/network";
import { analysePattern, entryOf, percentile, SparseFactor } from "@fox-lamp/core/numeric";
import { measurementOf } from "@fox-lamp/core/procedures";
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

/**
 * Milliseconds to open a circuit: network, faults, grid, and the predictions of every test for every hypothesis; and until the first
 * advice, which needs only some of them.
 */
export function openingSpeed(): { family: string; points: number; tests: number; ms: number; adviceMs: number }[] {
  return FAMILIES.map(({ id }) => {
    const times = [0, 1, 2].map(() => {
      const start = performance.now();
      const inference = inferenceOf([{ id: "x", family: id }], { conditions: { x: { temperature: 20, pressure: 100 } } });
      inference.testTables(inference.tests(), null);
      return { ms: performance.now() - start, points: inference.grid.count, tests: inference.tests().length };
    });
    const best = times.sort((a, b) => a.ms - b.ms)[1] as (typeof times)[number];
    const advices = [0, 1, 2].map(() => {
      const start = performance.now();
      diagnoseJob({ circuits: [{ id: "x", family: id }], conditions: { temperature: 20, pressure: 100 } }, new Session());
      return performance.now() - start;
    });
    return { family: id, points: best.points, tests: best.tests, ms: best.ms, adviceMs: percentile(advices, 0.5) };
  });
}

/** Does what the bench does while somebody walks to the car. */
function prepare(job: DiagnosedJob, cache: Session): void {
  for (const _ of preparations(job, cache));
}

/** How long advices took: with what the bench computes ahead between two readings, and without. */
export interface AdviceTimes {
  readonly prepared: { readonly p50: number; readonly p99: number };
  readonly cold: { readonly p50: number; readonly p99: number };
}

const spans = (times: readonly number[]): AdviceTimes["cold"] => ({ p50: percentile(times, 0.5), p99: percentile(times, 0.99) });

/**
 * Milliseconds of every advice after the first one in jobs that are solved by following it: each fault of a circuit of its own, one circuit
 * of every family.
 */
export function adviceSpeed(): AdviceTimes {
  const times = (ahead: boolean): number[] => {
    const all: number[] = [];
    for (const { id } of FAMILIES) {
      const circuits = [{ id: "x", family: id }];
      const model = buildModel(circuits);
      const faults = faultsOf(model).filter(({ matters, during }) => matters && during === null);
      const cache = new Session();
      // A round that is not timed, so that the code itself is warm.
      for (const [round, fault] of [faults[0], ...faults.filter((_, index) => index % 6 === 1)].entries())
        if (fault !== undefined) all.push(...adviceTimes(circuits, fault.id, cache, ahead).filter((_, index) => round > 0 && index > 0));
    }
    return all;
  };
  return { cold: spans(times(false)), prepared: spans(times(true)) };
}

const MOST_STEPS = 16;

/** Milliseconds of each advice in a job with a fault, followed to its end. */
function adviceTimes(circuits: Circuit[], faultId: string, cache: Session, ahead: boolean): number[] {
  const model = buildModel(circuits);
  const fault = placeFault(model, faultsOf(model), { id: faultId }, "fault");
  const readings: Reading[] = [];
  const times: number[] = [];
  for (let step = 0; step < MOST_STEPS; step += 1) {
    const job = { circuits, readings: [...readings], conditions: { pressure: 100, temperature: 20 } };
    const start = performance.now();
    const { next } = diagnoseJob(job, cache);
    times.push(performance.now() - start);
    const [first] = next;
    if (first === undefined) break;
    if (ahead) prepare(job, cache);
    const measurement = measurementOf(first);
    readings.push({ ...measurement, id: `r${step + 1}`, value: simulateReading(model, measurement, [fault], "reading") ?? "ok" });
  }
  return times;
}

/** Milliseconds of the advices in a job of eight circuits on one reference, one of them shorted to ground: the opening, then the others. */
export function sharedSpeed(): AdviceTimes & { readonly opening: number } {
  const kinds = ["pressure-3w", "potentiometer-3w", "potentiometer-3w", "pressure-3w", "pressure-3w", "potentiometer-3w", "pressure-3w", "potentiometer-3w"];
  const circuits: Circuit[] = [
    { id: "bus", family: "reference-bus" },
    ...kinds.map((family, index) => ({ id: `c${index}`, family, shares: { ref: "bus", join: index % 2 === 1 ? "S1" : "S2" } })),
  ];
  const [opening = 0, ...cold] = adviceTimes(circuits, "c3/wire:ref/short-ground", new Session(), false);
  const [, ...prepared] = adviceTimes(circuits, "c3/wire:ref/short-ground", new Session(), true);
  return { opening, cold: spans(cold), prepared: spans(prepared) };
}

const RUNS = 7;

/** Milliseconds of whole runs of the command line, start-up included: the first alone, and where a standby answers. */
export function commandSpeed(): { families: number; measure: number; alone: number; standby: number } {
  const command = fileURLToPath(new URL("../../bin/fox-lamp", import.meta.url));
  const example = (name: string): string => fileURLToPath(new URL(`../../apps/cli/warm-up/${name}.json`, import.meta.url));
  const time = (args: string[], standby: "on" | "off"): number => {
    const runs = Array.from({ length: RUNS }, () => {
      const start = performance.now();
      const { status } = spawnSync(command, args, { env: { ...process.env, FOX_LAMP_STANDBY: standby } });
      if (status !== 0) throw new Error(`fox-lamp ${args.join(" ")} ended with ${status}`);
      return performance.now() - start;
    });
    return percentile(runs, 0.5);
  };
  const diagnose = ["diagnose", example("hall")];
  return {
    families: time(["families"], "off"),
    alone: time(diagnose, "off"),
    standby: time(diagnose, "on"),
    measure: time(["measure", example("measure")], "on"),
  };
}
