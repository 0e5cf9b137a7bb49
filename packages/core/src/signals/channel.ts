import { type Burst, burstsOf } from "./bursts";
import type { CapturedChannel, Samples } from "./capture";
import { type Coil, coilOf } from "./coils";
import { type Edges, edgesOf, runsOf, withoutRuns } from "./edges";
import type { Expected } from "./expected";
import { type Gap, gapsOf } from "./gaps";
import { type Histogram, histogramOf, type Levels, levelsOf, quantile } from "./histogram";
import { type Hump, humpsOf } from "./humps";
import { type Noise, noiseOf } from "./noise";
import { type Row, rowOf } from "./rows";
import { type Context, courseTroubles, levelTroubles, rowTroubles, type Troubles } from "./troubles";
import { type Wave, waveOf } from "./waves";

export const KINDS = ["square", "sine", "sweep", "steady", "ringing", "irregular"] as const;
export type Kind = (typeof KINDS)[number];

/** Everything read out of one channel's samples. Places are in samples; only what its kind has is filled. */
export interface ChannelReading {
  readonly name: string;
  readonly unit: string;
  readonly expected: Expected;
  readonly kind: Kind;
  readonly histogram: Histogram;
  readonly noise: Noise;
  readonly low: number;
  readonly high: number;
  readonly edges: Edges;
  readonly row: Row | null;
  readonly gaps: readonly Gap[];
  readonly troubles: Troubles;
  readonly bursts: readonly Burst[];
  readonly humps: readonly Hump[];
  readonly switches: number | null;
  readonly wave: Wave | null;
  /** The pulses of a winding behind a clamp. */
  readonly coil: Coil | null;
}

const NO_EDGES: Edges = { at: new Float64Array(0), rising: new Uint8Array(0), passed: new Float64Array(0), startsHigh: false };
/** A movement smaller than this is none: volts, standard deviations of the noise, steps of the instrument, a share of full scale. */
const LEAST_VOLTS = 0.05;
const LEAST_SIGMAS = 8;
const LEAST_STEPS = 4;
const LEAST_SHARE = 0.02;
/** A clamp moves by this at least, amperes. */
const LEAST_AMPS = 0.05;
/** Share of the time a square spends between its levels, besides two samples an edge. */
const MOST_BETWEEN = 0.16;
/** Samples a tooth that are needed to judge it. */
export const LEAST_TOOTH_SAMPLES = 6;
/** Two levels stand apart by so many of their spreads. */
const APART_SPREADS = 10;
/** Thresholds of an edge as shares of the swing, and how the oxygen threshold is widened, volts. */
const LOWER = 0.32;
const UPPER = 0.68;
const SWITCH_VOLTS = 0.015;

const NO_TROUBLES: Troubles = { dropouts: [], glitches: [] };

function least({ sigma, step }: Noise, { supply }: Expected): number {
  return Math.max(LEAST_VOLTS, LEAST_SIGMAS * sigma, LEAST_STEPS * step, LEAST_SHARE * supply);
}

/** Edges at measured levels: all of them, and those without spikes. */
function squareEdges(samples: Samples, { low, high }: Levels): { all: Edges; edges: Edges; row: Row; spikes: number[] } {
  const span = high - low;
  const all = edgesOf(samples, low + LOWER * span, low + UPPER * span);
  const runs = runsOf(all);
  const first = rowOf(runs);
  if (first.short.length === 0) return { all, edges: all, row: first, spikes: [] };
  const edges = withoutRuns(all, new Set(first.short));
  return { all, edges, row: rowOf(runsOf(edges)), spikes: first.short.map((index) => 0.5 * ((runs[index]?.from ?? 0) + (runs[index]?.to ?? 0))) };
}

/** Crossings of a threshold, widened so that noise makes none. */
function switchesOf(samples: Samples, threshold: number, sigma: number): number {
  const width = Math.max(SWITCH_VOLTS, 4 * sigma);
  return edgesOf(samples, threshold - width, threshold + width).at.length;
}

