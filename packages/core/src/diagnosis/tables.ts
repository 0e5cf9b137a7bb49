import type { Setup } from "@fox-lamp/language";
import { applySetup, type CircuitModel, editsOf, fixedWorld, isOpen, type Model, type SetupNetwork, type Situation, situationOf } from "../circuit";
import { type Fault, showsIn } from "../faults";
import { type ElectricalProbe, type Probe, scaleOf } from "../instruments";
import { type Edit, type EditRoom, isPowered, prepareEdits, solveNetwork } from "../network";
import {
  brinkOf,
  type Columns,
  emptyPrediction,
  type Motion,
  type MovingCircuit,
  type MovingMoment,
  type Prediction,
  predictClick,
  predictProbe,
  wordsOf,
} from "../tests";
import { feltAmong, feltOutside } from "./felt";
import { findingProbabilities } from "./findings";
import type { Points } from "./points";

/**
 * What one probe shows under every hypothesis. A point's row is at `slot[point]` (points that look alike share one), -1 while it
 * has not been computed; row-major: `jacobian[slot * columns + column]`, `words[slot * wordNames.length + word]`. `mean` on the
 * probe's scale, `noise` its variance. The arrays grow as rows are added.
 */
export interface PredictionTable {
  readonly probe: Probe;
  readonly wordNames: readonly string[];
  readonly numeric: boolean;
  readonly slot: Int32Array;
  rows: number;
  mean: Float64Array;
  noise: Float64Array;
  jacobian: Float64Array;
  words: Float64Array;
  /** Points whose electronics stand on the brink of starving: the slot of the other state, and how likely it is; null where there are none. */
  brinks: Map<number, { readonly slot: number; readonly share: number }> | null;
  /** The healthy point a fault looks like while it is not there; -1 for points that look healthy anyway. */
  readonly quiet: Int32Array;
}

/** Variance of a number in a slot before any reading taught its tolerances: instrument noise and all shared variables. */
export function priorVariance(table: PredictionTable, slot: number, d: number): number {
  let variance = table.noise[slot] as number;
  for (let k = slot * d; k < (slot + 1) * d; k += 1) variance += (table.jacobian[k] as number) ** 2;
  return variance;
}

type SolvedProbe = Exclude<Probe, { kind: "look" | "gauge" }>;

/** A value of the probed circuit's sensed quantity, with everything solved for it. */
interface Room {
  readonly prepared: SetupNetwork;
  readonly situation: Situation;
  readonly spread: number;
  /** ln hertz per standard deviation of the world. */
  readonly hertzPerWorld: number;
  readonly moments: readonly { readonly share: number; readonly room: EditRoom; readonly motions: readonly Motion[] }[];
}

/** What a fault sets in one moment, and how that moves. */
interface FaultEdits {
  readonly edits: readonly Edit[];
  readonly motions: readonly Motion[];
}

/** A second severity is moved by this share of its standard deviation to see what follows. */
const NUDGE = 0.01;
const NO_EDITS: FaultEdits = { edits: [], motions: [] };

function motionKey(edit: { readonly element: number; readonly field: string }): string {
  return `${edit.element}.${edit.field}`;
}

function changeOf(edit: Edit, other: Edit | undefined): number {
  if (other === undefined) return 0;
  return edit.field === "ohms" ? Math.log(other.value / edit.value) : other.value - edit.value;
}

/** What of a setup an effect can depend on. */
function signature(setup: Setup, circuit: string): string {
  const open = (setup.open ?? []).map((place) => (place === "sensor" ? `${circuit}:sensor` : place)).join("+");
  return [setup.key, setup.rpm, setup.stimulus?.kind, setup.truth?.level, open].join("|");
}

/** So many solved setups are kept. */
const MOST_ROOMS = 300;

