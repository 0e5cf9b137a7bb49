import type { Samples } from "./capture";
import { type Departure, departuresFromCourse, departuresFromLevel } from "./departures";
import { type Edges, runsOf } from "./edges";
import type { Expected } from "./expected";
import type { Stand } from "./gaps";
import { type Histogram, type Levels, quantile } from "./histogram";
import type { Noise } from "./noise";
import type { Row } from "./rows";
import { type Dropout, type Glitch, joined, levelBetween } from "./trouble";

/** What is wrong in the course of a channel; times in seconds from the first sample. */
export interface Troubles {
  readonly dropouts: readonly Dropout[];
  readonly glitches: readonly Glitch[];
}

/** A channel as it is read: its samples with what was measured of them so far. */
export interface Context {
  readonly samples: Samples;
  readonly rate: number;
  readonly histogram: Histogram;
  readonly noise: Noise;
  readonly levels: Levels;
  readonly expected: Expected;
  /** The smallest movement that means something. */
  readonly floor: number;
}

/** Shorter than this a departure is a glitch, seconds; one that goes to the end of the scale is a dropout sooner. */
const GLITCH_SECONDS = 0.004;
const RAIL_GLITCH_SECONDS = 0.002;
/** A supply that a starter pulls down is still one; a reference is not; a ground that lifts, a signal that leaves its place, volts. */
const FEED_SHARE = 0.3;
const REFERENCE_SHARE = 0.07;
const GROUND_VOLTS = 0.3;
/** A step of a slow signal between samples this far apart is no course any more. */
const JUMP_SECONDS = 0.001;
const JUMP_VOLTS = 0.15;
const JUMP_SHARE = 0.045;
const SETTLE_SECONDS = 0.0008;
const LONGEST_SHARE = 0.6;

/** How far a standing channel may stray before it is trouble, volts. */
function strayOf({ expected, noise, histogram }: Context, level: number): number {
  // Ripple spreads to both sides; a dropout to one.
  const [lower, middle, upper] = [0.25, 0.5, 0.75].map((share) => quantile(histogram, share)) as [number, number, number];
  const usual = 2.4 * Math.min(middle - lower, upper - middle);
  const floor = Math.max(7 * noise.sigma, 3 * noise.step, usual);
  switch (expected.role) {
    case "battery":
      return Math.max(floor, 0.5 * level);
    case "feed":
      return Math.max(floor, (level >= 9 ? FEED_SHARE : REFERENCE_SHARE) * level);
    case "reference":
      return Math.max(floor, REFERENCE_SHARE * level);
    case "ground":
      return Math.max(floor, GROUND_VOLTS);
    case "signal":
    case "control":
    case "current":
    case "other":
      return Math.max(floor, JUMP_VOLTS, JUMP_SHARE * expected.supply);
  }
}

/** Sorts departures into dropouts and glitches. @param scale what low and high mean for the channel */
function sorted(departures: readonly Departure[], { rate, samples }: Context, scale: { low: number; high: number }): Troubles {
  const dropouts: Dropout[] = [];
  const glitches: Glitch[] = [];
  for (const { from, to, value, extreme } of departures) {
    const seconds = (to - from) / rate;
    const level = levelBetween(value, scale.low, scale.high);
    const least = Math.max(level === "mid" ? GLITCH_SECONDS : RAIL_GLITCH_SECONDS, 2.5 / rate);
    if (seconds >= least) dropouts.push({ from: from / rate, to: to / rate, level, volts: value });
    else glitches.push({ t: Math.min(samples.length - 1, 0.5 * (from + to - 1)) / rate, volts: extreme });
  }
  return { dropouts: joined(dropouts, 0.003), glitches };
}

/** Times in which a supply or a ground is not what it is otherwise. */
export function levelTroubles(context: Context, level: number): Troubles {
  const { samples, rate, expected } = context;
  const departures = departuresFromLevel(samples, level, strayOf(context, level), Math.max(2, Math.round(SETTLE_SECONDS * rate)));
  const supply = Math.max(expected.supply, expected.role === "ground" ? 0 : level);
  return sorted(departures, context, { low: 0, high: supply });
}

/** Times in which a slow signal is off its smooth course, and the range of the course itself. */
export function courseTroubles(context: Context): { troubles: Troubles; low: number; high: number } {
  const { samples, rate, noise, expected, histogram } = context;
  const jump = Math.max(8 * noise.sigma, 3 * noise.step, JUMP_VOLTS, JUMP_SHARE * expected.supply);
  const reach = Math.max(1, Math.round(JUMP_SECONDS * rate));
  const departures = departuresFromCourse(samples, { jump, reach, longest: Math.floor(LONGEST_SHARE * samples.length) });
  const high = Math.max(expected.supply, quantile(histogram, 0.995));
  const troubles = sorted(departures, context, { low: 0, high });
  return { troubles, ...rangeWithout(context, departures) };
}

/** Samples are averaged over so many stretches for the range of a course. */
const RANGE_STRETCHES = 1500;
const LEAST_STRETCH = 8;

