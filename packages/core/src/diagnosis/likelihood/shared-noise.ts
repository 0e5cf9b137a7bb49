import { bentTogether } from "../../instruments";
import type { PredictionTable } from "../predictions/table";

// Taken out of Math once: these run millions of times.
const { max, min, sqrt } = Math;

/** Two readings never share all of their noise, however little is a meter's own beside what is the circuit's. */
const MOST_SHARED = 1 - 1e-6;

/** Numbers as they are laid out beside each other: row-major, n x n, in units of their own noise. */
export interface SharedSpread {
  /** Their covariance so far, of what the shared variables move; the lower half is filled. */
  readonly spread: Float64Array;
  /** Of that, each number's own variance. */
  readonly moved: Float64Array;
  /** One over each number's own noise, standard deviations. */
  readonly scales: Float64Array;
}

/**
 * What is no noise of a reading although no shared variable moves it: what a wide spread leaves over, shared by readings of the same quantity, and
 * what is the circuit's own, shared by readings that were taken again. Reading once or ten times at the same points tells about the meter.
 */
export class SharedNoise {
  /** Numbers of one and the same probe, one pair after the other, the later one first. */
  private readonly repeats: Int32Array;
  private readonly bents: Float64Array;
  private readonly lastings: Float64Array;
  private readonly levels: Float64Array;
  private bending = 0;

  constructor(private readonly tables: readonly PredictionTable[]) {
    const n = tables.length;
    this.repeats = Int32Array.from(tables.flatMap((table, i) => tables.slice(0, i).flatMap((other, j) => (other === table ? [i, j] : []))));
    this.bents = new Float64Array(n);
    this.lastings = new Float64Array(n);
    this.levels = new Float64Array(n);
  }

  /** Forgets what was laid out. */
  clear(): void {
    this.bending = 0;
  }

  /** Lays a number out at a slot of its table. */
  lay(i: number, slot: number): void {
    const { bent, lasting, mean } = this.tables[i];
    this.bents[i] = bent[slot];
    this.lastings[i] = lasting[slot];
    this.levels[i] = mean[slot];
    if (bent[slot] > 0) this.bending += 1;
  }

  /** A number that shares nothing. */
  leave(i: number): void {
    this.bents[i] = 0;
    this.lastings[i] = 0;
  }

  /** Adds to the covariance what the numbers laid out share. */
  addTo(shared: SharedSpread): void {
    const { repeats, lastings } = this;
    const n = this.tables.length;
    // Which of the tolerances move two numbers alike is told by their covariance before anything is added to it.
    if (this.bending > 1) this.addBent(shared);
    for (let at = 0; at < repeats.length; at += 2) {
      const [i, j] = [repeats[at], repeats[at + 1]];
      const both = lastings[i] * lastings[j];
      if (both > 0) shared.spread[i * n + j] = shared.spread[i * n + j] + min(MOST_SHARED, sqrt(both) * shared.scales[i] * shared.scales[j]);
    }
  }

  private addBent({ spread, moved, scales }: SharedSpread): void {
    const { bents, levels } = this;
    const n = this.tables.length;
    for (let i = 1; i < n; i += 1) {
      if (bents[i] === 0) continue;
      for (let j = 0; j < i; j += 1) {
        if (bents[j] === 0) continue;
        const both = moved[i] * moved[j];
        if (both <= 0) continue;
        const likeness = max(-1, min(1, spread[i * n + j] / sqrt(both)));
        spread[i * n + j] = spread[i * n + j] + bentTogether(bents[i], levels[i], bents[j], levels[j], likeness) * scales[i] * scales[j];
      }
    }
  }
}
