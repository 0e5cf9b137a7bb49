import type { CaptureFile } from "@fox-lamp/language";
import type { CircuitModel } from "../circuit";
import { camDegrees, crankCourse, shiftBetween } from "./angles";
import { type Capture, lengthOf } from "./capture";
import { type ChannelReading, readChannel } from "./channel";
import type { Coil } from "./coils";
import { lastWhole } from "./edges";
import type { EngineDoes } from "./engine-does";
import { CRANK, expectedOf, isCam } from "./expected";
import { factsIn, trackPairs } from "./facts";
import { findingsIn } from "./findings";
import { acOf } from "./meter-view";
import { type Speed, speedOf } from "./speed";

type ChannelFile = CaptureFile["channels"][number];

/** A capture read: its channels as they were understood, and the file that says so. */
export interface CaptureAnalysis {
  readonly capture: Capture;
  readonly channels: readonly ChannelReading[];
  readonly file: CaptureFile;
}

/** What an analysis may lean on besides the samples. */
export interface CaptureContext {
  /** The circuit a channel belongs to; null for one that is judged by its samples alone. */
  readonly circuitOf: (channel: string) => CircuitModel | null;
  /** An earlier analysis that cam edges are compared with. */
  readonly known?: CaptureFile | undefined;
  /** What the engine did meanwhile; undefined where nobody says. */
  readonly engine?: EngineDoes | undefined;
}

/** Significant figures that are kept: more than any instrument resolves. */
function tidy(value: number, figures = 7): number {
  return Number(value.toPrecision(figures));
}

function frequencyOf({ row, kind, edges }: ChannelReading, rate: number): number | null {
  if (kind !== "square" && kind !== "sine" && kind !== "irregular") return null;
  if (row?.even && row.toothSamples !== null) return rate / row.toothSamples;
  const { at } = edges;
  // A pattern: pulses from the first edge to the last of the same direction.
  const last = lastWhole(edges);
  return last < 2 ? null : ((last / 2) * rate) / ((at[last] as number) - (at[0] as number));
}

/** Percentage of the time high, over whole pulses where there are some. */
function dutyOf({ kind, edges }: ChannelReading): number | null {
  const { at, rising } = edges;
  if ((kind !== "square" && kind !== "sine") || at.length < 3) return null;
  const last = lastWhole(edges);
  let high = 0;
  for (let edge = 0; edge < last; edge += 1) if (rising[edge] === 1) high += (at[edge + 1] as number) - (at[edge] as number);
  return (100 * high) / ((at[last] as number) - (at[0] as number));
}

/** Speeds that are kept with a capture. */
const MOST_SPEEDS = 300;

/** A speed as it is kept: means of as many places as are left. */
function keptSpeed({ at, rpm }: Speed, time: (place: number) => number): { t: number[]; rpm: number[] } {
  const each = Math.ceil(rpm.length / MOST_SPEEDS);
  const groups = Array.from({ length: Math.ceil(rpm.length / each) }, (_, index) => ({ from: index * each, to: Math.min(rpm.length, (index + 1) * each) }));
  const mean = (values: readonly number[], from: number, to: number): number => values.slice(from, to).reduce((sum, value) => sum + value, 0) / (to - from);
  return { t: groups.map(({ from, to }) => time(mean(at, from, to))), rpm: groups.map(({ from, to }) => tidy(mean(rpm, from, to), 5)) };
}

function channelFile(reading: ChannelReading, capture: Capture, index: number, speed: Speed | undefined): ChannelFile {
  const { rate, start } = capture;
  const samples = capture.channels[index]?.samples ?? new Float64Array(0);
  const { histogram, kind, low, high, edges, gaps, troubles, bursts, humps, switches } = reading;
  const time = (place: number): number => tidy(start + place / rate, 9);
  const frequency = frequencyOf(reading, rate);
  const duty = dutyOf(reading);
  return {
    name: reading.name,
    unit: reading.unit,
    min: tidy(histogram.min),
    max: tidy(histogram.max),
    mean: tidy(histogram.mean),
    meterDc: tidy(histogram.mean),
    meterAc: tidy(acOf(samples, rate, { from: 0, to: samples.length }, histogram.mean).trueRms),
    kind,
    frequencyHz: frequency === null ? null : tidy(frequency),
    duty: duty === null ? null : tidy(duty, 5),
    low: tidy(low, 5),
    high: tidy(high, 5),
    edges: edges.at.length,
    missing: gaps.map(({ at, count, designed }) => ({ t: time(at), count, designed })),
    dropouts: troubles.dropouts.map(({ from, to, level, volts }) => ({ from: time(from * rate), to: time(to * rate), level, volts: tidy(volts, 5) })),
    glitches: troubles.glitches.map(({ t, volts }) => ({ t: time(t * rate), volts: tidy(volts, 5) })),
    bursts: bursts.map(({ at, peak, hertz }) => ({ t: time(at), peak: tidy(peak, 5), hz: hertz === null ? null : tidy(hertz, 5) })),
    peaks: humps.map(({ at, value }) => ({ t: time(at), volts: tidy(value, 5) })),
    switches,
    ...(speed === undefined ? {} : { speed: keptSpeed(speed, time) }),
    ...(reading.coil === null ? {} : { coil: coilFile(reading.coil) }),
  };
}