/** Builds prediction tables for a model; solved setups are shared between probes, and kept. */
export class TableBuilder {
  /** Faults that are felt in circuits other than their own. */
  readonly felt: ReadonlySet<Fault>;
  private readonly kept = new Map<string, FaultEdits>();
  private readonly everyPoint: readonly number[];
  private readonly healthyPoints: readonly number[];
  /** Solved setups, shared with builders of other grids of the same circuits. */
  private readonly rooms: Map<string, Room>;
  /** Whether some part needs a supply to work. */
  private readonly powered: boolean;

  constructor(
    private readonly model: Model,
    private readonly points: Points,
    private readonly columns: Columns,
    other: TableBuilder | null = null,
  ) {
    this.everyPoint = Array.from({ length: points.count }, (_, point) => point);
    this.healthyPoints = this.everyPoint.filter((point) => points.fault[point] === 0);
    this.felt = other === null ? feltOutside(model, points) : feltAmong(points, other.felt);
    this.rooms = other?.rooms ?? new Map();
    this.powered = model.network.elements.some(isPowered);
  }

  /** Makes empty tables; rows are computed by {@link TableBuilder.fill}. */
  make(probes: readonly Probe[]): PredictionTable[] {
    return probes.map((probe) => this.emptyTable(probe));
  }

  /**
   * Computes the rows of some points where they are missing; tables in one setup are solved together.
   * @param wanted points, in any order; null for all
   */
  fill(tables: readonly PredictionTable[], wanted: readonly number[] | null): void {
    const points = wanted ?? this.everyPoint;
    const bySetup = new Map<string, PredictionTable[]>();
    for (const table of tables) {
      if (points.every((point) => (table.slot[point] as number) >= 0)) continue;
      if (table.probe.kind === "look") this.fillLook(table, table.probe.circuit.id, table.probe.place);
      else if (table.probe.kind === "gauge") this.fillGauge(table, table.probe.circuit);
      else {
        const key = `${table.probe.circuit.id} ${JSON.stringify(table.probe.setup)}`;
        const members = bySetup.get(key);
        if (members) members.push(table);
        else bySetup.set(key, [table]);
      }
    }
    for (const members of bySetup.values()) this.fillSetup(members, points);
  }

  private emptyTable(probe: Probe): PredictionTable {
    const { count } = this.points;
    return {
      probe,
      wordNames: wordsOf(probe),
      numeric: scaleOf(probe).axis !== "none",
      slot: new Int32Array(count).fill(-1),
      rows: 0,
      mean: new Float64Array(0),
      noise: new Float64Array(0),
      jacobian: new Float64Array(0),
      words: new Float64Array(0),
      brinks: null,
      quiet: new Int32Array(count).fill(-1),
    };
  }

  private fillLook(table: PredictionTable, circuit: string, place: string): void {
    const { points } = this;
    const { wordNames } = table;
    table.words = new Float64Array(points.faults.length * wordNames.length);
    table.rows = points.faults.length;
    points.faults.forEach((fault, row) => {
      table.words.set(findingProbabilities(wordNames, circuit, place, fault), row * wordNames.length);
    });
    table.slot.set(points.fault);
  }

  /** The quantity itself, measured without the circuit: it is what the point's world is. */
  private fillGauge(table: PredictionTable, circuit: CircuitModel): void {
    const { columns } = this;
    const rows = new Map<string, number>();
    const { accuracy } = circuit.built.world;
    for (const point of this.everyPoint) {
      const { value, spread } = this.worldAt(point, circuit, null);
      const key = `${value}~${spread}`;
      let slot = rows.get(key);
      if (slot === undefined) {
        slot = addRow(table, columns.count);
        rows.set(key, slot);
        table.mean[slot] = value;
        table.noise[slot] = accuracy ** 2;
        table.jacobian[slot * columns.count + (columns.worldOf.get(circuit.id) ?? columns.severity)] = spread;
      }
      table.slot[point] = slot;
    }
  }

