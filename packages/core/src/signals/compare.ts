import type { CaptureFile } from "@fox-lamp/language";
import { shiftBetween } from "./angles";
import { middleOf } from "./middle";

type ChannelFile = CaptureFile["channels"][number];

/** One number of a channel against the same number of another capture. */
export interface CaptureDifference {
  readonly channel: string;
  readonly what: "low" | "high" | "frequency" | "duty" | "edges" | "switches" | "ring" | "first-peak" | "second-peak" | "missing" | "dropouts" | "cam";
  readonly was: number;
  readonly now: number;
  readonly unit: string;
}

/** Differences below these say nothing: volts and a share of the level, shares of rates, points of duty, degrees. */
const LEVEL_VOLTS = 0.12;
const LEVEL_SHARE = 0.05;
const RATE_SHARE = 0.03;
const DUTY_POINTS = 2;
const COUNT_SHARE = 0.12;
const RING_SHARE = 0.3;
const CAM_DEGREES = 3;

function ringOf({ bursts }: ChannelFile): number | null {
  return middleOf(bursts.map(({ peak }) => peak));
}

function brokenOf({ missing }: ChannelFile): number {
  return missing.filter(({ designed }) => !designed).length;
}

function differencesOf(now: ChannelFile, was: ChannelFile, sameLength: boolean): CaptureDifference[] {
  const unit = now.unit ?? "V";
  const found: CaptureDifference[] = [];
  const told = (what: CaptureDifference["what"], before: number | null, after: number | null, least: number, as: string): void => {
    if (before === null && after === null) return;
    const [from, to] = [before ?? 0, after ?? 0];
    if (Math.abs(to - from) > least) found.push({ channel: now.name, what, was: from, now: to, unit: as });
  };
  const level = (value: number): number => Math.max(LEVEL_VOLTS, LEVEL_SHARE * Math.abs(value));
  told("low", was.low, now.low, level(was.low), unit);
  told("high", was.high, now.high, level(was.high), unit);
  told("frequency", was.frequencyHz, now.frequencyHz, RATE_SHARE * (was.frequencyHz ?? 1), "Hz");
  told("duty", was.duty, now.duty, DUTY_POINTS, "%");
  told("ring", ringOf(was), ringOf(now), RING_SHARE * (ringOf(was) ?? ringOf(now) ?? 0), unit);
  told("first-peak", was.peaks[0]?.volts ?? null, now.peaks[0]?.volts ?? null, LEVEL_VOLTS, unit);
  told("second-peak", was.peaks[1]?.volts ?? null, now.peaks[1]?.volts ?? null, LEVEL_VOLTS, unit);
  told("missing", brokenOf(was), brokenOf(now), 0, "");
  told("dropouts", was.dropouts.length, now.dropouts.length, 0, "");
  // Counts of captures of different length cannot be compared.
  if (sameLength && was.frequencyHz === null) told("edges", was.edges, now.edges, COUNT_SHARE * Math.max(4, was.edges), "");
  if (sameLength) told("switches", was.switches, now.switches, COUNT_SHARE * Math.max(8, was.switches ?? 0), "");
  return found;
}

/**
 * What has changed between two captures of the same leads, by the numbers of their channels; what differs by less than captures of one and the
 * same car do is left out.
 */
export function compareCaptures(now: CaptureFile, was: CaptureFile): CaptureDifference[] {
  const sameLength = Math.abs((now.seconds ?? 0) / Math.max(1e-9, was.seconds ?? 0) - 1) < 0.02;
  const channels = now.channels.flatMap((channel) => {
    const before = was.channels.find(({ name }) => name === channel.name);
    return before === undefined ? [] : differencesOf(channel, before, sameLength);
  });
  const cams = (now.camCrank.cams ?? []).flatMap(({ name, degrees }): CaptureDifference[] => {
    const before = was.camCrank.cams?.find((pattern) => pattern.name === name);
    const shift = before === undefined ? null : shiftBetween(degrees, before.degrees);
    return shift === null || Math.abs(shift) < CAM_DEGREES ? [] : [{ channel: name, what: "cam", was: 0, now: shift, unit: "deg" }];
  });
  return [...channels, ...cams];
}

/** The first thing in a capture that comes at a moment of its own: the gap of a wheel, the hump of a snap, a ring, an edge of a dropout. */
function anchorOf({ channels }: CaptureFile): { readonly kind: string; readonly t: number } | null {
  for (const { missing, peaks, bursts, name } of channels) {
    const gap = missing.find(({ designed }) => designed);
    if (gap !== undefined) return { kind: `gap ${name}`, t: gap.t };
    const [peak, burst] = [peaks[0], bursts[0]];
    if (peak !== undefined) return { kind: `peak ${name}`, t: peak.t };
    if (burst !== undefined) return { kind: `ring ${name}`, t: burst.t };
  }
  return null;
}

/** How much later the same thing happens in one capture than in another, seconds; 0 where they share nothing to go by. */
export function alignmentOf(now: CaptureFile, other: CaptureFile): number {
  const [here, there] = [anchorOf(now), anchorOf(other)];
  return here !== null && there !== null && here.kind === there.kind ? here.t - there.t : 0;
}
