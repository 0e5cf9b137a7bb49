/** What is shown of a capture, in samples: from one place to another. */
export interface View {
  readonly from: number;
  readonly to: number;
}

/** No closer than this many samples across. */
const LEAST_SAMPLES = 8;

/** A view within the capture, no closer than samples can be told apart. */
export function within({ from, to }: View, length: number): View {
  const span = Math.min(length, Math.max(LEAST_SAMPLES, to - from));
  const start = Math.min(Math.max(0, from), Math.max(0, length - span));
  return { from: start, to: start + span };
}

/** Closer to or farther from a place that stays where it is. @param factor below 1 is closer */
export function zoomed({ from, to }: View, at: number, factor: number, length: number): View {
  return within({ from: at - (at - from) * factor, to: at + (to - at) * factor }, length);
}

/** Moved along by so many samples. */
export function moved({ from, to }: View, by: number, length: number): View {
  return within({ from: from + by, to: to + by }, length);
}

/** A view of a stretch with room around it. */
export function around(from: number, to: number, length: number): View {
  const room = Math.max(to - from, length / 400, LEAST_SAMPLES);
  return within({ from: from - 1.5 * room, to: to + 1.5 * room }, length);
}

/** The next step of the 1-2-5 row at or above a number. */
function step(least: number): number {
  const decade = 10 ** Math.floor(Math.log10(least));
  return ([1, 2, 5, 10].find((factor) => factor * decade >= least) ?? 10) * decade;
}

/** Marks of an axis between two values, some `count` of them, with as many decimals as tell them apart. */
export function ticks(low: number, high: number, count: number): { at: number; text: string }[] {
  if (!(high > low)) return [];
  const apart = step((high - low) / Math.max(1, count));
  const decimals = Math.max(0, Math.ceil(-Math.log10(apart) - 1e-9));
  const out: { at: number; text: string }[] = [];
  for (let at = Math.ceil(low / apart) * apart; at <= high + 1e-9 * apart; at += apart)
    out.push({ at, text: (Math.abs(at) < apart / 2 ? 0 : at).toFixed(decimals) });
  return out;
}
