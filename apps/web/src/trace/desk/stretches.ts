import type { CaptureFile, StoredCapture } from "@fox-lamp/language";
import type { Marked } from "../draw";

/** A part of a channel that is marked on its trace. */
export interface MarkedStretch {
  readonly channel: string;
  readonly from: number;
  readonly to: number;
}

/** Codes of findings that are about the whole capture, or are marked one by one. */
const WITHOUT_STRETCH = new Set([
  "first-to-fail",
  "missing-teeth",
  "glitch",
  "cam-moved",
  "too-slow",
  "stuck",
  "no-ring",
  "silent-twin",
  "no-switching",
  "no-kink",
]);

/** Every place of a capture that stands out, each tooth and each spike by itself. */
export function stretchesOf({ channels, findings }: Pick<CaptureFile, "channels" | "findings">): MarkedStretch[] {
  const single = channels.flatMap(({ name, missing, glitches, frequencyHz }) => {
    const tooth = frequencyHz === null ? 0 : 1 / frequencyHz;
    return [
      ...missing
        .filter(({ designed }) => !designed)
        .map(({ t, count }) => ({ channel: name, from: t - 0.5 * (count + 1) * tooth, to: t + 0.5 * (count + 1) * tooth })),
      ...glitches.map(({ t }) => ({ channel: name, from: t, to: t })),
    ];
  });
  const stretches = findings.filter(({ code }) => !WITHOUT_STRETCH.has(code)).map(({ channel, from, to }) => ({ channel, from, to }));
  return [...stretches, ...single];
}

/** Stretches as they are drawn: on the lane of their channel, in samples. */
export function markedOn({ channels, start, rate }: Pick<StoredCapture, "channels" | "start" | "rate">, stretches: readonly MarkedStretch[]): Marked[] {
  return stretches.map(({ channel, from, to }) => ({
    lane: channels.findIndex(({ name }) => name === channel),
    from: (from - start) * rate,
    to: (to - start) * rate,
  }));
}

/** Where a picture of a capture looks: the first trouble with as much room around it; all of it where there is none. */
export function worthSeeing(file: CaptureFile, seconds: number): { from: number; to: number } {
  const [first] = stretchesOf(file).sort((a, b) => a.from - b.from);
  if (first === undefined) return { from: 0, to: seconds };
  const room = Math.max(1.5 * (first.to - first.from), 0.02 * seconds);
  return { from: Math.max(0, first.from - room), to: Math.min(seconds, first.to + room) };
}