  /** The probed circuit's world at a point: fixed by the setup, of the grid where it is the point's own, else wide open. */
  private worldAt(point: number, circuit: CircuitModel, fixed: { value: number; spread: number } | null): { value: number; spread: number } {
    if (fixed !== null) return fixed;
    const own = this.points.worlds[this.points.world[point] as number];
    if (own !== undefined && own.circuit === circuit.id) return own;
    return this.points.wide.get(circuit.id) ?? { value: circuit.built.world.nominal, spread: 0 };
  }

  private makeRoom(circuit: CircuitModel, setup: Setup, world: number, spread: number): Room {
    const { model } = this;
    const { built } = circuit;
    const prepared = applySetup(model, setup, circuit.id, "setup", new Map([[circuit.id, world]]));
    const step = 0.001 * (built.world.high - built.world.low);
    const warmer = built.drive(situationOf(built.world, setup, world + step));
    const moments = prepared.moments.map(({ share, values }, moment) => {
      const here = editsOf(model.network, values, circuit.id, prepared.drive.moments[moment]?.assignments ?? []);
      const moved = editsOf(model.network, values, circuit.id, warmer.moments[moment]?.assignments ?? []);
      const motions = here.flatMap((edit, index): Motion[] => {
        const perWorld = (spread * changeOf(edit, moved[index])) / step;
        return perWorld === 0 ? [] : [{ element: edit.element, field: edit.field, perWorld, perSeverity: 0, perOther: 0 }];
      });
      return { share, room: prepareEdits(solveNetwork(prepared.net, values)), motions };
    });
    const { hertz } = prepared.drive;
    const hertzPerWorld = hertz > 0 && warmer.hertz > 0 ? (spread * Math.log(warmer.hertz / hertz)) / step : 0;
    return { prepared, situation: situationOf(built.world, setup, world), spread, hertzPerWorld, moments };
  }

  private fillSetup(tables: readonly PredictionTable[], wanted: readonly number[]): void {
    const { points, columns, model } = this;
    const first = tables[0]?.probe as SolvedProbe;
    const { setup, circuit } = first;
    const stated = fixedWorld(circuit.built.world, setup);
    const touchesPart = tables.some(({ probe }) => probe.kind === "electrical" && (probe.red.endsWith("@part") || probe.black.endsWith("@part")));
    const blind = stated === null && isOpen(model, setup, circuit, "sensor") && !touchesPart;
    const fixed = blind ? { value: circuit.built.world.nominal, spread: 0 } : stated;
    const setupKey = JSON.stringify([circuit.id, setup]);
    const roomFor = (world: number, spread: number): Room => {
      const key = `${setupKey} ${world}~${spread}`;
      const found = this.rooms.get(key) ?? this.makeRoom(circuit, setup, world, spread);
      // What was asked for last is forgotten last.
      this.rooms.delete(key);
      this.rooms.set(key, found);
      if (this.rooms.size > MOST_ROOMS) this.rooms.delete(this.rooms.keys().next().value ?? "");
      return found;
    };
    const outs = tables.map(({ probe }) => emptyPrediction(columns, probe));
    const healthyOf = new Map<string, number>();
    const healthyFirst = [...this.healthyPoints, ...wanted.filter((point) => points.fault[point] !== 0)];
    const effects = signature(setup, circuit.id);
    for (const point of healthyFirst) {
      const done = tables.every((table) => (table.slot[point] as number) >= 0);
      if (done && points.fault[point] !== 0) continue;
      const { value: world, spread } = this.worldAt(point, circuit, fixed);
      const twinKey = `${world}~${spread}`;
      const fault = points.faults[points.fault[point] as number] ?? null;
      const shows = fault !== null && showsIn(fault, setup) && (fault.circuit === circuit.id || this.felt.has(fault));
      if (done) {
        if (!healthyOf.has(twinKey)) healthyOf.set(twinKey, point);
        continue;
      }
      const twin = shows ? undefined : healthyOf.get(twinKey);
      if (twin !== undefined) {
        for (const table of tables) copySlots(table, twin, point);
        continue;
      }
      const room = roomFor(world, spread);
      const placed = shows ? fault : null;
      const moving = this.solvePoint(room, circuit, point, placed, effects);
      const brink = this.powered ? brinkOf(moving, circuit.id, columns) : null;
      tables.forEach((table, index) => {
        table.slot[point] = predictRow(table, moving, outs[index] as Prediction, columns);
      });
      if (brink !== null) {
        const other = this.solvePoint(room, circuit, point, placed, effects, brink.edit);
        tables.forEach((table, index) => {
          table.brinks ??= new Map();
          table.brinks.set(point, { slot: predictRow(table, other, outs[index] as Prediction, columns), share: brink.share });
        });
      }
      const quiet = shows && fault.kind !== "pair" ? healthyOf.get(twinKey) : undefined;
      if (quiet !== undefined) for (const table of tables) table.quiet[point] = quiet;
      if (!shows) healthyOf.set(twinKey, point);
    }
  }