/** Reads one channel. @param rate samples a second */
export function readChannel({ name, unit, samples }: CapturedChannel, rate: number, expected: Expected): ChannelReading {
  const histogram = histogramOf(samples);
  const raw = noiseOf(samples, histogram.max - histogram.min, expected.supply);
  const levels = levelsOf(histogram, raw.sigma);
  // Of few samples a pulse most differences are edges: what spreads around two levels that stand apart is the noise.
  const swing = levels.high - levels.low;
  const twoLevels = swing > APART_SPREADS * Math.max(levels.spread, raw.step) && levels.between < MOST_BETWEEN;
  const noise = twoLevels ? { ...raw, sigma: Math.min(raw.sigma, Math.max(levels.spread, 0.3 * raw.step)) } : raw;
  const context = { samples, rate, histogram, noise, levels, expected, floor: least(noise, expected) };
  const switches = expected.threshold === null ? null : switchesOf(samples, expected.threshold, noise.sigma);
  const base: ChannelReading = {
    name,
    unit,
    expected,
    kind: "steady",
    histogram,
    noise,
    low: levels.low,
    high: levels.high,
    edges: NO_EDGES,
    row: null,
    gaps: [],
    troubles: NO_TROUBLES,
    bursts: [],
    humps: [],
    switches,
    wave: null,
    coil: null,
  };
  switch (expected.shape) {
    case "level":
      return levelReading(base, context);
    case "ring":
      return ringReading(base, context);
    case "slow":
      return slowReading(base, context);
    case "current":
      return currentReading(base, context);
    case "sine":
    case "square":
    case "switching":
    case "contact":
    case "unknown":
      return movingReading(base, context);
  }
}

/** Of a channel that stands at two levels, the less frequent one has to fill this share to be taken for the sound one. */
const LEAST_SOUND = 0.05;
/** Two levels of a supply this far apart, as a share of what it should have, are not one. */
const TWO_LEVELS = 0.2;
/** Below this share of its higher level a supply is gone. */
const GONE_SHARE = 0.35;

/** The level a supply or a ground should stand at: where it mostly stands; gone for longer than it was there, a ground is the lower one, a supply the higher. */
function soundLevel({ histogram, levels, expected }: Context): number {
  const usual = quantile(histogram, 0.5);
  if (levels.high - levels.low < TWO_LEVELS * expected.supply || levels.between > MOST_BETWEEN) return usual;
  if (expected.role === "ground") return quantile(histogram, LEAST_SOUND) < levels.low + 0.1 * (levels.high - levels.low) ? levels.low : usual;
  const reaches = quantile(histogram, 1 - LEAST_SOUND) > levels.high - 0.1 * (levels.high - levels.low);
  // A supply that is gone stands near nothing; one that is dragged up to another supply was the lower one all the time.
  const gone = usual < GONE_SHARE * levels.high;
  return (expected.role === "feed" || expected.role === "reference") && reaches && gone ? levels.high : usual;
}

/** A supply or a ground: it stands, and what it leaves is trouble. */
function levelReading(base: ChannelReading, context: Context): ChannelReading {
  const level = soundLevel(context);
  return { ...base, low: level, high: level, troubles: levelTroubles(context, level) };
}

function ringReading(base: ChannelReading, context: Context): ChannelReading {
  const { samples, rate, noise, histogram } = context;
  const rest = quantile(histogram, 0.5);
  const bursts = burstsOf(samples, rate, noise);
  const [low, high] = bursts.length === 0 ? [rest, rest] : [quantile(histogram, 0.001), quantile(histogram, 0.999)];
  return { ...base, kind: bursts.length > 0 ? "ringing" : "steady", low, high, bursts };
}

