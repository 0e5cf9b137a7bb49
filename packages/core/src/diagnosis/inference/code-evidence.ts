import type { Code, Measurement, Reading, Setup } from "@fox-lamp/language";
import { type CircuitModel, connectorsOf } from "../../circuit";
import {
  type CodeKind,
  circuitsOfCode,
  codeLimits,
  DRIVEN_GROUNDED_VOLTS,
  DRIVEN_LEAST_VOLTS,
  isSubject,
  type MatchedCode,
  type SubjectKey,
  TRACK_PERCENT,
} from "../../codes";
import { lazy, normalCdf } from "../../numeric";
import type { Observation } from "../likelihood/observation";
import { type PredictionTable, priorVariance, wordTable } from "../predictions/table";
import type { Inference } from "./inference";

/**
 * How surely a stored code means that its condition was met, by status: [when met, when not]. Codes are left over from work on the car and
 * set by rules of their own: they guide the search, and any direct measurement outweighs them.
 */
const STORED: Readonly<Record<string, readonly [number, number]>> = {
  current: [0.88, 0.06],
  pending: [0.7, 0.1],
  history: [0.4, 0.15],
};
/** A fault that meets the condition has set its code by now this often: trips, drive cycles, cleared memory. */
const SET_BY_NOW = 0.55;
/** A battery that falls while cranking meets the rule of codes about a lost signal this often. */
const FALLING_BATTERY = 0.5;
/** A connection that shows only when moved has been moved by the road. */
const MOVED_ON_THE_ROAD = 0.7;
/** From this share of the range a value is not believed, against what it should be; and how softly. */
const RANGE_SHARE = 0.12;
const RANGE_SOFT = 0.04;

/** Subjects whose levels every module watches. */
const LEVEL_SUBJECTS: readonly SubjectKey[] = [
  "coolant",
  "intake-air",
  "oil-temperature",
  "manifold",
  "rail",
  "oil-pressure",
  "refrigerant",
  "tank",
  "throttle",
  "pedal",
  "egr",
  "air-flow",
];

/** One code as an observation of a set of circuits. */
export interface CodeObservation {
  readonly observation: Observation;
  /** As it is shown beside readings. */
  readonly reading: Reading;
}

/** Predictions of a measurement; while a connector is moved, of the cells alone that show only then. */
type Tabled = (measurement: Measurement) => PredictionTable | null;

/** P(value under a limit) at a cell. */
function under(table: PredictionTable, cell: number, limit: number, d: number): number {
  const mean = table.mean[table.slot[cell] as number];
  return normalCdf((limit - mean) / Math.sqrt(priorVariance(table, table.slot[cell], d)));
}

function setupsOf(circuit: CircuitModel): { setup: Setup; moved: boolean }[] {
  return [{ setup: {}, moved: false }, ...connectorsOf(circuit).map((at) => ({ setup: { stimulus: { kind: "wiggle" as const, at } }, moved: true }))];
}

