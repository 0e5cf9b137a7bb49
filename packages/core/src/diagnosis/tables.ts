import { applySetup, type CircuitModel, editsOf, isOpen, type Model, type SetupNetwork, statedWorld } from "../circuit";
import { type Fault, showsIn } from "../faults";
import type { Probe } from "../instruments";
import { type Edit, type EditRoom, prepareEdits, solveNetwork } from "../network";
import { type Columns, emptyPrediction, type Motion, predictProbe, wordsOf } from "../tests";
import { findingProbabilities } from "./findings";
import type { Points } from "./points";

/**
 * What one probe shows under every hypothesis. Row-major over points: `jacobian[point * columns + column]`,
 * `words[point * wordNames.length + word]`. `mean` in volts or log ohms, `noise` its variance.
 */
export interface PredictionTable {
  readonly probe: Probe;
  readonly wordNames: readonly string[];
  readonly numeric: boolean;
  readonly mean: Float64Array;
  readonly noise: Float64Array;
  readonly jacobian: Float64Array;
  readonly words: Float64Array;
  /** The healthy point an intermittent fault looks like while it stays quiet; -1 for points that always show. */
  readonly quiet: Int32Array;
  /** Points whose row has been computed. */
  readonly filled: Uint8Array;
}

/** Variance of a number at a point before any reading taught its tolerances: instrument noise and all shared variables. */
export function priorVariance(table: PredictionTable, point: number, d: number): number {
  let variance = table.noise[point] as number;
  for (let k = point * d; k < (point + 1) * d; k += 1) variance += (table.jacobian[k] as number) ** 2;
  return variance;
}

/** The edits of a point at a world value, and how they move. */
interface PointEdits {
  readonly edits: readonly Edit[];
  readonly motions: readonly Motion[];
  readonly scan: { readonly volts: number; readonly perSeverity: number } | null;
}

type ElectricalProbe = Extract<Probe, { kind: "electrical" }>;

/** Builds prediction tables for one circuit; solved setups are shared between probes of one call. */
export class TableBuilder {
  private readonly pointEdits = new Map<string, PointEdits>();
  private readonly everyPoint: readonly number[];
  private readonly healthyPoints: readonly number[];

