import type { CaptureFile } from "@fox-lamp/language";
import { amplitudesOf } from "./amplitudes";
import type { Capture, Samples } from "./capture";
import { switchingOf } from "./cells";
import type { ChannelReading } from "./channel";
import type { EngineDoes } from "./engine-does";
import { firingOf } from "./firing";
import { quantile } from "./histogram";
import { huntingOf } from "./hunting";
import { middleOf } from "./middle";
import { lagOf, snapOf } from "./snaps";
import { dipsOf, meanRpm, runsFrom, type Speed } from "./speed";
import { type Together, togetherOf } from "./tracks";

/** What a capture shows that is no trouble. */
export type CaptureFact = NonNullable<CaptureFile["facts"]>[number];

interface Around {
  readonly capture: Capture;
  readonly speeds: ReadonlyMap<string, Speed>;
  readonly pairs: readonly TrackPair[];
  /** What the engine did meanwhile; undefined where nobody says. */
  readonly engine: EngineDoes | undefined;
}

/** Two tracks of one sensor, by their channels' places, with how they go together. */
export interface TrackPair {
  readonly first: number;
  readonly second: number;
  readonly how: Together;
}

/** A ground that follows the starter's current to this share, and by this much, is lifted by it. */
const FOLLOWS = 0.85;
const LEAST_LIFT_VOLTS = 0.04;
const MOST_POINTS = 2000;
/** Two tracks of one sensor make the same sum, or stand in the same ratio, to this part of their sweep. */
const SAME = 0.02;

function ms(seconds: number): string {
  return `${Number((1000 * seconds).toPrecision(3))} ms`;
}

function percent(share: number): string {
  return `${Math.round(100 * share)} %`;
}

/** How fast the engine turned, how compression slowed it, and from when it ran by itself. */
function turning({ name }: ChannelReading, { capture: { rate, start }, speeds }: Around): CaptureFact[] {
  const speed = speeds.get(name);
  const mean = speed === undefined ? null : meanRpm(speed);
  if (speed === undefined || mean === null) return [];
  const runs = runsFrom(speed);
  if (runs !== null) {
    const [before, after] = [meanRpm(speed, 0, runs), meanRpm(speed, (speed.at.at(-1) ?? 0) - 0.2 * rate)];
    const sentence = `${name}: the engine runs by itself from ${(start + runs / rate).toFixed(2)} s: ${Math.round(before ?? 0)} rev/min before, ${Math.round(after ?? 0)} at the end.`;
    return [{ code: "starts", channel: name, sentence }];
  }
  const facts: CaptureFact[] = [{ code: "speed", channel: name, sentence: `${name}: its wheel turns at ${Math.round(mean)} rev/min.` }];
  const dips = mean < 450 ? dipsOf(speed, rate) : null;
  if (dips !== null) {
    const deep = `${percent(dips.shallowest)} to ${percent(dips.deepest)} of its speed`;
    facts.push({ code: "compression", channel: name, sentence: `${name}: compression slows it ${dips.perTurn.toFixed(1)} times a turn, by ${deep}.` });
  }
  return facts;
}

/** Pulses by which something is driven: the current of its winding, or how long its wire is pulled low. */
function driven({ name, unit, coil, kind, edges, expected }: ChannelReading, { capture: { rate } }: Around): CaptureFact[] {
  if (coil !== null) {
    const rising = `${Number((coil.slope / 1000).toPrecision(3))} ${unit} a millisecond`;
    const kink = coil.kinkSeconds === null ? "" : `, with a kink ${ms(coil.kinkSeconds)} after switching on`;
    const sentence = `${name}: ${coil.count} pulses of ${ms(coil.widthSeconds)} up to ${Number(coil.plateau.toPrecision(3))} ${unit}, rising at first by ${rising}${kink}.`;
    return [{ code: "coil", channel: name, sentence }];
  }
  if (expected.role !== "control" || kind !== "square") return [];
  const { at, rising } = edges;
  const low: number[] = [];
  for (let edge = 0; edge + 1 < at.length; edge += 1) if (rising[edge] === 0) low.push((at[edge + 1] as number) - (at[edge] as number));
  if (low.length < 2) return [];
  low.sort((a, b) => a - b);
  const [short, usual, long] = [low[Math.floor(0.05 * low.length)], low[low.length >> 1], low[Math.floor(0.95 * (low.length - 1))]] as [number, number, number];
  const spread = long > 1.1 * short ? `, ${ms(short / rate)} to ${ms(long / rate)}` : "";
  return [{ code: "pulse-width", channel: name, sentence: `${name} is pulled low for ${ms(usual / rate)} at a time${spread}, ${low.length} times.` }];
}

