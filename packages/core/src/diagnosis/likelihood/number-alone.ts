import { isExtreme, type PredictionTable } from "../predictions/table";
import { cutOff } from "./cut-off";
import type { Observation } from "./observation";

const { abs, log, max, min, sqrt } = Math;
const LOG_TWO_PI = log(2 * Math.PI);
const LEAST_LOG = -60;
const NEVER = Number.NEGATIVE_INFINITY;

/** Log probability that a number (any number) is shown rather than a word. */
export function logNumeric(table: PredictionTable, slot: number): number {
  const words = table.wordNames.length;
  if (words === 0) return 0;
  const at = slot * words;
  let sum = 0;
  for (let word = 0; word < words; word += 1) sum += table.words[at + word];
  return max(LEAST_LOG, log(max(1e-30, 1 - sum)));
}

/** How often a fault that shows for a moment only is over before a recording's lowest or highest has gone all of its way. */
const BRIEF_SHARE = 0.3;
/** How often a fault that is there at times is there from beginning to end of a recording. */
const ALL_ALONG = 0.5;
/** Levels closer than so many standard deviations have nothing between them. */
const APART_SIGMAS = 4;

/** What each number says by itself, before any other reading. */
export class NumberAlone {
  /** Variance of the number that was weighed last. */
  variance = 1;
  /** Whether a number is the lowest or highest of a recording. */
  private readonly extreme: readonly boolean[];

  /**
   * @param observations those with a number
   * @param active the shared variables that move any of them
   * @param d how many shared variables there are
   */
  constructor(
    private readonly observations: readonly Observation[],
    private readonly active: Int32Array,
    private readonly d: number,
  ) {
    this.extreme = observations.map(({ table }) => isExtreme(table.probe));
  }

  /** Variance of a number alone: its own noise and all shared variables. */
  varianceAt(table: PredictionTable, slot: number): number {
    const { active } = this;
    const start = slot * this.d;
    let variance = table.noise[slot];
    for (let at = 0; at < active.length; at += 1) variance += table.jacobian[start + active[at]] ** 2;
    return variance;
  }

  /** log P(number | slot) alone; keeps its variance. */
  log(i: number, slot: number): number {
    const observation = this.observations[i];
    const { table } = observation;
    const variance = this.varianceAt(table, slot);
    this.variance = variance;
    if (table.ends !== null) return logNumeric(table, slot) + cutOff(table.ends, observation.number as number, table.mean[slot], variance).log;
    const miss = (observation.number as number) - table.mean[slot];
    return logNumeric(table, slot) - 0.5 * (LOG_TWO_PI + log(variance) + (miss * miss) / variance);
  }

  /**
   * log P(number | a fault that showed too shortly): anywhere between the sound circuit's level and the fault's own, all alike; never for what is no
   * lowest or highest of a recording.
   */
  logBrief(i: number, slot: number, quiet: number): number {
    if (!this.extreme[i]) return NEVER;
    const { table, number } = this.observations[i];
    const [one, other] = [table.mean[slot], table.mean[quiet]];
    const apart = abs(one - other);
    const sigma = sqrt(this.varianceAt(table, quiet));
    const level = number as number;
    if (apart < APART_SIGMAS * sigma || level < min(one, other) || level > max(one, other)) return NEVER;
    return log(BRIEF_SHARE / apart) + logNumeric(table, quiet);
  }

  /** How likely a number shows a fault that is there with a probability: what pulls a line down shows in the highest of a recording only if it lasts. */
  shows(i: number, there: number, slot: number, quiet: number): number {
    if (!this.extreme[i]) return there;
    const { table } = this.observations[i];
    const lowest = table.probe.kind === "electrical" && table.probe.statistic === "min";
    return table.mean[slot] < table.mean[quiet] === lowest ? there : ALL_ALONG * there;
  }
}
