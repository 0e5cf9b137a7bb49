import { BadInput, type Circuit, type Expect, type Measurement, type Reading } from "@fox-lamp/language";
import { buildModel, type CircuitModel, fixedWorld, type Model, situationOf, type WorldValue } from "../circuit";
import { type Fault, faultsOf, HEALTHY_PRIOR, type Hint } from "../faults";
import { type ElectricalProbe, isElectrical, type Probe, probeOf, scaleOf } from "../instruments";
import {
  type Columns,
  type Conditions,
  columnsOf,
  expectOf,
  generateTests,
  measurementId,
  measurementOf,
  type Policy,
  type Procedure,
  USUAL_POLICY,
  withOther,
  wordsOf,
} from "../tests";
import type { Circumstances, Evidence, Observation } from "./evidence";
import { layPoints, type Points, type WorldGrid, wideOf } from "./points";
import { RowBank } from "./row-bank";
import { type PredictionTable, TableBuilder } from "./tables";
import { type Weighed, weigh } from "./weigh";

/** A test of the engine with its predictions' key. */
export interface OfferedTest {
  readonly procedure: Procedure;
  readonly probe: Probe;
  /** The window of a healthy circuit, computed when it is asked for. */
  readonly expect: () => Expect;
}

/** A leader is challenged in two or three steps, each with hypotheses of its own. */
const KEPT_GRIDS = 3;
/** Other grids than the circuits' own keep so many prediction tables. */
const MOST_TABLES = 48;

/** What an engine is built from besides its circuits. */
export interface EngineOptions {
  /** What each circuit senses, where it is known for the whole job, by circuit id. */
  readonly conditions: Readonly<Record<string, Conditions>>;
  /** Circuits of which some reading leaves the sensed quantity open, so that its whole range is weighed. */
  readonly open: ReadonlySet<string>;
  readonly hints: readonly Hint[];
  readonly policy: Policy;
  /** Whose battery and grounds they are. */
  readonly carId: string;
}

/**
 * Everything computed once for circuits that share anything: network, faults, grid and, as they are asked for, prediction
 * tables. It depends on the circuits and on what is known about them, never on the readings' values, so it is kept between
 * readings and between jobs.
 */
export class CircuitEngine {
  readonly model: Model;
  readonly circuits: readonly CircuitModel[];
  readonly columns: Columns;
  readonly faults: readonly Fault[];
  readonly points: Points;
  /** log of how much likelier "the value is true" is made by what is known, by unit. */
  readonly outsideLog: ReadonlyMap<string, number>;
  private readonly builder: TableBuilder;
  private readonly tables = new Map<string, PredictionTable>();
  private offered: readonly OfferedTest[] | null = null;
  private weighed: Weighed | null = null;

  /** Engines of the same circuits under other hypotheses, the last ones asked for, and their rows. */
  private readonly grown = new Map<string, CircuitEngine>();
  private readonly lasting: CircuitEngine[] = [];
  private readonly bank: RowBank;
  /** The engine with the circuits' own grid. */
  private readonly root: CircuitEngine;
  private readonly options: EngineOptions;

  /** @param grown another engine of the same circuits, whose model and faults are taken over with other hypotheses */
  constructor(circuits: readonly Circuit[], given: Partial<EngineOptions> = {}, where = "circuits", grown?: { from: CircuitEngine; points: Points }) {
    const options: EngineOptions = { conditions: {}, open: new Set(), hints: [], policy: USUAL_POLICY, carId: "car", ...given };
    this.options = options;
    this.root = grown?.from.root ?? this;
    if (grown !== undefined) {
      const { from, points } = grown;
      this.model = from.model;
      this.circuits = from.circuits;
      this.columns = withOther(from.columns);
      this.faults = from.faults;
      this.outsideLog = from.outsideLog;
      this.offered = from.tests();
      this.points = points;
      this.bank = from.bank;
      this.builder = new TableBuilder(this.model, points, this.columns, from.builder);
      return;
    }
    this.model = buildModel(circuits, where, options.carId);
    this.circuits = this.model.circuits;
    this.columns = columnsOf(this.model);
    this.faults = faultsOf(this.model, options.hints);
    const grids = this.circuits.map((circuit) => alikeForAll(gridOf(circuit, options), circuit, this.circuits.length));
    this.outsideLog = new Map(grids.map(({ circuit, outsideFactor }) => [`${circuit}/outside`, outsideFactor === 0 ? 0 : Math.log(outsideFactor)]));
    this.points = layPoints(this.faults, HEALTHY_PRIOR, grids);
    this.bank = new RowBank();
    this.builder = new TableBuilder(this.model, this.points, this.columns);
  }

