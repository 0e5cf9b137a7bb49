import { BadInput, type Circuit, type Expect, type Measurement, type Reading } from "@fox-lamp/language";
import { buildModel, type CircuitModel, type Model, statedWorld, type WorldValue } from "../circuit";
import { type Fault, faultsOf, HEALTHY_PRIOR } from "../faults";
import { isElectrical, logOhms, type Probe, probeOf } from "../instruments";
import { type Columns, type Conditions, columnsOf, expectProbe, generateTests, measurementOf, type Procedure, procedureId, wordsOf } from "../tests";
import { type Evidence, type Observation, weigh } from "./evidence";
import { layPoints, type Points } from "./points";
import { type PredictionTable, TableBuilder } from "./tables";

/** A test of the engine with its predictions' key. */
export interface OfferedTest {
  readonly procedure: Procedure;
  readonly probe: Probe;
  readonly expect: Expect;
}

/**
 * Everything computed once for one circuit: network, faults, grid and, as they are asked for, prediction tables. It depends
 * on the circuit and on what is known about the sensed quantity, never on the readings' values, so it is kept between
 * readings and between jobs.
 */
export class CircuitEngine {
  readonly model: Model;
  readonly circuit: CircuitModel;
  readonly columns: Columns;
  readonly faults: readonly Fault[];
  readonly points: Points;
  readonly conditions: Conditions;
  /** log of how much likelier "the value is true" is made by what is known about the sensed quantity. */
  readonly outsideLog: number;
  private readonly builder: TableBuilder;
  private readonly tables = new Map<string, PredictionTable>();
  private offered: readonly OfferedTest[] | null = null;

  /**
   * @param conditions the sensed quantity where it is known for the whole job
   * @param unknownWorld true when some reading leaves the sensed quantity open, so that its whole range is weighed
   */
  constructor(circuit: Circuit, conditions: Conditions, unknownWorld: boolean, where = "circuits") {
    this.model = buildModel([circuit], where);
    this.circuit = this.model.circuits[0] as CircuitModel;
    this.columns = columnsOf(this.model, this.circuit);
    this.faults = faultsOf(this.model);
    this.conditions = conditions;
    const { world } = this.circuit.built;
    const known = conditions[world.quantity];
    const open = unknownWorld || (known === undefined && world.quantity !== "position");
    const single: WorldValue[] = [{ value: known ?? world.nominal, weight: 1, spread: world.accuracy }];
    const abnormalShare = known === undefined ? Math.min(1, world.abnormal.length) : abnormality(world.normal, world.abnormal, known);
    this.outsideLog = known === undefined || abnormalShare === 0 ? 0 : Math.log(abnormalShare);
    this.points = layPoints(this.faults, HEALTHY_PRIOR, open ? world.normal : single, open ? world.abnormal : single, abnormalShare);
    this.builder = new TableBuilder(this.model, this.circuit, this.points, this.columns);
  }

  /** The tests of the circuit under its conditions, each with the window of a healthy circuit. */
  tests(): readonly OfferedTest[] {
    this.offered ??= generateTests(this.circuit, this.conditions).map((procedure) => {
      const probe = this.probe(measurementOf(procedure), procedure.title);
      if (probe === null) throw new Error(`${procedure.id} has no probe`);
      const expect: Expect = probe.kind === "look" ? { low: null, high: null, unit: "", word: "ok" } : expectProbe(this.model, probe, this.columns);
      return { procedure, probe, expect };
    });
    return this.offered;
  }

  /** Resolves a measurement of this circuit. @throws BadInput for leads that do not exist */
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
        this.tables.set(key, table);
      }
      return table;
    });
    this.builder.fill(found, points);
    return found;
  }

  /** Prediction tables of offered tests (by index) for some points. */
  testTables(indices: readonly number[], points: readonly number[] | null): PredictionTable[] {
    const offered = this.tests();
    return this.tablesFor(
      indices.map((index) => offered[index] as OfferedTest).map(({ procedure, probe }) => ({ key: procedure.id, probe })),
      points,
    );
  }

  /**
   * Turns readings of this circuit into observations; those that say nothing about it are left out.
   * @throws BadInput for readings that cannot belong to the circuit
   */
  observe(readings: readonly { readonly reading: Reading; readonly id: string; readonly where: string }[]): Observation[] {
    const resolved = readings.flatMap(({ reading, id, where }) => {
      const probe = this.probe(reading, where);
      return probe === null ? [] : [{ reading, id, where, probe, key: readingKey(reading) }];
    });
    const tables = this.tablesFor(resolved, null);
    return resolved.flatMap(({ reading, id, where, probe }, index) => {
      const observation = observationOf(id, reading, probe, tables[index] as PredictionTable, where);
      return observation === null ? [] : [observation];
    });
  }

  weigh(observations: readonly Observation[]): Evidence {
    return weigh(observations, this.points.count, this.columns.count);
  }
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

/** What identifies the prediction table of a reading: everything but its value. */
function readingKey(reading: Reading): string {
  const id = procedureId({ meter: reading.meter, red: reading.red, black: reading.black ?? null, setup: reading.setup ?? {} });
  return reading.unit === undefined || reading.unit === "V" ? id : `${id}|${reading.unit}`;
}

/** Which end of a minimum/maximum reading speaks: the one away from rest under movement, else the average. */
function spokenNumber(span: { min: number; max: number; avg?: number | undefined }, probe: Probe): number {
  const stimulus = probe.setup.stimulus?.kind;
  if (stimulus === "sweep") return span.min;
  return span.avg ?? 0.5 * (span.min + span.max);
}

function observationOf(id: string, reading: Reading, probe: Probe, table: PredictionTable, where: string): Observation | null {
  const { value } = reading;
  if (typeof value === "string") {
    const word = wordsOf(probe).indexOf(value);
    if (word >= 0) return { id, table, number: null, word };
    if (probe.kind === "look") return null;
    throw new BadInput({ code: "reading:word", where: `${where}.value`, message: `"${value}" is not a value of meter ${reading.meter} here` });
  }
  if (probe.kind === "look") return null;
  const number = typeof value === "number" ? value : spokenNumber(value, probe);
  if (probe.meter === "ohms") {
    if (number < 0) throw new BadInput({ code: "reading:negative-ohms", where: `${where}.value`, message: `${number} ohm is negative; expected zero or more` });
    return { id, table, number: logOhms(number), word: -1 };
  }
  return { id, table, number: probe.unit === null ? number : probe.circuit.built.toVolts(number), word: -1 };
}

/** Whether a reading leaves the sensed quantity of its circuit open although it depends on it. */
export function leavesWorldOpen(circuit: CircuitModel, reading: Reading): boolean {
  if (!isElectrical(reading.meter)) return false;
  if (statedWorld(circuit.built.world, reading.setup?.truth) !== null) return false;
  const leads = [reading.red, reading.black ?? ""];
  if (leads.some((lead) => lead.endsWith("@part"))) return true;
  if (reading.meter !== "scan" && !leads.some((lead) => lead.includes("@"))) return false;
  const open = reading.setup?.open ?? [];
  return !open.some((place) => place === "sensor" || place === `${circuit.id}:sensor`);
}
