import { circuitOfUnit, type Setup } from "@fox-lamp/language";
import { type CircuitModel, fixedWorld, isContact, isOpen, type Model, type SetupNetwork } from "../../circuit";
import { type Fault, type FaultVariant, showsIn } from "../../faults";
import {
  brinkOf,
  type Columns,
  emptyPrediction,
  type Motion,
  type MovingCircuit,
  type MovingMoment,
  type Prediction,
  PredictionScratch,
  type Probe,
  predictClick,
  predictCounted,
  predictProbe,
} from "../../instruments";
import { type Edit, mayStarve } from "../../network";
import { type BoundedCache, lazy } from "../../numeric";
import { farReachingAmong, farReachingFaults } from "../hypotheses/far-reaching";
import type { HypothesisGrid } from "../hypotheses/grid";
import { FaultEditor, NO_EDITS, severityStep } from "./fault-edits";
import { findingProbabilities } from "./findings";
import { type SolvedSetup, solveAt, solvedBytes } from "./solved-setup";
import { addRow, markUsed, type PredictionTable, shareRow } from "./table";

type SolvedProbe = Exclude<Probe, { kind: "look" | "gauge" }>;

/** A value of a sensed quantity and how well it is known. */
interface Value {
  readonly value: number;
  readonly spread: number;
}

/** One setup of one circuit while its tables are filled. */
interface Filling {
  readonly circuit: CircuitModel;
  readonly setup: Setup;
  /** The value the setup fixes for the sensed quantity; null where the cell's own counts. */
  readonly fixed: Value | null;
  readonly tables: readonly PredictionTable[];
  readonly outs: readonly Prediction[];
  readonly editor: FaultEditor;
  /** For each value of the sensed quantity ({@link TableBuilder.worldId}) a cell that looks healthy there. */
  readonly healthyAt: Map<number, number>;
  /** Where the setup fixes what the circuit senses: the first cell of a fault, severity and variant ({@link looksOf}). */
  readonly faultyAt: Map<number, number>;
}

/** Of a value that a setup fixes, and of one that lies anywhere: values of the grid itself have numbers from zero on. */
const FIXED_WORLD = -2;
const WIDE_WORLD = -1;

/** For each cell a number of what its fault does, whatever the circuit senses: the same fault, severity and variant have the same. */
function looksOf({ count, fault, severity, severitySpread, variant }: HypothesisGrid): Int32Array {
  const known = new Map<string, number>();
  const variants = new Map<FaultVariant | undefined, string>();
  return Int32Array.from({ length: count }, (_, cell) => {
    const own = variant[cell];
    const named = variants.get(own) ?? JSON.stringify(own);
    variants.set(own, named);
    const key = `${fault[cell]} ${severity[cell]} ${severitySpread[cell]} ${named}`;
    const look = known.get(key) ?? known.size;
    known.set(key, look);
    return look;
  });
}

/** For each value of the sensed quantities a number; equal values of one circuit have the same. */
function worldIdsOf({ worlds }: HypothesisGrid): Int32Array {
  const names = worlds.map(({ circuit, value, spread }) => `${circuit} ${value}~${spread}`);
  return Int32Array.from(names, (name) => names.indexOf(name));
}

/** Whether an edit sets what a motion moves. */
function isSame(edit: Edit, motion: Motion): boolean {
  return edit.element === motion.element && edit.field === motion.field;
}

/** Fills prediction tables for a grid of hypotheses; solved setups are shared between probes and grids, and kept. */
export class TableBuilder {
  /** Faults that are felt in circuits other than their own. */
  readonly farReaching: ReadonlySet<Fault>;
  readonly everyCell: readonly number[];
  private readonly healthyCells: readonly number[];
  /** Whether some part needs a supply to work. */
  private readonly powered: boolean;
  private readonly scratch = new PredictionScratch();
  private readonly worldIds: Int32Array;
  private readonly looks: () => Int32Array;

