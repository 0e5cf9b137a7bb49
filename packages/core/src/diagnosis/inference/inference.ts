import type { Circuit, Measurement, Reading } from "@fox-lamp/language";
import type { CircuitModel, Model } from "../../circuit";
import type { Fault } from "../../faults";
import { type Columns, type Probe, withOther } from "../../instruments";
import { BoundedCache, piecesOf, type Steps } from "../../numeric";
import { measurementOf } from "../../procedures";
import type { HypothesisGrid } from "../hypotheses/grid";
import type { Circumstances, Evidence, Observation } from "../likelihood/observation";
import { type Weighed, weigh } from "../likelihood/weigh";
import { bankRows, rowBank, takeFromBank } from "../predictions/row-bank";
import { emptyTable, type PredictionTable, tableBytes } from "../predictions/table";
import { TableBuilder } from "../predictions/table-builder";
import { CircuitBasis, type InferenceOptions, NOTHING_KNOWN, type OfferedTest } from "./basis";
import { type NamedReading, observationOf, slipShares, speaking } from "./observe";

/** Bytes kept where nobody says otherwise. */
export const USUAL_BUDGET = 256e6;

/** A value within any range: at an end of it other predictions count. */
const AHEAD = 1;
/** A leader is challenged in two or three steps, each on a grid of its own. */
const LATEST_GRIDS = 4;
/** So many rows are computed in one go when there is time. */
const ROWS_A_STEP = 250;
/** What an inference itself takes besides its tables, bytes a cell. */
const BYTES_A_CELL = 200;

/** What is predicted, and the name its predictions are found by. */
export interface Predicted {
  readonly key: string;
  readonly probe: Probe;
}

/** Predictions, and the name they are found by. */
export interface Tabled {
  readonly key: string;
  readonly table: PredictionTable;
}

/**
 * Weighs readings on one grid of hypotheses about some circuits. Predictions depend on the circuits and on what is known about them,
 * never on what was read, so they are kept between readings and between jobs.
 */
export class Inference {
  readonly columns: Columns;
  /** The inference on the circuits' own grid: this one, or the one it was made beside. */
  readonly own: Inference;
  private readonly builder: TableBuilder;
  private weighed: Weighed | null = null;
  private latest: readonly Inference[] = [];

  /**
   * @param scope names the grid among all of the basis' circuits
   * @param own the inference on the circuits' own grid, where this one has another
   */
  private constructor(
    readonly basis: CircuitBasis,
    readonly grid: HypothesisGrid,
    private readonly scope: string,
    own: Inference | null,
  ) {
    this.own = own ?? this;
    this.columns = own === null ? basis.columns : withOther(basis.columns);
    this.builder = new TableBuilder(basis.model, grid, this.columns, basis.cache, basis.scope, scope, own?.builder ?? null);
  }

  /** On the grid of the circuits' single faults. */
  static on(basis: CircuitBasis): Inference {
    return new Inference(basis, basis.grid, `${basis.scope} own`, null);
  }

  /** The same circuits under other hypotheses. @param key names the hypotheses */
  under(key: string, grid: () => HypothesisGrid): Inference {
    const { cache, scope } = this.basis;
    const { own } = this;
    const other = cache.keep(`${scope} grid ${key}`, () => new Inference(this.basis, grid(), `${scope} ${key}`, own), inferenceBytes);
    own.latest = [...own.latest.filter((known) => known !== other), other].slice(-LATEST_GRIDS);
    return other;
  }

  /** The inferences on other grids of the same circuits that were asked for last, the latest one last. */
  others(): readonly Inference[] {
    return this.latest;
  }

  get model(): Model {
    return this.basis.model;
  }

  get circuits(): readonly CircuitModel[] {
    return this.basis.circuits;
  }

  get faults(): readonly Fault[] {
    return this.basis.faults;
  }

  get outsideLog(): ReadonlyMap<string, number> {
    return this.basis.outsideLog;
  }

  /** The circuit with an id; the first one for battery and grounds. */
  circuitOf(id: string): CircuitModel {
    return this.basis.circuitOf(id);
  }

  /** The tests of the circuits under their conditions, each with the window of a healthy circuit. */
  tests(): readonly OfferedTest[] {
    return this.basis.tests();
  }

  /** Resolves a measurement of these circuits. @throws BadInput for leads that do not exist */
  probe(measurement: Measurement, where: string): Probe | null {
    return this.basis.probe(measurement, where);
  }

  /**
   * Prediction tables of probes; rows are computed where they are missing.
   * @param cells the cells whose rows are needed; null for all
   */
  tablesFor(probes: readonly Predicted[], cells: readonly number[] | null): PredictionTable[] {
    const found = this.tabled(probes);
    this.complete(found, cells);
    return found.map(({ table }) => table);
  }