/** How a cell switches: how often, how long on either side, how quickly from one to the other. */
function switching({ name, expected, switches }: ChannelReading, samples: Samples | undefined, rate: number): CaptureFact[] {
  if (expected.shape !== "switching" || expected.role !== "signal" || (switches ?? 0) < 2 || samples === undefined) return [];
  const found = switchingOf(samples, rate);
  if (found === null || found.toRichSeconds === null || found.toLeanSeconds === null) return [];
  const rich = `rich for ${percent(found.richShare)} of the time`;
  const sentence = `${name} switches ${found.switches} times, ${rich}; from lean to rich in ${ms(found.toRichSeconds)}, back in ${ms(found.toLeanSeconds)}.`;
  return [{ code: "switching", channel: name, sentence }];
}

/** A slow signal that goes up at once, as air flow does when a throttle is snapped open: how high, how quickly, and how long before the engine revs. */
function snapped(
  { name, unit, expected, humps, troubles }: ChannelReading,
  samples: Samples | undefined,
  { capture: { rate }, speeds }: Around,
): CaptureFact[] {
  if (expected.shape !== "slow" || expected.role !== "signal" || samples === undefined || troubles.dropouts.length > 0) return [];
  const snap = snapOf(samples, rate, humps);
  if (snap === null) return [];
  const { rest, first, second, riseSeconds } = snap;
  const level = (value: number): string => `${value.toFixed(2)} ${unit}`;
  const next = second === null ? "" : `, again to ${level(second.value)} ${ms((second.at - first.at) / rate)} later`;
  const [lag] = [...speeds.values()].flatMap((speed) => lagOf(snap, speed, rate) ?? []);
  const revs = lag === undefined ? "" : `; the engine's speed follows ${ms(lag)} after it`;
  return [{ code: "snap", channel: name, sentence: `${name} goes from ${level(rest)} to ${level(first.value)} in ${ms(riseSeconds)}${next}${revs}.` }];
}

/** Rings apart from one another: how many, how far they swing, how fast, and how soon they die away. */
function ringing({ name, unit, expected, bursts }: ChannelReading): CaptureFact[] {
  if (expected.shape !== "ring" || bursts.length === 0) return [];
  const usual = (values: readonly (number | null)[]): number | null => middleOf(values.filter((value) => value !== null));
  const [peak, hertz, decay] = [usual(bursts.map((one) => one.peak)), usual(bursts.map((one) => one.hertz)), usual(bursts.map((one) => one.decaySeconds))];
  if (peak === null || hertz === null) return [];
  const falls = decay === null ? "" : `, and falls to a third in ${ms(Math.log(3) * decay)}`;
  const often = bursts.length === 1 ? "once" : `${bursts.length} times`;
  const sentence = `${name} rings ${often}, by ${Number(peak.toPrecision(2))} ${unit} to either side at ${Math.round(hertz / 10) * 10} Hz${falls}.`;
  return [{ code: "ring", channel: name, sentence }];
}

/** Two sensors that ring in one capture: how their rings compare. Twins under equal blows stay within a factor of three. */
function ringsCompared(channels: readonly ChannelReading[]): CaptureFact[] {
  const heard = channels.flatMap(({ name, expected, bursts }) => {
    const peak = expected.shape === "ring" ? middleOf(bursts.map((one) => one.peak)) : null;
    return peak === null ? [] : [{ name, peak }];
  });
  const [first, second] = heard.sort((a, b) => b.peak - a.peak);
  if (heard.length !== 2 || first === undefined || second === undefined) return [];
  const times = Number((first.peak / second.peak).toPrecision(2));
  return [{ code: "rings-compared", channel: first.name, sentence: `${first.name} rings ${times} times as far as ${second.name}.` }];
}