  /** The same circuits under other hypotheses; the last ones asked for are kept. @param key names the hypotheses */
  withPoints(key: string, points: () => Points): CircuitEngine {
    const engine = this.grown.get(key) ?? new CircuitEngine([], this.options, "", { from: this, points: points() });
    this.grown.delete(key);
    this.grown.set(key, engine);
    if (this.grown.size > KEPT_GRIDS) this.grown.delete(this.grown.keys().next().value ?? "");
    return engine;
  }

  /** The same circuits under other hypotheses, kept as long as these. */
  beside(points: Points): CircuitEngine {
    const engine = new CircuitEngine([], this.options, "", { from: this, points });
    this.lasting.push(engine);
    return engine;
  }

  /** Every grid of these circuits that is in use: their own first. */
  grids(): readonly CircuitEngine[] {
    return [this.root, ...this.root.lasting, ...this.root.grown.values()];
  }

  /** The circuit with an id; the first one for battery and grounds. */
  circuitOf(id: string): CircuitModel {
    return this.circuits.find((circuit) => circuit.id === id) ?? (this.circuits[0] as CircuitModel);
  }

  /** The tests of the circuits under their conditions, each with the window of a healthy circuit. */
  tests(): readonly OfferedTest[] {
    this.offered ??= this.circuits.flatMap((circuit) =>
      generateTests(this.model, circuit, this.options.conditions[circuit.id], this.options.policy).map((procedure) => {
        const probe = this.probe(measurementOf(procedure), procedure.title);
        if (probe === null) throw new Error(`${procedure.id} has no probe`);
        let expect: Expect | null = null;
        return {
          procedure,
          probe,
          expect: () => {
            expect ??= expectOf(this.model, probe, this.columns);
            return expect;
          },
        };
      }),
    );
    return this.offered;
  }

  /** Resolves a measurement of these circuits. @throws BadInput for leads that do not exist */
  probe(measurement: Measurement, where: string): Probe | null {
    return probeOf(this.model, measurement, where);
  }

  /**
   * Prediction tables of probes; rows are computed where they are missing.
   * @param points the points whose rows are needed; null for all
   */
  tablesFor(probes: readonly { readonly key: string; readonly probe: Probe }[], points: readonly number[] | null): PredictionTable[] {
    const found = probes.map(({ key, probe }) => {
      let table = this.tables.get(key);
      if (!table) {
        [table] = this.builder.make([probe]) as [PredictionTable];
      } else this.tables.delete(key);
      // What was asked for last is forgotten last; the circuits' own grid keeps all.
      this.tables.set(key, table);
      return table;
    });
    if (this.root !== this) for (const key of [...this.tables.keys()].slice(0, Math.max(0, this.tables.size - MOST_TABLES))) this.tables.delete(key);
    probes.forEach(({ key }, index) => {
      this.bank.fill(key, found[index] as PredictionTable, this.points, this.columns.count);
    });
    this.builder.fill(found, points);
    probes.forEach(({ key }, index) => {
      this.bank.store(key, found[index] as PredictionTable, this.points);
    });
    return found;
  }

  /** Prediction tables of offered tests (by index) for some points. */
  testTables(indices: readonly number[], points: readonly number[] | null): PredictionTable[] {
    const offered = this.tests();
    return this.tablesFor(
      indices.map((index) => offered[index] as OfferedTest).map(({ procedure, probe }) => ({ key: `${procedure.circuit} ${procedure.id}`, probe })),
      points,
    );
  }

  /** Fills what a reading of an offered test will be weighed on, under every hypothesis. */
  fillAhead(test: OfferedTest): void {
    const { procedure, probe } = test;
    const reading: Reading = { ...measurementOf(procedure), id: "", value: procedure.record ? { min: 0, max: 0 } : 0 };
    const key = keyOf(probe, reading);
    this.tablesFor(
      spoken(reading, probe).map((part) => ({ key: `${key}${part.suffix}`, probe: part.probe })),
      null,
    );
  }

  /**
   * Turns readings of these circuits into observations; those that say nothing about them are left out. A recording becomes
   * two: its lowest and its highest value. Of a measurement taken again and again only a few speak.
   * @throws BadInput for readings that cannot belong to the circuits
   */
  observe(readings: readonly { readonly reading: Reading; readonly id: string; readonly where: string }[]): Observation[] {
    const resolved = readings.flatMap(({ reading, id, where }) => {
      const probe = this.probe(reading, where);
      if (probe === null) return [];
      const key = keyOf(probe, reading);
      return spoken(reading, probe).map((part) => ({ ...part, reading, id, where, key: `${key}${part.suffix}` }));
    });
    const speaking = withoutEndlessRepeats(resolved);
    const tables = this.tablesFor(speaking, null);
    return speaking.flatMap(({ reading, id, where, value, probe }, index) => {
      const observation = observationOf(id, reading, value, probe, tables[index] as PredictionTable, where);
      return observation === null ? [] : [observation];
    });
  }