  /** Prediction tables of probes, with the rows they have by now. */
  tabled(probes: readonly Predicted[]): Tabled[] {
    const { cache, scope } = this.basis;
    const { grid, columns } = this;
    return probes.map(({ key, probe }) => {
      const table = cache.keep(`${this.scope} table ${key}`, () => emptyTable(probe, grid.count), tableBytes);
      if (grid.names.length > 0) takeFromBank(rowBank(cache, scope, key, columns.count), table, grid, columns.count);
      return { key, table };
    });
  }

  /**
   * Computes rows of tables where they are missing: what is seen in one state of the car is solved once.
   * @param cells the cells whose rows are needed; null for all
   */
  complete(tables: readonly Tabled[], cells: readonly number[] | null): void {
    const { cache, scope } = this.basis;
    const { grid, columns } = this;
    this.builder.fill(
      tables.map(({ table }) => table),
      cells,
    );
    if (grid.names.length > 0) for (const { key, table } of tables) bankRows(rowBank(cache, scope, key, columns.count), table, grid);
  }

  /** Prediction tables of offered tests for some cells. */
  testTables(tests: readonly OfferedTest[], cells: readonly number[] | null): PredictionTable[] {
    return this.tablesFor(tests.map(tableOf), cells);
  }

  /** Fills what a reading of an offered test will be weighed on, under every hypothesis. */
  *fillAhead({ procedure, probe }: OfferedTest): Steps<void> {
    const reading: Reading = { ...measurementOf(procedure), value: procedure.record ? { min: 0, max: 0 } : AHEAD };
    const said = speaking([{ reading, id: "", where: "" }], (part) => (part === reading ? probe : this.probe(part, "")));
    yield* this.fillInSteps(said, this.builder.everyCell);
  }

  /** Fills tables of offered tests for some cells, or for all. */
  *fillTests(tests: readonly OfferedTest[], cells: readonly number[] = this.builder.everyCell): Steps<void> {
    yield* this.fillInSteps(tests.map(tableOf), cells);
  }

  private *fillInSteps(probes: readonly Predicted[], cells: readonly number[]): Steps<void> {
    const most = Math.max(1, Math.floor(ROWS_A_STEP / Math.max(1, probes.length)));
    for (const piece of piecesOf(cells, most)) {
      this.tablesFor(probes, piece);
      yield;
    }
  }

  /**
   * Turns readings of these circuits into observations; those that say nothing about them are left out.
   * @param cells the cells whose predictions are needed now; null for all. The others are asked for with {@link complete} or {@link fill}
   * @throws BadInput for readings that cannot belong to the circuits
   */
  observe(readings: readonly NamedReading[], cells: readonly number[] | null = null): Observation[] {
    const said = speaking(readings, (reading, where) => this.probe(reading, where));
    const tables = this.tablesFor(said, cells);
    const shares = slipShares(said);
    return said.flatMap((reading, index) => {
      const observation = observationOf(reading, tables[index]);
      const slipShare = shares[index];
      return observation === null ? [] : [slipShare === undefined ? observation : { ...observation, slipShare }];
    });
  }

  /** Computes rows of tables of this inference where they are missing. @param cells whose rows are needed */
  fill(tables: readonly PredictionTable[], cells: readonly number[]): void {
    this.builder.fill(tables, cells);
  }

  /** Weighs observations on the grid; what was weighed last saves time where a reading was added to it. */
  weigh(observations: readonly Observation[], known: Circumstances): Evidence {
    const evidence = weigh(observations, this.grid.count, this.columns.count, known, this.weighed);
    this.weighed = { observations, known, evidence };
    return evidence;
  }

  /** Weighs observations on some cells, whose predictions there are. */
  weighAmong(observations: readonly Observation[], known: Circumstances, cells: readonly number[]): Evidence {
    return weigh(observations, this.grid.count, this.columns.count, known, null, cells);
  }
}

/** The table of an offered test. */
function tableOf({ procedure, probe }: OfferedTest): Predicted {
  return { key: `${procedure.circuit} ${procedure.id}`, probe };
}

/** Bytes an inference takes besides its tables. */
export function inferenceBytes({ grid }: Inference): number {
  return BYTES_A_CELL * grid.count;
}

/**
 * An inference about circuits that share anything, on the grid of their single faults.
 *
 * @param cache where it keeps what it computes; a new one unless given
 * @param scope names the circuits among all that share the cache
 * @throws BadInput for circuits that cannot be
 */
export function inferenceOf(
  circuits: readonly Circuit[],
  options: Partial<InferenceOptions> = {},
  where = "circuits",
  cache: BoundedCache = new BoundedCache(USUAL_BUDGET),
  scope = "",
): Inference {
  return Inference.on(new CircuitBasis(circuits, { ...NOTHING_KNOWN, ...options }, where, cache, scope));
}