/** P(the condition of a code is met) for every cell; null when the circuit has no such condition. */
function conditionOf(inference: Inference, circuit: CircuitModel, kind: CodeKind, tabled: Tabled): Float64Array | null {
  const { grid, columns } = inference;
  const d = columns.count;
  const id = circuit.id;
  const { reads } = circuit.built;
  const limits = codeLimits(circuit);
  /** The chance that some of several looks meets it: a connection that shows only when moved counts while it is moved. */
  const anyOf = (
    parts: readonly { table: PredictionTable | null; moved: boolean; met: (table: PredictionTable, cell: number) => number }[],
  ): Float64Array | null => {
    const known = parts.filter(({ table }) => table !== null);
    if (known.length === 0) return null;
    const out = new Float64Array(grid.count);
    for (let cell = 0; cell < grid.count; cell += 1) {
      let none = 1;
      for (const { table, moved, met } of known) {
        if (moved && grid.sometimes[cell] === 0) continue;
        none *= 1 - (moved ? MOVED_ON_THE_ROAD : 1) * met(table as PredictionTable, cell);
      }
      out[cell] = 1 - none;
    }
    return out;
  };
  const levels = (met: (table: PredictionTable, cell: number) => number): Float64Array | null =>
    anyOf(
      reads
        .filter(({ by }) => by === "volts")
        .flatMap(({ pin }) =>
          setupsOf(circuit).map(({ setup, moved }) => ({ table: tabled({ circuit: id, meter: "scan", red: `${pin}@module`, setup }), moved, met })),
        ),
    );
  const low = (table: PredictionTable, cell: number): number => under(table, cell, limits.low, d);
  const high = (table: PredictionTable, cell: number): number => 1 - under(table, cell, limits.high, d);
  const lost = (): Float64Array | null =>
    anyOf(
      reads
        .filter(({ by, units }) => by !== "volts" && units[0] !== "taps")
        .flatMap(({ pin, by, units }) =>
          setupsOf(circuit).map(({ setup, moved }) => {
            const unit = by === "hertz" ? "Hz" : (units[0] ?? "rpm");
            const table = tabled({
              circuit: id,
              meter: "scan",
              red: `${pin}@module`,
              unit,
              setup: { ...setup, ...(by === "counts" ? { key: "crank" as const } : {}) },
            });
            const word = table?.wordNames.indexOf("none") ?? -1;
            return {
              table: word < 0 ? null : table,
              moved,
              met: (own: PredictionTable, cell: number) => own.words[own.slot[cell] * own.wordNames.length + word],
            };
          }),
        ),
    );
  const driven = (wanted: "any" | "low" | "high"): Float64Array | null => {
    const control = circuit.pins.find(({ role }) => role === "control" || role === "heater-control");
    if (control === undefined) return null;
    const heater = control.role === "heater-control";
    // While its driver is off the module sees whether something else holds the line down: no setup here has the driver of a heater off.
    const held = grid.faults.map(
      (fault) =>
        heater && fault !== null && fault.circuit === id && (fault.id === `${id}/wire:${control.pin}/short-ground` || fault.id === `${id}/module:driver/stuck`),
    );
    // A valve that draws next to nothing when it is driven is as good as open to the module.
    const idle = tabled({ circuit: id, meter: "listen", red: "part", setup: { stimulus: { kind: "command" } } });
    const silent = idle?.wordNames.indexOf("no-click") ?? -1;
    const undriven = {
      table: heater || wanted !== "any" || silent < 0 ? null : idle,
      moved: false,
      met: (own: PredictionTable, cell: number) => own.words[own.slot[cell] * own.wordNames.length + silent],
    };
    return anyOf([
      undriven,
      ...setupsOf(circuit).map(({ setup, moved }) => ({
        table: tabled({ circuit: id, meter: "volts-dc", red: `${control.pin}@module`, black: "bat-", setup }),
        moved,
        met: (table: PredictionTable, cell: number): number => {
          // A driver that is off sees the battery through a sound winding; one that is on pulls a sound heater's wire down.
          const grounded = held[grid.fault[cell]] === true ? 1 : under(table, cell, DRIVEN_GROUNDED_VOLTS, d);
          const over = 1 - under(table, cell, DRIVEN_LEAST_VOLTS, d);
          if (!heater) return wanted === "high" ? 0 : 1 - over;
          return wanted === "low" ? grounded : wanted === "high" ? over : Math.min(1, grounded + over);
        },
      })),
    ]);
  };
  switch (kind) {
    case "low":
      return levels(low) ?? (circuit.built.faults.some(({ unit }) => unit === "coil") ? driven("low") : lost());
    case "high":
      return levels(high) ?? (circuit.built.faults.some(({ unit }) => unit === "coil") ? driven("high") : lost());
    case "circuit":
    case "intermittent":
      return levels((table, cell) => Math.min(1, low(table, cell) + high(table, cell))) ?? lost() ?? driven("any");
    case "no-activity":
      return lost() ?? levels((table, cell) => Math.min(1, low(table, cell) + high(table, cell)));
    case "heater":
      return driven("any");
    case "heater-low":
      return driven("low");
    case "heater-high":
      return driven("high");
    case "correlation":
      return tracks(inference, circuit, tabled);
    case "performance":
    case "slow":
      return disbelieved(inference, circuit, tabled);
    case "consequence":
      return null;
  }
}

/** P(two tracks disagree). */
function tracks(inference: Inference, circuit: CircuitModel, tabled: Tabled): Float64Array | null {
  const [first, second] = circuit.built.reads.filter(({ by }) => by === "volts");
  if (first === undefined || second === undefined) return null;
  const [a, b] = [first, second].map(({ pin }) => tabled({ circuit: circuit.id, meter: "scan", red: `${pin}@module`, setup: {} }));
  if (a == null || b == null) return null;
  return Float64Array.from({ length: inference.grid.count }, (_, cell) => {
    const at = (table: PredictionTable): number => table.mean[table.slot[cell] as number];
    const apart = Math.abs((first.toWorld(at(a)) ?? 0) - (second.toWorld(at(b)) ?? 0));
    return normalCdf((apart - TRACK_PERCENT) / (0.4 * TRACK_PERCENT));
  });
}

/** P(a value is in its electrical range and yet not believed against what it should be). */
function disbelieved(inference: Inference, circuit: CircuitModel, tabled: Tabled): Float64Array | null {
  const main = circuit.built.reads.find(({ by }) => by === "volts");
  const { world } = circuit.built;
  if (main === undefined) return null;
  const table = tabled({ circuit: circuit.id, meter: "scan", red: `${main.pin}@module`, setup: {} });
  if (table === null) return null;
  const limits = codeLimits(circuit);
  const d = inference.columns.count;
  const { grid } = inference;
  return Float64Array.from({ length: grid.count }, (_, cell) => {
    const mean = table.mean[table.slot[cell] as number];
    const own = grid.worlds[grid.world[cell]];
    const truth = own?.circuit === circuit.id ? own.value : (grid.wide.get(circuit.id)?.value ?? world.nominal);
    const share = Math.abs((main.toWorld(mean) ?? truth) - truth) / Math.max(1e-9, world.high - world.low);
    const inside = 1 - Math.min(1, under(table, cell, limits.low, d) + 1 - under(table, cell, limits.high, d));
    const outside = grid.faults[grid.fault[cell]]?.kind === "true-value" ? 0.5 : 0;
    return inside * Math.max(outside, normalCdf((share - RANGE_SHARE) / RANGE_SOFT));
  });
}