  /** Weighs observations on the engine's points; what was weighed last saves time where a reading was added to it. */
  weigh(observations: readonly Observation[], known: Circumstances): Evidence {
    const evidence = weigh(observations, this.points.count, this.columns.count, known, this.weighed);
    this.weighed = { observations, known, evidence };
    return evidence;
  }
}

/** What a circuit's sensed quantity may be under what is known. */
function gridOf(circuit: CircuitModel, { conditions, open }: EngineOptions): WorldGrid {
  const { world } = circuit.built;
  const { quantity } = world;
  const known = quantity === "temperature" || quantity === "pressure" || quantity === "position" ? conditions[circuit.id]?.[quantity] : undefined;
  const wide = open.has(circuit.id) || (known === undefined && quantity !== "position" && quantity !== "flow");
  const single: WorldValue[] = [{ value: known ?? world.nominal, weight: 1, spread: world.accuracy }];
  const outsideFactor = known === undefined ? Math.min(1, world.abnormal.length) : abnormality(world.normal, world.abnormal, known);
  return {
    circuit: circuit.id,
    normal: wide ? world.normal : single,
    abnormal: world.abnormal.length === 0 ? [] : wide ? world.abnormal : single,
    outsideFactor,
  };
}

/**
 * Among several circuits a pressure is one wide value for every hypothesis. Points of other circuits cannot have a grid of its values, and
 * a grid for its own points alone would favour its own faults by the shape of what is usual (tenfold, where the gauge confirms the
 * weather). A transfer line is straight, so the Gaussian loses nothing but that shape.
 */
function alikeForAll(grid: WorldGrid, circuit: CircuitModel, circuits: number): WorldGrid {
  if (circuits < 2 || circuit.built.world.quantity !== "pressure" || grid.normal.length < 2) return grid;
  return { ...grid, normal: [{ ...wideOf(grid), weight: 1 }] };
}

/** How much likelier a stated value is when something outside the circuit is wrong, against normal. */
function abnormality(normal: readonly WorldValue[], abnormal: readonly WorldValue[], value: number): number {
  const density = (list: readonly WorldValue[]): number => {
    const total = list.reduce((sum, entry) => sum + entry.weight, 0);
    return list.reduce((sum, entry) => sum + ((entry.weight / total) * Math.exp(-0.5 * ((value - entry.value) / entry.spread) ** 2)) / entry.spread, 0);
  };
  if (abnormal.length === 0) return 0;
  const ratio = density(abnormal) / Math.max(1e-12, density(normal));
  return ratio < 1e-3 ? 0 : Math.min(1e3, ratio);
}

/**
 * Of the same measurement in the same state, the first ones and the latest weigh; what lies between tells nothing they do not. Of looks at
 * one place only the latest does: whoever looks again corrects what he saw, the green on a terminal is no second witness.
 */
const FIRST_REPEATS = 2;
const LAST_REPEATS = 4;

function withoutEndlessRepeats<T extends { readonly key: string; readonly reading: Reading; readonly probe: Probe }>(resolved: readonly T[]): T[] {
  const groups = new Map<string, T[]>();
  for (const item of resolved) {
    const name = item.probe.kind === "look" ? item.key : `${item.key} ${String(item.reading["symptom"])}`;
    groups.set(name, [...(groups.get(name) ?? []), item]);
  }
  const kept = new Set(
    [...groups.values()].flatMap((items) => {
      if (items[0]?.probe.kind === "look") return items.slice(-1);
      return items.length <= FIRST_REPEATS + LAST_REPEATS ? items : [...items.slice(0, FIRST_REPEATS), ...items.slice(-LAST_REPEATS)];
    }),
  );
  return resolved.filter((item) => kept.has(item));
}

/** Names the predictions of a measurement. */
function keyOf(probe: Probe, measurement: Measurement): string {
  return `${probe.circuit.id} ${measurementId(measurement)}`;
}

interface Spoken {
  readonly value: number | string;
  readonly probe: Probe;
  readonly suffix: "" | "|min" | "|max" | "|mean";
}

