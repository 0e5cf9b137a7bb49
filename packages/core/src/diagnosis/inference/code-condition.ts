import type { Measurement, Setup } from "@fox-lamp/language";
import { type CircuitModel, connectorsOf } from "../../circuit";
import { type CodeKind, codeLimits, DRIVEN_GROUNDED_VOLTS, DRIVEN_LEAST_VOLTS, TRACK_PERCENT } from "../../codes";
import { wordsOf } from "../../instruments";
import { normalCdf } from "../../numeric";
import { type PredictionTable, priorVariance } from "../predictions/table";
import type { Inference, Predicted } from "./inference";
import { predictionKey } from "./observe";

/** A connection that shows only when moved has been moved by the road. */
const MOVED_ON_THE_ROAD = 0.7;
/** From this share of the range a value is not believed, against what it should be; and how softly. */
const RANGE_SHARE = 0.12;
const RANGE_SOFT = 0.04;

/** One thing the module watches. */
export interface Watched extends Predicted {
  /** Whether it counts, and is predicted, for what shows only when moved alone. */
  readonly moved: boolean;
}

/** What sets a code: what the module watches, and how likely that meets the code's rule. */
export interface Condition {
  readonly watched: readonly Watched[];
  /** P(met) by cell. @param tables predictions of what is watched, in its order */
  readonly met: (tables: readonly PredictionTable[]) => Float64Array;
}

/** One of several looks, any of which may meet a rule. */
interface Look extends Watched {
  readonly met: (table: PredictionTable, cell: number) => number;
}

/** P(value under a limit) at a cell. */
function under(table: PredictionTable, cell: number, limit: number, d: number): number {
  const mean = table.mean[table.slot[cell] as number];
  return normalCdf((limit - mean) / Math.sqrt(priorVariance(table, table.slot[cell], d)));
}

function setupsOf(circuit: CircuitModel): { setup: Setup; moved: boolean }[] {
  return [{ setup: {}, moved: false }, ...connectorsOf(circuit).map((at) => ({ setup: { stimulus: { kind: "wiggle" as const, at } }, moved: true }))];
}

/** Something the module watches; none where it cannot be measured on these circuits. */
function watch(inference: Inference, measurement: Measurement, moved = false): Watched[] {
  const probe = inference.probe(measurement, "code");
  return probe === null ? [] : [{ key: predictionKey(probe, measurement), probe, moved }];
}

/** A rule that any of some looks meets; null where there are none. A connection that shows only when moved counts while it is moved. */
function anyOf({ grid }: Inference, looks: readonly Look[]): Condition | null {
  if (looks.length === 0) return null;
  const met = (tables: readonly PredictionTable[]): Float64Array => {
    const out = new Float64Array(grid.count);
    for (let cell = 0; cell < grid.count; cell += 1) {
      let none = 1;
      for (const [index, look] of looks.entries()) {
        if (look.moved && grid.sometimes[cell] === 0) continue;
        none *= 1 - (look.moved ? MOVED_ON_THE_ROAD : 1) * look.met(tables[index], cell);
      }
      out[cell] = 1 - none;
    }
    return out;
  };
  return { watched: looks, met };
}

