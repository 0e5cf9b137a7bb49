import type { CaptureFile } from "@fox-lamp/language";
import type { Capture } from "./capture";
import { type ChannelReading, LEAST_TOOTH_SAMPLES } from "./channel";
import type { EngineDoes } from "./engine-does";
import type { TrackPair } from "./facts";
import { partings } from "./tracks";

export type CaptureFinding = CaptureFile["findings"][number];

interface Around {
  readonly capture: Capture;
  readonly pairs: readonly TrackPair[];
  readonly rate: number;
  readonly start: number;
  readonly seconds: number;
  readonly first: string | null;
  readonly camCrank: CaptureFile["camCrank"];
  readonly engine?: EngineDoes | undefined;
}

/** A cam this far from the known pattern has moved, degrees of crank. */
const MOVED_DEGREES = 4;
/** More departures than this are told as a number. */
const MOST_TOLD = 12;

function volts(value: number, unit: string): string {
  return `${Number(value.toFixed(Math.abs(value) < 1 ? 3 : 2))} ${unit}`;
}

function seconds(value: number): string {
  return `${value.toFixed(value < 1 ? 4 : 3)} s`;
}

function lasting(length: number): string {
  return length < 1 ? `${Number((1000 * length).toPrecision(3))} ms` : `${Number(length.toPrecision(3))} s`;
}

function missingOf({ name, gaps }: ChannelReading, { rate, start }: Around): CaptureFinding[] {
  const broken = gaps.filter(({ designed }) => !designed);
  const [first] = broken;
  if (first === undefined) return [];
  const from = start + first.at / rate;
  const teeth = `${first.count} ${first.count === 1 ? "tooth" : "teeth"}`;
  const often = broken.length === 1 ? "once" : `${broken.length} times`;
  return [
    {
      code: "missing-teeth",
      channel: name,
      from,
      to: start + (broken.at(-1)?.at ?? 0) / rate,
      sentence: `${name}: ${teeth} missing, ${often}, first at ${seconds(from)}, besides the gap that belongs to the wheel.`,
    },
  ];
}

/** What a channel does while it is not what it should be. */
function dropoutWord({ kind, expected, low }: Pick<ChannelReading, "kind" | "expected" | "low">, level: string, value: number): string {
  if (kind === "square" || kind === "sine") return `stands ${level === "mid" ? "between its levels" : level} at`;
  if (expected.role === "ground") return "lifts to";
  if (expected.role === "feed" || expected.role === "reference") return value < low ? "falls to" : "rises to";
  return "leaves its course, to";
}

function dropoutsOf({ name, unit, kind, expected, low, troubles }: ChannelReading, { start }: Around): CaptureFinding[] {
  return troubles.dropouts.slice(0, MOST_TOLD).map(({ from, to, level, volts: value }): CaptureFinding => {
    const what = dropoutWord({ kind, expected, low }, level, value);
    return {
      code: "dropout",
      channel: name,
      from: start + from,
      to: start + to,
      sentence: `${name} ${what} ${volts(value, unit)} for ${lasting(to - from)}, from ${seconds(start + from)}.`,
    };
  });
}

function glitchesOf({ name, unit, troubles }: ChannelReading, { start }: Around): CaptureFinding[] {
  const { glitches } = troubles;
  const [first] = glitches;
  if (first === undefined) return [];
  const count = glitches.length === 1 ? "1 spike" : `${glitches.length} spikes`;
  return [
    {
      code: "glitch",
      channel: name,
      from: start + first.t,
      to: start + (glitches.at(-1)?.t ?? first.t),
      sentence: `${name}: ${count} away from its course, the first to ${volts(first.volts, unit)} at ${seconds(start + first.t)}.`,
    },
  ];
}

/** A signal that swings by more than this share of its supply and is called steady changes faster than it was sampled. */
const UNREAD_SHARE = 0.3;

/** A range in which a ring of a running engine can still be seen, volts; and how long a cell may take to change, seconds. */
const LEAST_RING_VOLTS = 0.012;
const LEAST_SWITCHING_SECONDS = 4;

/** A signal that should move while the engine turns and does not, or moves too fast to be read. */
function stuckOf(reading: ChannelReading, { engine, start, seconds: length }: Around): CaptureFinding[] {
  const { name, unit, kind, expected, low, histogram, troubles, row } = reading;
  if (row?.even && row.toothSamples !== null && row.toothSamples < LEAST_TOOTH_SAMPLES) {
    const sentence = `${name} has only ${row.toothSamples.toFixed(1)} samples a pulse: capture it again at a higher rate to see more than how fast it is.`;
    return [{ code: "too-slow", channel: name, from: start, to: start + length, sentence }];
  }
  if (engine === undefined || engine === "stands" || kind !== "steady") return [];
  const whole = { channel: name, from: start, to: start + length };
  const { shape } = expected;
  if (shape === "square" || shape === "sine") {
    if (expected.role === "control") return [];
    if (histogram.max - histogram.min > UNREAD_SHARE * expected.supply && troubles.dropouts.length === 0)
      return [{ ...whole, code: "too-slow", sentence: `${name} changes faster than it was sampled: capture it again at a higher rate.` }];
    return [{ ...whole, code: "stuck", sentence: `${name} stands at ${volts(low, unit)} while the engine turns.` }];
  }
  if (engine !== "runs") return [];
  const { sigma, step } = reading.noise;
  // A small ring is lost in a coarse range, and a cell may be between two changes for a while: then nothing is said.
  if (shape === "ring" && Math.max(3 * sigma, step) > LEAST_RING_VOLTS) return [];
  if (shape === "switching" && length < LEAST_SWITCHING_SECONDS) return [];
  if (shape === "ring") return [{ ...whole, code: "no-ring", sentence: `${name} shows no ring while the engine runs.` }];
  if (shape === "switching") return [{ ...whole, code: "no-switching", sentence: `${name} stands at ${volts(low, unit)} and does not switch.` }];
  return [];
}

