import type { PredictionTable } from "../predictions/table";

/** A reading ready to be weighed: its table and what was observed. */
export interface Observation {
  readonly id: string;
  /** Names its predictions: what was measured how, whatever was read. */
  readonly key: string;
  readonly table: PredictionTable;
  /** Volts or log ohms; null when a word was read. */
  readonly number: number | null;
  /** Index into the table's words; -1 when a number was read. */
  readonly word: number;
  /** How often such a reading is slipped, where that is not the usual share: one that was taken again, or that a later one corrects. */
  readonly slipShare?: number;
}

/** How the observations fit every cell. */
export interface Evidence {
  /** log P(all observations | cell), slips allowed for. */
  readonly logLikelihood: Float64Array;
  /** P(observation slipped | cell), row-major by cell. */
  readonly slipped: Float64Array;
  /** P(the reading shows another state than the cell's own row: the fault was not there, or its electronics starved | cell), row-major by cell. */
  readonly absent: Float64Array;
  /** log P(one observation alone | cell), slips allowed for, row-major by cell. */
  readonly single: Float64Array;
  /** P(unplugging cured the cell's contact); zero for everything else. */
  readonly cured: Float64Array;
}

/** What is known about when faults were there. */
export interface Circumstances {
  /** HypothesisGrid whose fault shows only under its stimulus, and then only mostly. */
  readonly sometimes: Uint8Array;
  /** In a job whose fault comes and goes: how likely it was there during each observation; null where faults stay. */
  readonly presence: readonly number[] | null;
  /** For each observation the go it was read in from the module while a connector was moved; -1 for one by itself. */
  readonly goes: readonly number[];
  /** For each cell its entry in `after`; -1 where no connector of its contact was unplugged. */
  readonly disturbedBy: Int32Array;
  /** For connectors that were unplugged: which observations came at or after that. */
  readonly after: readonly Uint8Array[];
}

/** The circumstances of some of the observations. @param chosen their places among all */
export function circumstancesOf(known: Circumstances, chosen: readonly number[]): Circumstances {
  return {
    ...known,
    presence: known.presence === null ? null : chosen.map((index) => known.presence?.[index] ?? 1),
    goes: chosen.map((index) => known.goes[index] ?? -1),
    after: known.after.map((later) => Uint8Array.from(chosen, (index) => later[index])),
  };
}

/** Nothing comes and goes, nothing was unplugged. */
export function steadyCircumstances(grid: number): Circumstances {
  return { sometimes: new Uint8Array(grid), presence: null, goes: [], disturbedBy: new Int32Array(grid).fill(-1), after: [] };
}
