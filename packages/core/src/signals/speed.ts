import type { ChannelReading } from "./channel";
import { teethGone } from "./rows";

/** How fast a wheel turned over a capture: at each of some places, in samples, revolutions a minute. */
export interface Speed {
  readonly at: readonly number[];
  readonly rpm: readonly number[];
}

/** What compression does to a starter: how often a turn it slows, and by how much of the speed. */
export interface Dips {
  readonly count: number;
  readonly perTurn: number;
  /** Depth of the shallowest and the deepest, as shares of the mean speed. */
  readonly shallowest: number;
  readonly deepest: number;
}

/** A speed is taken over an eighteenth of a turn at least, so that uneven teeth do not count. */
const TURN_PARTS = 18;
/** A dip is one that falls and rises by this share of the mean. */
const LEAST_DIP = 0.05;
/** An engine that runs by itself is faster than its starter turns it by this factor, and than this, rev/min. */
const RUNS_FACTOR = 1.6;
const RUNS_RPM = 450;
const MOST_CRANKING_RPM = 400;
const LEAST_TEETH = 12;

/** The speed of a wheel whose teeth are known, from edge to edge of one direction; null where there is no row of teeth. */
export function speedOf({ row, edges, expected, wave }: ChannelReading, rate: number): Speed | null {
  const teeth = expected.wheel?.teeth ?? null;
  // A wheel of few teeth is a cam's, which turns at half the engine's speed or not.
  if (teeth === null || teeth < LEAST_TEETH || row === null || !row.even || edges.at.length < 8) return null;
  const absent = new Map(row.long.map((one) => [one.index, teethGone(one)]));
  const places: number[] = [];
  const counts: number[] = [];
  let tooth = 0;
  // Of a wave the steep crossings: those in the middle of a tooth.
  const first = wave?.steep === 1 ? 1 : 0;
  for (let edge = first; edge < edges.at.length; edge += 2) {
    if (edge >= 2) tooth += 1 + (absent.get(edge - 1) ?? 0) + (absent.get(edge - 2) ?? 0);
    places.push(edges.at[edge] as number);
    counts.push(tooth);
  }
  const apart = Math.max(1, Math.round(teeth / TURN_PARTS));
  const at: number[] = [];
  const rpm: number[] = [];
  for (let index = apart; index < places.length; index += 1) {
    const [from, to] = [places[index - apart] as number, places[index] as number];
    const turned = ((counts[index] as number) - (counts[index - apart] as number)) / teeth;
    at.push(0.5 * (from + to));
    rpm.push((60 * turned * rate) / (to - from));
  }
  return rpm.length < 3 ? null : { at, rpm };
}

/** The mean speed between two places, weighed by time. */
export function meanRpm({ at, rpm }: Speed, from = 0, to = Number.POSITIVE_INFINITY): number | null {
  let [sum, weight] = [0, 0];
  for (let index = 0; index < rpm.length; index += 1) {
    const place = at[index] as number;
    if (place < from || place > to) continue;
    const width = index === 0 ? 1 : Math.max(1e-9, place - (at[index - 1] as number));
    sum += width * (rpm[index] as number);
    weight += width;
  }
  return weight === 0 ? null : sum / weight;
}

/** The place from which an engine runs by itself: its speed leaves what the starter gave and does not come back. Null where it does not. */
export function runsFrom({ at, rpm }: Speed): number | null {
  const start = rpm.slice(0, Math.max(3, Math.floor(rpm.length / 20))).sort((a, b) => a - b);
  const cranking = start[start.length >> 1] as number;
  if (cranking > MOST_CRANKING_RPM) return null;
  const least = Math.max(RUNS_RPM, RUNS_FACTOR * cranking);
  let from: number | null = null;
  for (let index = 0; index < rpm.length; index += 1) {
    if ((rpm[index] as number) < least) from = null;
    else if (from === null) from = at[index] as number;
  }
  return from;
}

/** How compression slows a cranked engine, from its highs and lows; null where it turns too little, or is not slowed. */
export function dipsOf({ rpm, at }: Speed, rate: number): Dips | null {
  const mean = rpm.reduce((sum, value) => sum + value, 0) / rpm.length;
  const least = LEAST_DIP * mean;
  const lows: number[] = [];
  const depths: number[] = [];
  let [high, low, falling] = [rpm[0] as number, rpm[0] as number, true];
  let lowAt = 0;
  for (let index = 0; index < rpm.length; index += 1) {
    const value = rpm[index] as number;
    if (falling) {
      if (value < low) [low, lowAt] = [value, index];
      if (value > high && low > high - least) [high, low] = [value, value];
      if (value > low + least && high > low + least) {
        lows.push(at[lowAt] as number);
        depths.push((high - low) / mean);
        [falling, high] = [false, value];
      }
    } else {
      if (value > high) high = value;
      if (value < high - least) [falling, low, lowAt] = [true, value, index];
    }
  }
  if (lows.length < 4) return null;
  const turns = (((lows.at(-1) as number) - (lows[0] as number)) / rate) * (mean / 60);
  return { count: lows.length, perTurn: (lows.length - 1) / turns, shallowest: Math.min(...depths), deepest: Math.max(...depths) };
}