function coilFile({ count, widthSeconds, plateau, slope, kinkSeconds }: Coil): NonNullable<ChannelFile["coil"]> {
  const kink = kinkSeconds === null ? null : tidy(1000 * kinkSeconds, 4);
  return { count, widthMs: tidy(1000 * widthSeconds, 5), plateau: tidy(plateau, 5), slope: tidy(slope, 4), kinkMs: kink };
}

/** Earlier by less than this is at once, seconds: a supply then goes before what it feeds. */
const AT_ONCE_SECONDS = 0.004;
const SUPPLY_FIRST: Readonly<Record<ChannelReading["expected"]["role"], number>> = {
  battery: 0,
  feed: 1,
  reference: 1,
  ground: 1,
  control: 2,
  current: 3,
  other: 3,
  signal: 4,
};

/** The channel whose trouble begins first where several have any; at the same moment a supply goes before what it feeds. */
export function firstToFail(channels: readonly ChannelReading[]): string | null {
  const troubled = channels.flatMap((channel) => {
    const [first] = channel.troubles.dropouts;
    return first === undefined ? [] : [{ channel, at: first.from }];
  });
  if (troubled.length < 2) return null;
  const earliest = Math.min(...troubled.map(({ at }) => at));
  const together = troubled.filter(({ at }) => at <= earliest + AT_ONCE_SECONDS);
  together.sort((a, b) => SUPPLY_FIRST[a.channel.expected.role] - SUPPLY_FIRST[b.channel.expected.role] || a.at - b.at);
  return together[0]?.channel.name ?? null;
}

function camCrankOf(channels: readonly ChannelReading[], known: CaptureFile | undefined): CaptureFile["camCrank"] {
  const none = { degrees: [], shiftDegrees: null, cams: [] };
  const signals = channels.filter(({ expected }) => expected.role === "signal");
  const crank = signals.find(({ name }) => name === CRANK || name.startsWith("crank:"));
  const cams = signals.filter(({ name }) => isCam(name));
  const course = crank === undefined ? null : crankCourse(crank);
  if (course === null || cams.length === 0) return none;
  const patterns = cams.map((cam) => ({ name: cam.name, degrees: camDegrees(course, cam).map((degrees) => tidy(degrees, 6)) }));
  const [first] = patterns;
  if (first === undefined) return none;
  const earlier = (name: string): readonly number[] =>
    known?.camCrank.cams?.find((pattern) => pattern.name === name)?.degrees ?? (name === first.name ? (known?.camCrank.degrees ?? []) : []);
  const shifted = patterns.map((pattern) => {
    const shift = shiftBetween(pattern.degrees, earlier(pattern.name));
    return { ...pattern, shiftDegrees: shift === null ? null : tidy(shift, 5) };
  });
  return { degrees: first.degrees, shiftDegrees: shifted[0]?.shiftDegrees ?? null, cams: shifted };
}

/** Reads every channel of a capture and says what stands out. */
export function analyseCapture(capture: Capture, context: CaptureContext): CaptureAnalysis {
  const channels = capture.channels.map((channel) =>
    readChannel(channel, capture.rate, expectedOf(context.circuitOf(channel.name), channel.name, channel.unit)),
  );
  const speeds = new Map(
    channels.flatMap((channel): [string, Speed][] => {
      const speed = speedOf(channel, capture.rate);
      return speed === null ? [] : [[channel.name, speed]];
    }),
  );
  const pairs = trackPairs(channels, capture);
  const camCrank = camCrankOf(channels, context.known);
  const first = firstToFail(channels);
  const file: CaptureFile = {
    format: "fox-lamp/capture@1",
    rate: tidy(capture.rate, 9),
    seconds: tidy(lengthOf(capture) / capture.rate, 9),
    channels: channels.map((reading, index) => channelFile(reading, capture, index, speeds.get(reading.name))),
    facts: factsIn(channels, { capture, speeds, pairs, engine: context.engine }),
    firstToFail: first,
    camCrank,
    findings: findingsIn(channels, {
      capture,
      pairs,
      rate: capture.rate,
      start: capture.start,
      seconds: lengthOf(capture) / capture.rate,
      first,
      camCrank,
      engine: context.engine,
    }),
  };
  return { capture, channels, file };
}