  /**
   * @param scope names the circuits among all that share the cache, `gridScope` this grid of them
   * @param other the builder of another grid of the same circuits
   */
  constructor(
    private readonly model: Model,
    private readonly grid: HypothesisGrid,
    private readonly columns: Columns,
    private readonly cache: BoundedCache,
    private readonly scope: string,
    private readonly gridScope: string,
    other: TableBuilder | null = null,
  ) {
    this.everyCell = Array.from({ length: grid.count }, (_, cell) => cell);
    this.healthyCells = this.everyCell.filter((cell) => grid.fault[cell] === 0);
    this.farReaching = other === null ? farReachingFaults(model, grid) : farReachingAmong(grid, other.farReaching);
    this.powered = model.network.elements.some(mayStarve);
    this.worldIds = worldIdsOf(grid);
    this.looks = lazy(() => looksOf(grid));
  }

  /**
   * Computes the rows of some cells where they are missing; tables in one setup are solved together.
   * @param wanted cells, in any order; null for all
   */
  fill(tables: readonly PredictionTable[], wanted: readonly number[] | null): void {
    const cells = wanted ?? this.everyCell;
    const bySetup = new Map<string, PredictionTable[]>();
    // Readings of one measurement share a table.
    for (const table of new Set(tables)) {
      if (cells.every((cell) => table.slot[cell] >= 0)) continue;
      if (table.probe.kind === "look") this.fillLook(table, table.probe.circuit.id, table.probe.place);
      else if (table.probe.kind === "gauge") this.fillGauge(table, table.probe.circuit);
      else {
        const key = `${table.probe.circuit.id} ${JSON.stringify(table.probe.setup)}`;
        const members = bySetup.get(key);
        if (members) members.push(table);
        else bySetup.set(key, [table]);
      }
    }
    for (const members of bySetup.values()) this.fillSetup(members, cells);
  }

  private fillLook(table: PredictionTable, circuit: string, place: string): void {
    const { grid } = this;
    const { wordNames } = table;
    table.words = new Float64Array(grid.faults.length * wordNames.length);
    table.rows = grid.faults.length;
    grid.faults.forEach((fault, row) => {
      table.words.set(findingProbabilities(circuit, place, fault), row * wordNames.length);
    });
    table.slot.set(grid.fault);
  }

  /** The quantity itself, measured without the circuit: it is what the cell's world is. */
  private fillGauge(table: PredictionTable, circuit: CircuitModel): void {
    const { columns } = this;
    const rows = new Map<string, number>();
    const { accuracy } = circuit.built.world;
    for (const cell of this.everyCell) {
      const { value, spread } = this.worldAt(cell, circuit, null);
      const key = `${value}~${spread}`;
      let slot = rows.get(key);
      if (slot === undefined) {
        slot = addRow(table, columns.count);
        rows.set(key, slot);
        table.mean[slot] = value;
        table.noise[slot] = accuracy ** 2;
        table.jacobian[slot * columns.count + (columns.worldOf.get(circuit.id) ?? columns.severity)] = spread;
        markUsed(table, slot, columns.count);
      }
      table.slot[cell] = slot;
    }
  }

  /** The probed circuit's world at a cell: fixed by the setup, of the grid where it is the cell's own, else wide open. */
  private worldAt(cell: number, circuit: CircuitModel, fixed: Value | null): Value {
    if (fixed !== null) return fixed;
    const own = this.grid.worlds[this.grid.world[cell]];
    if (own !== undefined && own.circuit === circuit.id) return own;
    return this.grid.wide.get(circuit.id) ?? { value: circuit.built.world.nominal, spread: 0 };
  }

  /** A number of the value that {@link worldAt} finds. */
  private worldId(cell: number, circuit: CircuitModel, fixed: Value | null): number {
    if (fixed !== null) return FIXED_WORLD;
    const own = this.grid.world[cell];
    return this.grid.worlds[own]?.circuit === circuit.id ? this.worldIds[own] : WIDE_WORLD;
  }