/** What sets a code of a kind on a circuit; null where the circuit has no such condition. */
export function conditionOf(inference: Inference, circuit: CircuitModel, kind: CodeKind): Condition | null {
  const { grid, columns } = inference;
  const d = columns.count;
  const id = circuit.id;
  const { reads } = circuit.built;
  const limits = codeLimits(circuit);
  /** A look whose answer is one of the instrument's words. */
  const byWord = (measurement: Measurement, moved: boolean, word: string): Look[] =>
    watch(inference, measurement, moved).flatMap((own) => {
      const at = wordsOf(own.probe).indexOf(word);
      return at < 0 ? [] : [{ ...own, met: ({ words, slot, wordNames }: PredictionTable, cell: number) => words[slot[cell] * wordNames.length + at] }];
    });
  const levels = (met: Look["met"]): Condition | null =>
    anyOf(
      inference,
      reads
        .filter(({ by }) => by === "volts")
        .flatMap(({ pin }) =>
          setupsOf(circuit).flatMap(({ setup, moved }) =>
            watch(inference, { circuit: id, meter: "scan", red: `${pin}@module`, setup }, moved).map((own) => ({ ...own, met })),
          ),
        ),
    );
  const low: Look["met"] = (table, cell) => under(table, cell, limits.low, d);
  const high: Look["met"] = (table, cell) => 1 - under(table, cell, limits.high, d);
  const either: Look["met"] = (table, cell) => Math.min(1, low(table, cell) + high(table, cell));
  const lost = (): Condition | null =>
    anyOf(
      inference,
      reads
        .filter(({ by, units }) => by !== "volts" && units[0] !== "taps")
        .flatMap(({ pin, by, units }) =>
          setupsOf(circuit).flatMap(({ setup, moved }) => {
            const unit = by === "hertz" ? "Hz" : (units[0] ?? "rpm");
            const turned = by === "counts" ? { ...setup, key: "crank" as const } : setup;
            return byWord({ circuit: id, meter: "scan", red: `${pin}@module`, unit, setup: turned }, moved, "none");
          }),
        ),
    );
  const driven = (wanted: "any" | "low" | "high"): Condition | null => {
    const control = circuit.pins.find(({ role }) => role === "control" || role === "heater-control");
    if (control === undefined) return null;
    const heater = control.role === "heater-control";
    // While its driver is off the module sees whether something else holds the line down: no setup here has the driver of a heater off.
    const held = grid.faults.map(
      (fault) =>
        heater && fault !== null && fault.circuit === id && (fault.id === `${id}/wire:${control.pin}/short-ground` || fault.id === `${id}/module:driver/stuck`),
    );
    // A valve that draws next to nothing when it is driven is as good as open to the module.
    const silent: Measurement = { circuit: id, meter: "listen", red: "part", setup: { stimulus: { kind: "command" } } };
    const undriven = heater || wanted !== "any" ? [] : byWord(silent, false, "no-click");
    const met: Look["met"] = (table, cell) => {
      // A driver that is off sees the battery through a sound winding; one that is on pulls a sound heater's wire down.
      const grounded = held[grid.fault[cell]] === true ? 1 : under(table, cell, DRIVEN_GROUNDED_VOLTS, d);
      const over = 1 - under(table, cell, DRIVEN_LEAST_VOLTS, d);
      if (!heater) return wanted === "high" ? 0 : 1 - over;
      return wanted === "low" ? grounded : wanted === "high" ? over : Math.min(1, grounded + over);
    };
    const line = setupsOf(circuit).flatMap(({ setup, moved }) =>
      watch(inference, { circuit: id, meter: "volts-dc", red: `${control.pin}@module`, black: "bat-", setup }, moved).map((own) => ({ ...own, met })),
    );
    return anyOf(inference, [...undriven, ...line]);
  };
  switch (kind) {
    case "low":
      return levels(low) ?? (circuit.built.faults.some(({ unit }) => unit === "coil") ? driven("low") : lost());
    case "high":
      return levels(high) ?? (circuit.built.faults.some(({ unit }) => unit === "coil") ? driven("high") : lost());
    case "circuit":
    case "intermittent":
      return levels(either) ?? lost() ?? driven("any");
    case "no-activity":
      return lost() ?? levels(either);
    case "heater":
      return driven("any");
    case "heater-low":
      return driven("low");
    case "heater-high":
      return driven("high");
    case "correlation":
      return tracks(inference, circuit);
    case "performance":
    case "slow":
      return disbelieved(inference, circuit);
    case "consequence":
      return null;
  }
}

/** Two tracks disagree. */
function tracks(inference: Inference, circuit: CircuitModel): Condition | null {
  const [first, second] = circuit.built.reads.filter(({ by }) => by === "volts");
  if (first === undefined || second === undefined) return null;
  const watched = [first, second].flatMap(({ pin }) => watch(inference, { circuit: circuit.id, meter: "scan", red: `${pin}@module`, setup: {} }));
  if (watched.length < 2) return null;
  const met = ([a, b]: readonly PredictionTable[]): Float64Array =>
    Float64Array.from({ length: inference.grid.count }, (_, cell) => {
      const at = (table: PredictionTable): number => table.mean[table.slot[cell] as number];
      const apart = Math.abs((first.toWorld(at(a)) ?? 0) - (second.toWorld(at(b)) ?? 0));
      return normalCdf((apart - TRACK_PERCENT) / (0.4 * TRACK_PERCENT));
    });
  return { watched, met };
}

/** A value is in its electrical range and yet not believed against what it should be. */
function disbelieved(inference: Inference, circuit: CircuitModel): Condition | null {
  const main = circuit.built.reads.find(({ by }) => by === "volts");
  const { world } = circuit.built;
  if (main === undefined) return null;
  const watched = watch(inference, { circuit: circuit.id, meter: "scan", red: `${main.pin}@module`, setup: {} });
  if (watched.length === 0) return null;
  const limits = codeLimits(circuit);
  const d = inference.columns.count;
  const { grid } = inference;
  const met = ([table]: readonly PredictionTable[]): Float64Array =>
    Float64Array.from({ length: grid.count }, (_, cell) => {
      const mean = table.mean[table.slot[cell] as number];
      const own = grid.worlds[grid.world[cell]];
      const truth = own?.circuit === circuit.id ? own.value : (grid.wide.get(circuit.id)?.value ?? world.nominal);
      const share = Math.abs((main.toWorld(mean) ?? truth) - truth) / Math.max(1e-9, world.high - world.low);
      const inside = 1 - Math.min(1, under(table, cell, limits.low, d) + 1 - under(table, cell, limits.high, d));
      const outside = grid.faults[grid.fault[cell]]?.kind === "true-value" ? 0.5 : 0;
      return inside * Math.max(outside, normalCdf((share - RANGE_SHARE) / RANGE_SOFT));
    });
  return { watched, met };
}