  /** Puts a fault's point into a room; the result stays valid until the room is used again. */
  private solvePoint(room: Room, circuit: CircuitModel, point: number, fault: Fault | null, effects: string, further?: Edit): MovingCircuit {
    const { points } = this;
    const { drive } = room.prepared;
    const mine = fault !== null && fault.circuit === circuit.id;
    const severity = points.severity[point] as number;
    const direction = points.variant[point]?.direction ?? 1;
    const factor = (at: number): number => (mine ? (fault.hertzFactor?.(at, direction) ?? 1) : 1);
    const blindAt = (at: number): number | null => (mine ? (fault.scanVolts?.(at) ?? null) : null);
    const step = this.severityStep(point);
    const moments = room.moments.map(({ share, room: edits, motions }, moment): MovingMoment => {
      const own = fault === null ? NO_EDITS : this.editsAt(point, fault, room.situation, circuit.id, mine ? moment : 0, room.spread, effects);
      const open = own.edits.filter((edit) => edit.field !== "ohms" || !isOpenedContact(room.prepared, moment, edit));
      const set = new Set(own.edits.map(motionKey));
      const kept = own.edits.length === 0 ? motions : motions.filter((motion) => !set.has(motionKey(motion)));
      return {
        share,
        solution: edits.apply(further === undefined ? open : [...open, further]),
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
      hertzPerWorld: room.hertzPerWorld,
      hertzPerSeverity: step.size === 0 ? 0 : Math.log(factor(severity + step.size) / factor(severity)) * step.perUnit,
      blind: blind === null ? null : { volts: blind, perSeverity: ((worse ?? blind) - blind) * step.perUnit },
    };
  }

  /** A small step of a point's severity, and the factor from its effect to a standard deviation of the grid cell. */
  private severityStep(point: number): { size: number; perUnit: number } {
    const scale = this.points.faults[this.points.fault[point] as number]?.severity ?? null;
    if (scale === null) return { size: 0, perUnit: 0 };
    const severity = this.points.severity[point] as number;
    const spread = this.points.severitySpread[point] as number;
    return scale.key === "ohms" ? { size: 0.001 * severity, perUnit: spread / 0.001 } : { size: 0.001, perUnit: spread / 0.001 };
  }

  /** Edits of a fault's point in a moment, and their slopes; kept, since many setups ask for the same. */
  private editsAt(point: number, fault: Fault, probed: Situation, circuit: string, moment: number, spread: number, effects: string): FaultEdits {
    const key = fault.constant ? `${point}` : `${point} ${moment} ${probed.world}~${spread} ${effects} ${circuit === fault.circuit ? "" : circuit}`;
    const known = this.kept.get(key);
    if (known) return known;
    const { points, model } = this;
    const { network: net } = model;
    const owner = model.circuits.find(({ id }) => id === fault.circuit);
    const severity = points.severity[point] as number;
    const variant = points.variant[point] ?? { direction: 1, section: 0, weight: 1 };
    const step = this.severityStep(point);
    const own = owner === undefined || owner.id === circuit;
    const situation = own
      ? probed
      : situationOf(owner.built.world, probed.setup, this.worldAt(point, owner, fixedWorld(owner.built.world, { ...probed.setup, truth: undefined })).value);
    const at = (size: number, where: Situation): Edit[] => editsOf(net, net.values, fault.circuit, fault.effect(size, where, variant, moment));
    const here = at(severity, situation);
    const worse = step.size === 0 ? here : at(severity + step.size, situation);
    const worldStep = owner === undefined ? 0 : 0.001 * (owner.built.world.high - owner.built.world.low);
    const warmer = fault.constant || !own || worldStep === 0 ? here : at(severity, { ...situation, world: situation.world + worldStep });
    const nudged = fault.nudged === undefined ? here : editsOf(net, net.values, fault.circuit, fault.nudged(NUDGE, severity, situation, moment));
    const motions = here.flatMap((edit, index): Motion[] => {
      const perWorld = warmer === here ? 0 : (spread * changeOf(edit, warmer[index])) / worldStep;
      const perSeverity = worse === here ? 0 : changeOf(edit, worse[index]) * step.perUnit;
      const perOther = nudged === here ? 0 : changeOf(edit, nudged[index]) / NUDGE;
      return perWorld === 0 && perSeverity === 0 && perOther === 0 ? [] : [{ element: edit.element, field: edit.field, perWorld, perSeverity, perOther }];
    });
    const built: FaultEdits = { edits: here, motions };
    this.kept.set(key, built);
    return built;
  }
}

function isOpenedContact(prepared: SetupNetwork, moment: number, edit: Edit): boolean {
  const name = prepared.net.elements[edit.element]?.id ?? "";
  const values = prepared.moments[moment]?.values;
  return name.includes("/contact:") && values !== undefined && (values.ohms[edit.element] as number) > edit.value;
}

/** Predicts a probe on a solved circuit into a new row. @returns its slot */
function predictRow(table: PredictionTable, moving: MovingCircuit, out: Prediction, columns: Columns): number {
  const { probe } = table;
  if (probe.kind === "listen") predictClick(moving, probe, out);
  else predictProbe(moving, probe as ElectricalProbe, columns, out);
  const slot = addRow(table, columns.count);
  if (table.numeric) {
    table.mean[slot] = out.mean;
    table.noise[slot] = out.noise;
    table.jacobian.set(out.jacobian, slot * columns.count);
  }
  if (out.words.length > 0) table.words.set(out.words, slot * out.words.length);
  return slot;
}

/** A point that looks like another one shares its rows. */
function copySlots({ slot, brinks }: PredictionTable, from: number, to: number): void {
  slot[to] = slot[from] as number;
  const brink = brinks?.get(from);
  if (brink !== undefined) brinks?.set(to, brink);
}

const FIRST_ROWS = 64;

/** Makes room for one more row. @returns its slot */
export function addRow(table: PredictionTable, columns: number): number {
  const slot = table.rows;
  table.rows += 1;
  const words = table.wordNames.length;
  const capacity = table.numeric ? table.mean.length : words === 0 ? 0 : table.words.length / words;
  if (slot < capacity) return slot;
  const wanted = Math.max(FIRST_ROWS, 2 * capacity);
  const grown = (old: Float64Array, size: number): Float64Array => {
    const room = new Float64Array(size);
    room.set(old);
    return room;
  };
  if (table.numeric) {
    table.mean = grown(table.mean, wanted);
    table.noise = grown(table.noise, wanted);
    table.jacobian = grown(table.jacobian, wanted * columns);
  }
  if (words > 0) table.words = grown(table.words, wanted * words);
  return slot;
}