/** What a reading says: itself, or the two ends of a recording. Under a sweep only the lowest value speaks, as itself. */
function spoken(reading: Reading, probe: Probe): Spoken[] {
  const { value } = reading;
  // A capture without its levels is a file, which is judged by itself.
  if (typeof value !== "object") return reading.meter === "capture" ? [] : [{ value, probe, suffix: "" }];
  if (probe.kind !== "electrical") return [];
  if (probe.setup.stimulus?.kind === "sweep") return [{ value: value.min, probe: { ...probe, statistic: "mean" }, suffix: "|mean" }];
  const recorded = probe.meter === "volts-dc" || probe.meter === "capture" || (probe.meter === "scan" && scaleOf(probe).axis === "volts");
  if (!recorded) return [{ value: value.avg ?? 0.5 * (value.min + value.max), probe: { ...probe, statistic: "mean" }, suffix: "|mean" }];
  return [
    { value: value.min, probe: { ...probe, statistic: "min" }, suffix: "|min" },
    { value: value.max, probe: { ...probe, statistic: "max" }, suffix: "|max" },
  ];
}

/** Rates below this, and anything a counter cannot show, mean that no edges were seen. */
const LEAST_HERTZ = 0.02;
/** Of the engine's true speed: under this share the module does not see it turn. */
const LEAST_RPM = 30;

/** The word a number stands for: no rate, no duty, an engine speed that is or is not seen. */
function wordOfNumber(probe: ElectricalProbe, value: number): string | null {
  if (probe.meter === "hertz" && value < LEAST_HERTZ) return "none";
  if (probe.meter === "duty" && (value <= 0.5 || value >= 99.5)) return "OL";
  if (probe.meter !== "scan" || probe.unit === null || probe.reads === null) return null;
  if (probe.reads.by === "counts") return value > (probe.unit === "rpm" ? LEAST_RPM : 0) ? "counts" : "none";
  if (probe.reads.by === "hertz" && probe.unit === "Hz" && value < LEAST_HERTZ) return "none";
  return null;
}

function observationOf(id: string, reading: Reading, value: number | string, probe: Probe, table: PredictionTable, where: string): Observation | null {
  const named =
    probe.kind === "electrical"
      ? typeof value === "number"
        ? wordOfNumber(probe, value)
        : value === "OL" && probe.meter !== "ohms"
          ? overload(probe)
          : value
      : value;
  if (typeof named === "string") {
    const word = wordsOf(probe).indexOf(named);
    if (word >= 0) return { id, table, number: null, word };
    if (probe.kind !== "electrical") return null;
    throw new BadInput({ code: "reading:word", where: `${where}.value`, message: `"${named}" is not a value of meter ${reading.meter} here` });
  }
  if (probe.kind === "gauge") return typeof value === "number" ? { id, table, number: value, word: -1 } : null;
  if (probe.kind !== "electrical" || typeof value !== "number") return null;
  if (probe.meter === "ohms" && value < 0) {
    throw new BadInput({ code: "reading:negative-ohms", where: `${where}.value`, message: `${value} ohm is negative; expected zero or more` });
  }
  if (!table.numeric) {
    throw new BadInput({
      code: "reading:word",
      where: `${where}.value`,
      message: `${value} is not a value of meter ${reading.meter} here; expected ${wordsOf(probe).join(", ")}`,
    });
  }
  return { id, table, number: scaleOf(probe).toScale(value), word: -1 };
}

/** What OL means on a meter that counts or is read from data. */
function overload(probe: ElectricalProbe): string {
  return probe.meter === "hertz" || (probe.meter === "scan" && probe.reads?.by !== "volts") ? "none" : "OL";
}

/** Whether a reading leaves the sensed quantity of its circuit open although it depends on it. */
export function leavesWorldOpen(circuit: CircuitModel, reading: Reading): boolean {
  if (!isElectrical(reading.meter)) return false;
  const setup = reading.setup ?? {};
  if (fixedWorld(circuit.built.world, setup) !== null) return false;
  const moving = circuit.built.drive(situationOf(circuit.built.world, setup, circuit.built.world.nominal)).swing !== null;
  if (!moving && (reading.meter === "hertz" || reading.meter === "duty" || reading.meter === "volts-ac")) return false;
  const leads = [reading.red, reading.black ?? ""];
  if (leads.some((lead) => lead.endsWith("@part"))) return true;
  if (reading.meter !== "scan" && !leads.some((lead) => lead.includes("@"))) return false;
  const open = reading.setup?.open ?? [];
  return !open.some((place) => place === "sensor" || place === `${circuit.id}:sensor`);
}
