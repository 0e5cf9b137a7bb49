import type { Reading, Setup } from "@fox-lamp/language";
import type { CaptureAnalysis } from "./analyse";
import type { Samples } from "./capture";
import type { ChannelReading } from "./channel";
import { lastWhole } from "./edges";
import { histogramOf, levelsOf, quantile } from "./histogram";
import { meanOf } from "./meter-view";
import type { Dropout } from "./trouble";

/** Where a channel's leads were. */
export interface ChannelLeads {
  readonly circuit: string;
  readonly red: string;
  /** Null for a clamp around the wire at `red`. */
  readonly black: string | null;
}

/** A reading that a capture stands for, with the stretch it was taken from, seconds. */
export interface CapturedReading {
  readonly channel: string;
  readonly from: number;
  readonly to: number;
  readonly reading: Reading;
}

/** Both ends of a stretch belong to what was before and after, seconds. */
const MARGIN_SECONDS = 0.001;
/** Shorter stretches say too little, samples. */
const LEAST_SAMPLES = 6;
/** Edges from which a rate is counted. */
const LEAST_PULSE_EDGES = 6;
/** Failures that are read one by one; more are the same one again. */
const MOST_MOMENTS = 3;

function tidy(value: number): number {
  return Number(value.toFixed(4));
}

type Value = number | { min: number; max: number };

/** Whether a channel should move: its two levels speak then, even where they are one. */
function shouldMove({ expected, kind }: ChannelReading): boolean {
  return (
    kind === "square" || kind === "sine" || kind === "ringing" || (expected.shape !== "level" && expected.shape !== "slow" && expected.shape !== "unknown")
  );
}

/** What a channel shows in a stretch: of a signal that moves in it, or should, its two levels, else the one it stands at. */
function levelsIn(reading: ChannelReading, samples: Samples, from: number, to: number): Value {
  const histogram = histogramOf(samples, { from, to });
  const { low, high, spread } = levelsOf(histogram, reading.noise.sigma);
  const level = tidy(quantile(histogram, 0.5));
  if (!shouldMove(reading)) return level;
  const apart = high - low > Math.max(0.05, 8 * reading.noise.sigma, 4 * reading.noise.step, 4 * spread);
  return apart ? { min: tidy(low), max: tidy(high) } : { min: level, max: level };
}

/** What a channel's whole capture says, trouble left out. */
function usualOf(reading: ChannelReading): Value | null {
  const { kind, low, high, bursts } = reading;
  if (kind === "irregular") return null;
  if (kind === "ringing") {
    const rest = 0.5 * (low + high);
    const peaks = bursts.map(({ peak }) => peak).sort((a, b) => a - b);
    const peak = peaks[peaks.length >> 1] ?? 0;
    return { min: tidy(rest - peak), max: tidy(rest + peak) };
  }
  return kind === "steady" && !shouldMove(reading) ? tidy(low) : { min: tidy(low), max: tidy(high) };
}

/** The average of a whole capture, over whole pulses where there are some. */
function averageOf({ edges, histogram }: ChannelReading, samples: Samples): number {
  const { at } = edges;
  const last = lastWhole(edges);
  if (last < 2) return histogram.mean;
  return meanOf(samples, { from: Math.round(at[0] as number), to: Math.round(at[last] as number) });
}

/**
 * Pulses a second where they say something of a circuit: of a sensor whose signal is its rate, of a cell that switches, and of a wheel
 * whose speed is known. Null where there is trouble in it, or too few of them.
 */
function paceOf(reading: ChannelReading, rate: number, setup: Setup): number | null {
  const { expected, edges, row, troubles, gaps } = reading;
  if (expected.role !== "signal" || troubles.dropouts.length > 0) return null;
  const switching = expected.shape === "switching";
  if (!switching && (expected.shape !== "square" || row?.even !== true)) return null;
  if (expected.wheel !== null && (setup.rpm === undefined || gaps.some(({ designed }) => !designed))) return null;
  const { at } = edges;
  const last = lastWhole(edges);
  if (last < LEAST_PULSE_EDGES) return null;
  return Number((((last / 2) * rate) / ((at[last] as number) - (at[0] as number))).toPrecision(5));
}

/** Times of trouble of all channels, those that overlap taken together. */
function momentsOf(channels: readonly ChannelReading[]): Pick<Dropout, "from" | "to">[] {
  const all = channels.flatMap(({ troubles }) => troubles.dropouts.map(({ from, to }) => ({ from, to }))).sort((a, b) => a.from - b.from);
  const moments: { from: number; to: number }[] = [];
  for (const next of all) {
    const last = moments.at(-1);
    // What all of them share is the moment.
    if (last !== undefined && next.from <= last.to) last.to = Math.min(last.to, next.to);
    else moments.push({ ...next });
  }
  return moments.slice(0, MOST_MOMENTS);
}

/**
 * The readings a capture stands for: what each channel shows when all is as usual, and what all of them show together in each moment of
 * trouble, which is a test of feed, ground and signal at once, during the symptom. No sample is in two of them.
 *
 * @param leadsOf where a channel's leads were; null for one that is no measurement of the job
 */
export function readingsOfCapture(analysis: CaptureAnalysis, leadsOf: (channel: string) => ChannelLeads | null, setup: Setup): CapturedReading[] {
  const { capture, channels } = analysis;
  const { rate, start } = capture;
  const length = capture.channels[0]?.samples.length ?? 0;
  const placed = channels.flatMap((reading, index) => {
    const leads = leadsOf(reading.name);
    const samples = capture.channels[index]?.samples;
    return leads === null || samples === undefined || (leads.black === null ? reading.unit !== "A" : reading.unit !== "V") ? [] : [{ reading, leads, samples }];
  });
  const moments = momentsOf(placed.map(({ reading }) => reading));
  const told = (
    channel: string,
    { circuit, red, black }: ChannelLeads,
    value: Value,
    from: number,
    to: number,
    symptom?: boolean,
    meter: "capture" | "hertz" = "capture",
  ): CapturedReading => {
    const leads = black === null ? ({ meter: "amps-dc", red } as const) : { meter, red, black };
    return { channel, from: start + from, to: start + to, reading: { circuit, ...leads, setup, value, ...(symptom === undefined ? {} : { symptom }) } };
  };
  const calm = moments.length === 0 ? undefined : false;
  const usual = placed.flatMap(({ reading, leads, samples }) => {
    // A clamp is read as an ammeter is: its average, over whole pulses where there are some.
    if (leads.black === null) return [told(reading.name, leads, tidy(averageOf(reading, samples)), 0, length / rate, calm)];
    const value = usualOf(reading);
    const pace = paceOf(reading, rate, setup);
    return [
      ...(value === null ? [] : [told(reading.name, leads, value, 0, length / rate, calm)]),
      ...(pace === null ? [] : [told(reading.name, leads, pace, 0, length / rate, calm, "hertz")]),
    ];
  });
  const during = moments.flatMap(({ from, to }) => {
    const [first, last] = [Math.ceil((from + MARGIN_SECONDS) * rate), Math.floor((to - MARGIN_SECONDS) * rate)];
    if (last - first < LEAST_SAMPLES) return [];
    return placed.map(({ reading, leads, samples }) =>
      leads.black === null
        ? told(reading.name, leads, tidy(meanOf(samples, { from: first, to: Math.min(last, samples.length) })), from, to, true)
        : told(reading.name, leads, levelsIn(reading, samples, first, Math.min(last, samples.length)), from, to, true),
    );
  });
  return [...usual, ...during];
}