/** The range of a course between its departures, of short averages: noise does not widen it. */
function rangeWithout({ samples, histogram }: Context, departures: readonly Departure[]): { low: number; high: number } {
  const block = Math.min(Math.max(1, samples.length >> 3), Math.max(LEAST_STRETCH, Math.floor(samples.length / RANGE_STRETCHES)));
  let [low, high, next] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, 0];
  for (let from = 0; from < samples.length; from += block) {
    const to = Math.min(samples.length, from + block);
    while (next < departures.length && from >= (departures[next] as Departure).to + 2) next += 1;
    const departure = departures[next];
    if (departure !== undefined && to >= departure.from - 2) continue;
    let sum = 0;
    for (let at = from; at < to; at += 1) sum += samples[at] as number;
    low = Math.min(low, sum / (to - from));
    high = Math.max(high, sum / (to - from));
  }
  return low > high ? { low: quantile(histogram, 0.01), high: quantile(histogram, 0.99) } : { low, high };
}

/** Rests before the first and after the last pulse count when they are longer than these teeth. */
const REST_TEETH = 3.5;
/** An engine that starts or stops changes from tooth to tooth by this much. */
const STARTING = 1.12;
/** Between the levels for this part of a tooth, and as long as this, it is neither. */
const MID_TOOTH = 0.4;
const MID_SECONDS = 0.0015;
const MID_LOW = 0.2;

/** Times in which a row of pulses stands still or is between its levels, and spikes in it. @param rest where it stands when nothing turns */
export function rowTroubles(
  context: Context,
  { edges, row, spikes }: { edges: Edges; row: Row; spikes: readonly number[] },
  stands: readonly Stand[],
  levels: Levels,
  rest: number | null = null,
): Troubles {
  const { samples, rate } = context;
  const volts = (from: number, to: number): number => {
    const [first, last] = [Math.max(0, Math.ceil(from)), Math.min(samples.length, Math.max(Math.ceil(from) + 1, Math.floor(to)))];
    let sum = 0;
    for (let at = first; at < last; at += 1) sum += samples[at] as number;
    return sum / Math.max(1, last - first);
  };
  const dropout = (from: number, to: number): Dropout => {
    // The middle of it: its ends may hold a piece of a pulse.
    const value = volts(from + 0.2 * (to - from), to - 0.2 * (to - from));
    return { from: from / rate, to: to / rate, level: levelBetween(value, levels.low, levels.high), volts: value };
  };
  // Edges of a cell that switches by itself take their time.
  const soft = context.expected.shape === "switching";
  const mids = rest === null && row.even && !soft ? betweens(samples, rate, row, levels) : [];
  const still = [...stands, ...silences(edges, row, samples.length, context.expected.wheel?.missing ?? 0)];
  const found = still.filter((one) => !mids.some((mid) => mid.from < one.to && mid.to > one.from)).map(({ from, to }) => dropout(from, to));
  const between = mids.map(({ from, to }) => dropout(from, to));
  const few = spikes.length <= Math.max(3, 0.1 * edges.at.length);
  const glitches = few ? spikes.map((at) => ({ t: at / rate, volts: samples[Math.min(samples.length - 1, Math.round(at))] as number })) : [];
  return { dropouts: joined([...found, ...between], 0.002), glitches };
}

/** Rests at the beginning and at the end that no start and no stop of an engine explains. */
function silences(edges: Edges, row: Row, length: number, missing: number): { from: number; to: number }[] {
  const { at } = edges;
  if (!row.even || row.toothSamples === null || at.length < 6) return [];
  const runs = runsOf(edges);
  const period = (index: number): number => (runs[index]?.to ?? 0) + (runs[index + 1]?.to ?? 0) - (runs[index]?.from ?? 0) - (runs[index + 1]?.from ?? 0) || 1;
  const least = REST_TEETH + missing;
  const found: { from: number; to: number }[] = [];
  const [first, last] = [at[0] as number, at.at(-1) as number];
  const opening = period(0);
  if (first > least * opening && opening < STARTING * period(2)) found.push({ from: 0, to: first - 0.25 * opening });
  const closing = period(runs.length - 2);
  if (length - last > least * closing && closing < STARTING * period(runs.length - 4)) found.push({ from: last + 0.25 * closing, to: length });
  return found;
}

/** Times in which a square is at neither of its levels. */
function betweens(samples: Samples, rate: number, row: Row, { low, high }: Levels): { from: number; to: number }[] {
  const least = Math.max(4, MID_SECONDS * rate, Math.min(MID_TOOTH * (row.toothSamples ?? 0), 0.02 * rate));
  const [lower, upper] = [low + MID_LOW * (high - low), high - MID_LOW * (high - low)];
  const found: { from: number; to: number }[] = [];
  let from = -1;
  for (let at = 0; at <= samples.length; at += 1) {
    const value = at < samples.length ? (samples[at] as number) : Number.NaN;
    if (value > lower && value < upper) {
      if (from < 0) from = at;
    } else if (from >= 0) {
      if (at - from >= least) found.push({ from, to: at });
      from = -1;
    }
  }
  return found;
}