  constructor(
    private readonly model: Model,
    private readonly circuit: CircuitModel,
    private readonly points: Points,
    private readonly columns: Columns,
  ) {
    this.everyPoint = Array.from({ length: points.count }, (_, point) => point);
    this.healthyPoints = this.everyPoint.filter((point) => points.fault[point] === 0);
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
      if (points.every((point) => table.filled[point] === 1)) continue;
      if (table.probe.kind === "look") this.fillLook(table, table.probe.place);
      else {
        const key = JSON.stringify(table.probe.setup);
        bySetup.set(key, [...(bySetup.get(key) ?? []), table]);
      }
    }
    for (const members of bySetup.values()) this.fillSetup(members, points);
  }

  private emptyTable(probe: Probe): PredictionTable {
    const { count } = this.points;
    const wordNames = wordsOf(probe);
    const numeric = probe.kind === "electrical" && probe.meter !== "lamp" && probe.meter !== "continuity";
    return {
      probe,
      wordNames,
      numeric,
      mean: new Float64Array(numeric ? count : 0),
      noise: new Float64Array(numeric ? count : 0),
      jacobian: new Float64Array(numeric ? count * this.columns.count : 0),
      words: new Float64Array(count * wordNames.length),
      quiet: new Int32Array(count).fill(-1),
      filled: new Uint8Array(count),
    };
  }

  private fillLook(table: PredictionTable, place: string): void {
    const { points } = this;
    for (let point = 0; point < points.count; point += 1) {
      const fault = points.faults[points.fault[point] as number] ?? null;
      table.words.set(findingProbabilities(table.wordNames, place, fault), point * table.wordNames.length);
    }
    table.filled.fill(1);
  }

  private fillSetup(tables: readonly PredictionTable[], wanted: readonly number[]): void {
    const { points, columns, circuit, model } = this;
    const first = tables[0]?.probe as ElectricalProbe;
    const { setup } = first;
    const stated = statedWorld(circuit.built.world, setup.truth);
    const touchesPart = tables.some(({ probe }) => probe.kind === "electrical" && (probe.red.endsWith("@part") || probe.black.endsWith("@part")));
    const blindToWorld = stated === null && isOpen(model, setup, circuit, "sensor") && !touchesPart;
    const rooms = new Map<number, { prepared: SetupNetwork; room: EditRoom }>();
    const roomFor = (world: number): { prepared: SetupNetwork; room: EditRoom } => {
      let found = rooms.get(world);
      if (!found) {
        const prepared = applySetup(model, setup, circuit.id, "setup", new Map([[circuit.id, world]]));
        found = { prepared, room: prepareEdits(solveNetwork(prepared.net, prepared.values)) };
        rooms.set(world, found);
      }
      return found;
    };
    const outs = tables.map(({ probe }) => emptyPrediction(columns, probe));
    const healthyOf = new Map<number, number>();
    const healthyFirst = [...this.healthyPoints, ...wanted.filter((point) => points.fault[point] !== 0)];
    for (const point of healthyFirst) {
      const done = tables.every((table) => table.filled[point] === 1);
      if (done && points.fault[point] !== 0) continue;
      const grid = points.worlds[points.world[point] as number] ?? { value: circuit.built.world.nominal, spread: 0, weight: 1 };
      const world = stated ?? (blindToWorld ? circuit.built.world.nominal : grid.value);
      const spread = stated !== null ? circuit.built.world.accuracy : blindToWorld ? 0 : grid.spread;
      const fault = points.faults[points.fault[point] as number] ?? null;
      const shows = fault !== null && showsIn(fault, setup);
      if (done) {
        if (!healthyOf.has(world)) healthyOf.set(world, point);
        continue;
      }
      for (const table of tables) table.filled[point] = 1;
      const twin = shows ? undefined : healthyOf.get(world);
      if (twin !== undefined) {
        for (const table of tables) copyRow(table, twin, point, columns.count);
        continue;
      }
      const { prepared, room } = roomFor(world);
      const own = this.editsAt(point, shows ? fault : null, world, spread);
      const edits = own.edits.filter((edit) => edit.field !== "ohms" || !isOpenedContact(prepared, edit));
      const solution = room.apply(edits);
      tables.forEach((table, index) => {
        const out = outs[index] as (typeof outs)[number];
        predictProbe(solution, table.probe as ElectricalProbe, columns, own.motions, own.scan, out);
        if (table.numeric) {
          table.mean[point] = out.mean;
          table.noise[point] = out.noise;
          table.jacobian.set(out.jacobian, point * columns.count);
        }
        if (out.words.length > 0) table.words.set(out.words, point * out.words.length);
      });
      const quiet = shows && fault.during !== null ? healthyOf.get(world) : undefined;
      if (quiet !== undefined) for (const table of tables) table.quiet[point] = quiet;
      if (!shows) healthyOf.set(world, point);
    }
  }

  /** Edits and slopes of a point; kept, since every setup asks for them again. */
  private editsAt(point: number, fault: Fault | null, world: number, spread: number): PointEdits {
    const key = `${fault === null ? -1 : point}@${world}~${spread}`;
    const kept = this.pointEdits.get(key);
    if (kept) return kept;
    const { points, circuit } = this;
    const { network: net } = this.model;
    const worldStep = 0.001 * (circuit.built.world.high - circuit.built.world.low);
    const severity = points.severity[point] as number;
    const severitySpread = points.severitySpread[point] as number;
    const scale = fault?.severity ?? null;
    const severityStep = scale === null ? 0 : scale.key === "ohms" ? 0.001 * severity : 0.001;
    const variant = points.variant[point] ?? { direction: 1, section: 0, weight: 1 };
    const at = (atSeverity: number, atWorld: number): { list: Map<string, Edit>; scan: number | null; own: Edit[] } => {
      const effect = fault === null ? { assignments: [], scanVolts: null } : fault.effect(atSeverity, atWorld, variant);
      const sensor = editsOf(net, net.values, circuit.id, circuit.built.sensor(atWorld));
      const own = editsOf(net, net.values, fault?.circuit ?? circuit.id, effect.assignments);
      const list = new Map<string, Edit>();
      for (const edit of [...sensor, ...own]) list.set(`${edit.element}.${edit.field}`, edit);
      return { list, scan: effect.scanVolts, own };
    };
    const here = at(severity, world);
    const warmer = at(severity, world + worldStep);
    const worse = severityStep === 0 ? here : at(severity + severityStep, world);
    const perSeverityUnit = severityStep === 0 ? 0 : severitySpread / (scale?.key === "ohms" ? severityStep / severity : severityStep);
    const motions: Motion[] = [];
    for (const [name, edit] of here.list) {
      const change = (other: Edit | undefined): number =>
        other === undefined ? 0 : edit.field === "ohms" ? Math.log(other.value / edit.value) : other.value - edit.value;
      const perWorld = (spread * change(warmer.list.get(name))) / worldStep;
      const perSeverity = change(worse.list.get(name)) * perSeverityUnit;
      if (perWorld !== 0 || perSeverity !== 0) motions.push({ element: edit.element, field: edit.field, perWorld, perSeverity });
    }
    const scan = here.scan === null ? null : { volts: here.scan, perSeverity: ((worse.scan ?? here.scan) - here.scan) * perSeverityUnit };
    const built: PointEdits = { edits: here.own, motions, scan };
    this.pointEdits.set(key, built);
    return built;
  }
}

function isOpenedContact(prepared: SetupNetwork, edit: Edit): boolean {
  const name = prepared.net.elements[edit.element]?.id ?? "";
  return name.includes("/contact:") && (prepared.values.ohms[edit.element] as number) > edit.value;
}

function copyRow(table: PredictionTable, from: number, to: number, columns: number): void {
  if (table.numeric) {
    table.mean[to] = table.mean[from] as number;
    table.noise[to] = table.noise[from] as number;
    table.jacobian.copyWithin(to * columns, from * columns, (from + 1) * columns);
  }
  const words = table.wordNames.length;
  table.words.copyWithin(to * words, from * words, (from + 1) * words);
}