  /** The value a setup fixes: what was stated, or the nominal one where nobody could see another. */
  private fixedIn({ circuit, setup }: SolvedProbe, tables: readonly PredictionTable[]): Value | null {
    const stated = fixedWorld(circuit.built.world, setup);
    const touchesPart = tables.some(({ probe }) => probe.kind === "electrical" && (probe.red.endsWith("@part") || probe.black.endsWith("@part")));
    const blind = stated === null && isOpen(this.model, setup, circuit, "sensor") && !touchesPart;
    return blind ? { value: circuit.built.world.nominal, spread: 0 } : stated;
  }

  private fillSetup(tables: readonly PredictionTable[], wanted: readonly number[]): void {
    const { grid, columns, model } = this;
    const probe = tables[0]?.probe as SolvedProbe;
    const { setup, circuit } = probe;
    const filling: Filling = {
      circuit,
      setup,
      fixed: this.fixedIn(probe, tables),
      tables,
      outs: tables.map((table) => emptyPrediction(columns, table.probe, this.scratch)),
      editor: new FaultEditor(model, grid, circuit.id, setup, this.cache, this.gridScope, (cell, owner, fixed) => this.worldAt(cell, owner, fixed)),
      healthyAt: new Map(),
      faultyAt: new Map(),
    };
    const setupKey = `${this.scope} setup ${JSON.stringify([circuit.id, setup])}`;
    const solved = new Map<number, SolvedSetup>();
    const solvedAt = (cell: number, worldId: number): SolvedSetup => {
      const known = solved.get(worldId);
      if (known !== undefined) return known;
      const { value, spread } = this.worldAt(cell, circuit, filling.fixed);
      const made = this.cache.keep(`${setupKey} ${value}~${spread}`, () => solveAt(model, circuit, setup, value, spread), solvedBytes);
      solved.set(worldId, made);
      return made;
    };
    for (const cell of this.healthyCells) this.fillCell(filling, cell, solvedAt);
    for (const cell of wanted) if (grid.fault[cell] !== 0) this.fillCell(filling, cell, solvedAt);
  }

  private fillCell(filling: Filling, cell: number, solvedAt: (cell: number, worldId: number) => SolvedSetup): void {
    const { grid, columns } = this;
    const { circuit, setup, tables, outs, healthyAt } = filling;
    const done = tables.every((table) => table.slot[cell] >= 0);
    if (done && grid.fault[cell] !== 0) return;
    const worldId = this.worldId(cell, circuit, filling.fixed);
    const fault = grid.faults[grid.fault[cell]] ?? null;
    const shows = fault !== null && showsIn(fault, setup) && (fault.circuit === circuit.id || this.farReaching.has(fault));
    if (done) {
      if (!healthyAt.has(worldId)) healthyAt.set(worldId, cell);
      return;
    }
    const twin = healthyAt.get(worldId);
    if (!shows && twin !== undefined) {
      for (const table of tables) shareRow(table, twin, cell);
      return;
    }
    // Where the setup says what the circuit senses, a fault of its own, or of the car, looks the same whatever else it might have sensed.
    const others = fault !== null && fault.circuit !== circuit.id && this.model.circuits.some(({ id }) => id === fault.circuit);
    const look = shows && fault.kind !== "pair" && !others && filling.fixed !== null ? this.looks()[cell] : null;
    const same = look === null ? undefined : filling.faultyAt.get(look);
    if (same !== undefined) {
      for (const table of tables) {
        shareRow(table, same, cell);
        table.quiet[cell] = table.quiet[same];
      }
      return;
    }
    if (look !== null) filling.faultyAt.set(look, cell);
    const solved = solvedAt(cell, worldId);
    const placed = shows ? fault : null;
    const moving = this.movingAt(solved, filling, cell, placed);
    const brink = this.powered ? brinkOf(moving, circuit.id, columns, this.scratch) : null;
    const missing = tables.map((table) => table.slot[cell] < 0);
    tables.forEach((table, index) => {
      if (missing[index]) table.slot[cell] = predictRow(table, moving, outs[index], columns);
    });
    if (brink !== null) {
      const other = this.movingAt(solved, filling, cell, placed, brink.edit);
      tables.forEach((table, index) => {
        if (!missing[index]) return;
        table.brinks ??= new Map();
        table.brinks.set(cell, { slot: predictRow(table, other, outs[index], columns), share: brink.share });
      });
    }
    const quiet = shows && fault.kind !== "pair" ? twin : undefined;
    if (quiet !== undefined) for (const table of tables) table.quiet[cell] = quiet;
    if (!shows) healthyAt.set(worldId, cell);
  }