/** The words of a table whose one question is whether a code is stored. */
const STORED_WORDS = ["stored", "not stored"] as const;

/** The words of a table whose one question is whether the complaint showed. */
export const REMARK_WORDS = ["shown", "not shown"] as const;

/** A table whose one question is whether a code is stored. */
function storedTable(
  inference: Inference,
  circuit: CircuitModel,
  condition: Float64Array,
  [met, otherwise]: readonly [number, number],
  falls: number,
): PredictionTable {
  const { grid } = inference;
  const words = new Float64Array(2 * grid.count);
  for (let cell = 0; cell < grid.count; cell += 1) {
    const falling = grid.faults[grid.fault[cell]]?.unit.endsWith("/battery") === true ? falls : 0;
    const stored = otherwise + (met - otherwise) * Math.max(falling, condition[cell]);
    words[2 * cell] = stored;
    words[2 * cell + 1] = 1 - stored;
  }
  return wordTable({ kind: "look", circuit, place: "module", setup: {} }, STORED_WORDS, words);
}

/** Whether an observation is of a code or of the complaint itself, which is there or not, and never slips. */
export function isOfCode({ number, table }: Observation): boolean {
  return number === null && (table.wordNames[1] === STORED_WORDS[1] || table.wordNames[1] === REMARK_WORDS[1]);
}

/** What the module stores, and whether what it does not store is known not to be there. */
export interface KnownCodes {
  readonly codes: readonly Code[];
  readonly absent: boolean;
}

/**
 * A job's codes as observations: a stored code by its setting rule and status, and the codes of a circuit that could have been
 * set and were not. Codes that speak of no circuit here say nothing; neither do those that only follow from others.
 *
 * @param read null when the codes were never read
 * @param matched the circuits of the whole job a code speaks of: named on one circuit's sheet, it is not charged to its twin
 */
export function codeObservations(
  inference: Inference,
  read: KnownCodes | null,
  matched: (code: string) => readonly MatchedCode[] = (code) => circuitsOfCode(code, inference.circuits),
): CodeObservation[] {
  if (read === null) return [];
  const { codes, absent } = read;
  const found: CodeObservation[] = [];
  const shaken = lazy(() => Array.from(inference.grid.sometimes.keys()).filter((cell) => inference.grid.sometimes[cell] === 1));
  const tabled: Tabled = (measurement) => {
    const probe = inference.probe(measurement, "code");
    if (probe === null) return null;
    const key = `code ${JSON.stringify(measurement)}`;
    const moved = measurement.setup?.stimulus?.kind === "wiggle";
    return inference.tablesFor([{ key, probe }], moved ? shaken() : null)[0] ?? null;
  };
  const conditions = new Map<string, Float64Array | null>();
  const condition = (circuit: CircuitModel, kind: CodeKind): Float64Array | null => {
    const key = `${circuit.id} ${kind}`;
    let known = conditions.get(key);
    if (known === undefined) {
      known = conditionOf(inference, circuit, kind, tabled);
      conditions.set(key, known);
    }
    return known;
  };
  const add = (id: string, circuit: CircuitModel, met: Float64Array, rates: readonly [number, number], stored: boolean, falls = 0): void => {
    const table = storedTable(inference, circuit, met, rates, falls);
    found.push({
      observation: { id, key: `code ${id}`, table, number: null, word: stored ? 0 : 1 },
      reading: { circuit: circuit.id, meter: "scan", red: "module", value: stored ? "stored" : "not stored" },
    });
  };
  const stored = new Map<string, Set<CodeKind>>();
  for (const { code, status = "current" } of codes) {
    for (const { circuit: id, kind } of matched(code)) {
      if (inference.circuits.every((own) => own.id !== id)) continue;
      const circuit = inference.circuitOf(id);
      const met = condition(circuit, kind);
      const kinds = stored.get(id) ?? new Set();
      stored.set(id, kinds.add(kind));
      if (met !== null) add(code, circuit, met, STORED[status] ?? STORED["current"], true, kind === "no-activity" || kind === "circuit" ? FALLING_BATTERY : 0);
    }
  }
  for (const circuit of absent ? inference.circuits : []) {
    const kinds = stored.get(circuit.id) ?? new Set();
    if (!isWatched(circuit)) continue;
    for (const kind of ["low", "high"] as const) {
      if (kinds.size > 0 || circuit.built.reads.every(({ by }) => by !== "volts")) continue;
      const met = condition(circuit, kind);
      if (met !== null) add(`no ${kind} code of ${circuit.id}`, circuit, met, [SET_BY_NOW, 0.002], false);
    }
  }
  return found;
}

/** Whether the module is known to set codes for a circuit: it names them, or the generic table has some. */
function isWatched(circuit: CircuitModel): boolean {
  if (Object.keys(circuit.circuit.codes ?? {}).length > 0) return true;
  return LEVEL_SUBJECTS.some((subject) => isSubject(circuit.circuit, subject));
}