/** A slow signal of an engine that idles up and down. */
function hunts({ name, unit, expected, noise, troubles }: ChannelReading, samples: Samples | undefined, { capture: { rate }, engine }: Around): CaptureFact[] {
  if (engine !== "runs" || expected.shape !== "slow" || expected.role !== "signal" || samples === undefined || troubles.dropouts.length > 0) return [];
  const found = huntingOf(samples, rate, noise.sigma);
  if (found === null) return [];
  const ends = `${found.low.toFixed(2)} and ${found.high.toFixed(2)} ${unit}`;
  return [{ code: "hunts", channel: name, sentence: `${name} goes up and down between ${ends}, once in ${found.periodSeconds.toFixed(1)} s.` }];
}

/** An engine that gained this factor shows how its wave grows with speed; teeth that differ by this share show beside it. */
const GAINED = 1.3;
const UNEVEN = 0.15;

/** How large an inductive sensor's wave is at the slowest and the fastest of a capture, and how its teeth differ. */
function growing({ name, unit, wave, expected }: ChannelReading, samples: Samples | undefined, { capture: { rate }, speeds }: Around): CaptureFact[] {
  const [speed, teeth] = [speeds.get(name), expected.wheel?.teeth ?? null];
  if (wave === null || speed === undefined || teeth === null || samples === undefined) return [];
  const found = amplitudesOf(samples, rate, speed, teeth);
  if (found === null) return [];
  const { slow, fast, uneven } = found;
  const level = (volts: number): string => `${Number(volts.toPrecision(3))} ${unit}`;
  const grows =
    fast.rpm >= GAINED * slow.rpm
      ? ` at ${Math.round(slow.rpm)} rev/min and ${level(fast.volts)} at ${Math.round(fast.rpm)}`
      : ` at ${Math.round(fast.rpm)} rev/min`;
  const first = fast.rpm >= GAINED * slow.rpm ? slow.volts : fast.volts;
  const teethDiffer = uneven < UNEVEN ? "" : `; its teeth differ by ${percent(uneven)}`;
  return [{ code: "amplitude", channel: name, sentence: `${name} makes ${level(first)} peak to peak${grows}${teethDiffer}.` }];
}

/** A battery while a starter draws on it, or while it is charged. */
function battery({ name, unit, histogram, expected }: ChannelReading): CaptureFact[] {
  if (expected.role !== "battery" || unit !== "V") return [];
  const [least, usual] = [quantile(histogram, 0.002), quantile(histogram, 0.5)];
  if (usual - least < 0.3) return [];
  return [{ code: "battery-dip", channel: name, sentence: `${name} falls to ${least.toFixed(2)} V, and mostly stands at ${usual.toFixed(2)} V.` }];
}

/** How two channels move with one another: correlation over evenly spread samples. */
function together(a: Samples, b: Samples): number {
  const stride = Math.max(1, Math.floor(a.length / MOST_POINTS));
  let [count, sumA, sumB, squareA, squareB, product] = [0, 0, 0, 0, 0, 0];
  for (let at = 0; at < a.length; at += stride) {
    const [one, other] = [a[at] as number, b[at] as number];
    count += 1;
    sumA += one;
    sumB += other;
    squareA += one * one;
    squareB += other * other;
    product += one * other;
  }
  const spread = Math.sqrt((squareA - (sumA * sumA) / count) * (squareB - (sumB * sumB) / count));
  return spread > 0 ? (product - (sumA * sumB) / count) / spread : 0;
}