  /** Puts a cell's fault into a solved setup; the result stays valid until the setup is used again. */
  private movingAt(solved: SolvedSetup, { circuit, editor }: Filling, cell: number, fault: Fault | null, further?: Edit): MovingCircuit {
    const { grid } = this;
    const { drive } = solved.prepared;
    const mine = fault !== null && fault.circuit === circuit.id;
    const within = mine || (fault?.kind === "pair" && fault.unit.split("&").some((unit) => circuitOfUnit(unit) === circuit.id));
    const severity = grid.severity[cell];
    const direction = grid.variant[cell]?.direction ?? 1;
    const factor = (at: number): number => (mine ? (fault.hertzFactor?.(at, direction) ?? 1) : 1);
    const blindAt = (at: number): number | null => (mine ? (fault.scanVolts?.(at) ?? null) : null);
    const step = severityStep(grid, cell);
    const moments = solved.moments.map(({ share, solver, motions }, moment): MovingMoment => {
      const own = fault === null ? NO_EDITS : editor.at(cell, fault, solved.situation, within ? moment : 0, solved.spread);
      const { edits } = own;
      const open = edits.filter((edit) => edit.field !== "ohms" || !isOpenedContact(solved.prepared, moment, edit));
      const kept = edits.length === 0 || motions.length === 0 ? motions : motions.filter((motion) => !edits.some((edit) => isSame(edit, motion)));
      return {
        share,
        solution: solver.apply(further === undefined ? open : [...open, further]),
        motions: own.motions.length === 0 ? kept : [...kept, ...own.motions],
      };
    });
    const blind = blindAt(severity);
    const worse = blindAt(severity + step.size);
    return {
      moments,
      swing: drive.swing,
      shape: drive.shape,
      hertz: drive.hertz * factor(severity),
      hertzSpread: drive.hertzSpread,
      held: solved.held,
      source: solved.source,
      stretch: solved.stretch,
      shift: solved.shift,
      unsure: drive.unsure ?? null,
      hertzPerWorld: solved.hertzPerWorld,
      hertzPerSeverity: step.size === 0 ? 0 : Math.log(factor(severity + step.size) / factor(severity)) * step.perUnit,
      blind: blind === null ? null : { volts: blind, perSeverity: ((worse ?? blind) - blind) * step.perUnit },
    };
  }
}

/** Whether an edit would close a contact that the setup opened. */
function isOpenedContact(prepared: SetupNetwork, moment: number, edit: Edit): boolean {
  const values = prepared.moments[moment]?.values;
  return values !== undefined && values.ohms[edit.element] > edit.value && isContact(prepared.net.elements[edit.element]?.id ?? "");
}

/** Adds a row with a number that was predicted, where the table has such. @returns its slot */
function addPredicted(table: PredictionTable, out: Prediction, columns: Columns): number {
  const slot = addRow(table, columns.count);
  if (!table.numeric) return slot;
  table.mean[slot] = out.mean;
  table.noise[slot] = out.noise;
  table.bent[slot] = out.bent;
  table.lasting[slot] = out.lasting;
  table.jacobian.set(out.jacobian, slot * columns.count);
  markUsed(table, slot, columns.count);
  return slot;
}

/** Predicts a probe on a solved circuit into a new row. @returns its slot */
function predictRow(table: PredictionTable, moving: MovingCircuit, out: Prediction, columns: Columns): number {
  const { probe } = table;
  if (probe.kind === "listen") predictClick(moving, probe, out);
  else if (probe.kind === "electrical") predictProbe(moving, probe, columns, out);
  const slot = addPredicted(table, out, columns);
  if (out.words.length > 0) table.words.set(out.words, slot * out.words.length);
  if (table.swing !== null && probe.kind === "electrical") {
    predictCounted(moving, probe, columns, out);
    addPredicted(table.swing, out, columns);
  }
  return slot;
}