/** A winding behind a clamp: switched, its current rises and falls in curves; a steady one stands. */
function currentReading(base: ChannelReading, context: Context): ChannelReading {
  const { samples, rate, noise, histogram } = context;
  const [low, high] = [quantile(histogram, 0.01), quantile(histogram, 0.99)];
  if (high - low <= Math.max(LEAST_AMPS, LEAST_SIGMAS * noise.sigma, LEAST_STEPS * noise.step)) return slowReading(base, context);
  const edges = edgesOf(samples, low + LOWER * (high - low), low + UPPER * (high - low));
  if (edges.at.length < 3) return slowReading(base, context);
  return { ...base, kind: "irregular", low, high, edges, coil: coilOf(samples, rate, noise, low, high) };
}

/** A slow signal: it stands or is swept, and what leaves its smooth course is trouble. */
function slowReading(base: ChannelReading, context: Context): ChannelReading {
  const { samples, rate, noise, histogram } = context;
  const { troubles, low, high } = courseTroubles(context);
  if (high - low <= context.floor) {
    const level = quantile(histogram, 0.5);
    return { ...base, kind: "steady", low: level, high: level, troubles };
  }
  return { ...base, kind: "sweep", low, high, troubles, humps: humpsOf(samples, rate, noise.sigma) };
}

/** A signal that switches or alternates, or one nobody knows: told by what it does. */
function movingReading(base: ChannelReading, context: Context): ChannelReading {
  const { samples, levels, floor, expected, histogram, noise, rate } = context;
  const span = levels.high - levels.low;
  const square = span > floor ? squareEdges(samples, levels) : null;
  if (square !== null) {
    const soft = (2.5 * square.edges.at.length) / samples.length;
    const twoLevels = levels.between <= MOST_BETWEEN + soft;
    if (twoLevels && square.edges.at.length >= 2 && expected.shape !== "sine") {
      const runs = runsOf(square.edges);
      // Of too few samples a tooth nothing finer than its rate can be said.
      const fine = (square.row.toothSamples ?? LEAST_TOOTH_SAMPLES) >= LEAST_TOOTH_SAMPLES;
      if (!fine) return { ...base, kind: "square", edges: square.edges, row: square.row };
      const { gaps, stands } = gapsOf(runs, square.row, expected.wheel);
      const fits = square.row.even || expected.shape !== "unknown";
      if (fits || square.edges.at.length < 6) {
        const troubles = rowTroubles(context, square, square.row.even ? stands : [], levels);
        return { ...base, kind: "square", edges: square.edges, row: square.row, gaps: square.row.even ? gaps : [], troubles };
      }
      return { ...base, kind: "square", edges: square.edges, row: square.row, troubles: rowTroubles(context, square, [], levels) };
    }
  }
  const wave = waveOf(samples, histogram, noise.sigma);
  if (wave.edges.at.length >= 6 && wave.high - wave.low > floor) {
    const row = rowOf(runsOf(wave.edges));
    if (row.even && (row.toothSamples ?? 0) < LEAST_TOOTH_SAMPLES) {
      return { ...base, kind: "sine", low: wave.low, high: wave.high, edges: wave.edges, row, wave };
    }
    if (row.even) {
      const { gaps, stands } = gapsOf(runsOf(wave.edges), row, expected.wheel);
      const quarter = 0.25 * (row.toothSamples ?? 0);
      const shifted = gaps.map((gap) => ({ ...gap, at: gap.at + quarter }));
      const levelsOfWave = { low: wave.low, high: wave.high, between: 0, spread: 0 };
      const troubles = rowTroubles(context, { edges: wave.edges, row, spikes: [] }, stands, levelsOfWave, wave.rest);
      return { ...base, kind: "sine", low: wave.low, high: wave.high, edges: wave.edges, row, gaps: shifted, troubles, wave };
    }
  }
  const turns = square?.all ?? NO_EDGES;
  if (turns.at.length >= 6) return { ...base, kind: "irregular", edges: turns, humps: humpsOf(samples, rate, noise.sigma) };
  const slow = slowReading(base, context);
  return { ...slow, edges: turns };
}