/** Grounds that rise as the battery falls: the starter's current lifts them together with the engine. */
function lifted(channels: readonly ChannelReading[], { channels: captured }: Capture): CaptureFact[] {
  const source = channels.findIndex(({ expected }) => expected.role === "battery");
  const supply = captured[source]?.samples;
  if (supply === undefined) return [];
  return channels.flatMap(({ name, unit, expected, histogram }, index): CaptureFact[] => {
    const samples = captured[index]?.samples;
    const engine = /^engine$/u.test(name);
    if ((expected.role !== "ground" && !engine) || samples === undefined || unit !== "V") return [];
    const lift = quantile(histogram, 0.995);
    if (lift < LEAST_LIFT_VOLTS || together(samples, supply) > -FOLLOWS) return [];
    const sentence = `${name} rises to ${lift.toFixed(2)} V as the battery falls: the starter's current lifts the engine, which is not the sensor's own ground.`;
    return [{ code: "block-lift", channel: name, sentence }];
  });
}

/** The other way round of an inductive sensor's wires: its wave crosses upwards in the middle of a tooth. */
function turnedRound({ name, wave, gaps }: ChannelReading): CaptureFact[] {
  if (wave === null || wave.steep === null || !gaps.some(({ designed }) => designed)) return [];
  if (wave.steepRises !== true) return [];
  return [
    {
      code: "polarity",
      channel: name,
      sentence: `${name} crosses zero upwards in the middle of each tooth: usually it falls there. Its two wires, or the two leads, may be the other way round.`,
    },
  ];
}

/** What two tracks of one sensor make together. */
export function tracksText(first: string, second: string, { slope, offset, from, to, usualApart }: Together): string {
  const within = `to ${Math.max(0.01, usualApart).toFixed(2)} V`;
  if (Math.abs(slope + 1) < SAME) return `${first} and ${second} make ${offset.toFixed(2)} V together, ${within}, all the way.`;
  const ratio = Math.abs(offset) < SAME * (to - from);
  if (ratio && slope > 0) return `${second} is ${slope.toFixed(3)} times ${first}, ${within}, all the way.`;
  return `${second} is ${slope.toFixed(3)} times ${first} ${offset < 0 ? "less" : "and"} ${Math.abs(offset).toFixed(2)} V, ${within}, all the way.`;
}

/** Pairs of tracks of one sensor in a capture, with how they go together. */
export function trackPairs(channels: readonly ChannelReading[], { channels: captured }: Capture): TrackPair[] {
  const pairs: TrackPair[] = [];
  channels.forEach(({ name }, first) => {
    if (!/(^|:)sig1(@|$)/u.test(name)) return;
    const second = channels.findIndex((other) => other.name === name.replace("sig1", "sig2"));
    const [a, b] = [captured[first]?.samples, captured[second]?.samples];
    const how = a === undefined || b === undefined ? null : togetherOf(a, b);
    if (how !== null) pairs.push({ first, second, how });
  });
  return pairs;
}

/** What a capture shows besides trouble, in words, channel by channel. */
export function factsIn(channels: readonly ChannelReading[], around: Around): CaptureFact[] {
  const { capture } = around;
  const own = channels.flatMap((channel, index) => [
    ...turning(channel, around),
    ...driven(channel, around),
    ...switching(channel, capture.channels[index]?.samples, capture.rate),
    ...snapped(channel, capture.channels[index]?.samples, around),
    ...ringing(channel),
    ...hunts(channel, capture.channels[index]?.samples, around),
    ...growing(channel, capture.channels[index]?.samples, around),
    ...battery(channel),
    ...turnedRound(channel),
  ]);
  const pairs = around.pairs.map(({ first, second, how }): CaptureFact => {
    const [one, other] = [channels[first]?.name ?? "", channels[second]?.name ?? ""];
    return { code: "tracks", channel: one, sentence: tracksText(one, other, how) };
  });
  const firing = firingOf(channels, capture.rate).map(({ first, second, until }): CaptureFact => {
    const when = until === null ? "all the time" : `until ${(capture.start + until / capture.rate).toFixed(2)} s, then one after the other`;
    return { code: "fired-together", channel: first, sentence: `${first} and ${second} are switched on at the same moment, ${when}.` };
  });
  return [...own, ...lifted(channels, capture), ...ringsCompared(channels), ...pairs, ...firing];
}