/** A sensor that is silent while another one of its kind rings in the same capture. */
function silentTwins(channels: readonly ChannelReading[], { start, seconds: length }: Around): CaptureFinding[] {
  const alike = channels.filter(({ expected }) => expected.shape === "ring");
  const loud = alike.find(({ kind }) => kind === "ringing");
  if (loud === undefined) return [];
  const circuit = (name: string): string => name.split(":")[0] ?? name;
  return alike
    .filter(({ kind, name }) => kind === "steady" && name.includes(":") && circuit(name) !== circuit(loud.name))
    .map(({ name }) => ({
      code: "silent-twin",
      channel: name,
      from: start,
      to: start + length,
      sentence: `${name} shows no ring while ${loud.name} rings ${loud.bursts.length} times.`,
    }));
}

/** A winding whose current shows that nothing moves in it. */
function stillPintle({ name, coil }: ChannelReading, { start, seconds: length }: Around): CaptureFinding[] {
  if (coil === null || !coil.judged || coil.kinkSeconds !== null) return [];
  const sentence = `${name} rises to ${volts(coil.plateau, "A")} without a kink: the winding takes its current, and nothing is seen to move in it.`;
  return [{ code: "no-kink", channel: name, from: start, to: start + length, sentence }];
}

/** Two tracks farther from their line than this share of the sweep, and for so long, do not agree. */
const PARTED_SHARE = 0.04;
const PARTED_SECONDS = 0.002;

/** Stretches in which the two tracks of one sensor do not go together. */
function partedTracks(channels: readonly ChannelReading[], { capture, pairs, start, rate }: Around): CaptureFinding[] {
  return pairs.flatMap(({ first, second, how }): CaptureFinding[] => {
    const [one, other] = [channels[first], channels[second]];
    const [a, b] = [capture.channels[first]?.samples, capture.channels[second]?.samples];
    if (one === undefined || other === undefined || a === undefined || b === undefined) return [];
    const noise = Math.max(one.noise.sigma, one.noise.step, other.noise.sigma, other.noise.step);
    const most = Math.max(PARTED_SHARE * (how.to - how.from), 8 * noise);
    const [began] = partings(a, b, how, most, Math.max(3, PARTED_SECONDS * rate));
    if (began === undefined) return [];
    const [from, to] = [start + began.from / rate, start + began.to / rate];
    const sentence = `${one.name} and ${other.name} part for ${lasting(to - from)}, from ${seconds(from)}: one of them leaves what both do elsewhere.`;
    return [{ code: "tracks-part", channel: one.name, from, to, sentence }];
  });
}

/** What stands out in one channel, besides that it stands still. */
function foundIn(channel: ChannelReading, around: Around): CaptureFinding[] {
  return [...missingOf(channel, around), ...dropoutsOf(channel, around), ...glitchesOf(channel, around), ...stillPintle(channel, around)];
}

/** What stands out in a capture, in words, in the order it happened. */
export function findingsIn(channels: readonly ChannelReading[], around: Around): CaptureFinding[] {
  const found = channels.flatMap((channel) => {
    const stuck = stuckOf(channel, around);
    // Of what was sampled too seldom nothing else can be said.
    return stuck.some(({ code }) => code === "too-slow") ? stuck : [...stuck, ...foundIn(channel, around)];
  });
  found.push(...partedTracks(channels, around));
  found.push(...silentTwins(channels, around));
  const { first, camCrank, start, seconds: length } = around;
  const began = channels.find(({ name }) => name === first)?.troubles.dropouts[0];
  if (first !== null && began !== undefined) {
    found.push({
      code: "first-to-fail",
      channel: first,
      from: start + began.from,
      to: start + began.to,
      sentence: `${first} goes first, at ${seconds(start + began.from)}; the others follow.`,
    });
  }
  for (const { name, shiftDegrees } of camCrank.cams ?? []) {
    if (shiftDegrees === null || Math.abs(shiftDegrees) < MOVED_DEGREES) continue;
    const way = shiftDegrees > 0 ? "later" : "earlier";
    found.push({
      code: "cam-moved",
      channel: name,
      from: start,
      to: start + length,
      sentence: `${name} comes ${Math.abs(shiftDegrees).toFixed(1)} degrees of crank ${way} than in the known capture.`,
    });
  }
  return found.sort((a, b) => a.from - b.from);
}
