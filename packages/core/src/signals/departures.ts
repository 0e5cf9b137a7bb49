import type { Samples } from "./capture";

/** A time in which a channel is away from where it should be, in samples; `value` is its mean meanwhile. */
export interface Departure {
  readonly from: number;
  readonly to: number;
  readonly value: number;
  /** The most it was away. */
  readonly extreme: number;
}

/**
 * Departures from a level that should stand: begun where the difference exceeds `away`, ended where it is back within half of that for
 * as long as `settle` samples.
 */
export function departuresFromLevel(samples: Samples, level: number, away: number, settle: number): Departure[] {
  const found: Departure[] = [];
  const back = 0.5 * away;
  const length = samples.length;
  let index = 0;
  while (index < length) {
    if (Math.abs((samples[index] as number) - level) <= away) {
      index += 1;
      continue;
    }
    let from = index;
    while (from > 0 && Math.abs((samples[from - 1] as number) - level) > back) from -= 1;
    let [sum, count, extreme, inside, end] = [0, 0, samples[index] as number, 0, from];
    for (index = from; index < length && inside < settle; index += 1) {
      const value = samples[index] as number;
      if (Math.abs(value - level) <= back) {
        inside += 1;
        continue;
      }
      inside = 0;
      end = index + 1;
      sum += value;
      count += 1;
      if (Math.abs(value - level) > Math.abs(extreme - level)) extreme = value;
    }
    found.push({ from, to: end, value: sum / Math.max(1, count), extreme });
  }
  return found;
}

/** How a smooth course is followed. */
export interface CourseOptions {
  /** A step this large between neighbours some samples apart is no course any more, in the channel's unit. */
  readonly jump: number;
  /** Samples a jump takes at most. */
  readonly reach: number;
  /** Longer than this it is a new course, not a departure, in samples. */
  readonly longest: number;
}

/**
 * Departures from a smooth course: the signal jumps away faster than what it follows can move, and jumps back to where the course would
 * be by now. A jump that is never taken back ends with the capture when `longest` allows; else the new course is followed.
 */
export function departuresFromCourse(samples: Samples, { jump, reach, longest }: CourseOptions): Departure[] {
  const found: Departure[] = [];
  const length = samples.length;
  let index = reach;
  while (index < length) {
    const before = samples[index - reach] as number;
    const move = (samples[index] as number) - before;
    if (Math.abs(move) <= jump) {
      index += 1;
      continue;
    }
    const from = beginningOf(samples, index, reach, jump);
    const start = samples[Math.max(0, from - 1)] as number;
    const away = settledAfter(samples, index, reach);
    const slope = slopeBefore(samples, from, SLOPE_REACHES * reach);
    const to = returnOf(samples, away.at, { start, slope, jump, reach, longest, away: away.value - start });
    if (to === null) {
      index = away.at + reach;
      continue;
    }
    let [sum, extreme] = [0, start];
    for (let at = from; at < to; at += 1) {
      const value = samples[at] as number;
      sum += value;
      if (Math.abs(value - start) > Math.abs(extreme - start)) extreme = value;
    }
    found.push({ from, to, value: sum / Math.max(1, to - from), extreme });
    index = to + 2 * reach;
  }
  return found;
}

/** A course is followed over this many jump lengths for its slope. */
const SLOPE_REACHES = 12;

/** Slope of the course before a place, per sample. */
function slopeBefore(samples: Samples, at: number, over: number): number {
  const to = Math.max(0, at - 2);
  const from = Math.max(0, to - over);
  const part = Math.max(1, (to - from) >> 2);
  if (to - from < 4) return 0;
  let [first, last] = [0, 0];
  for (let index = 0; index < part; index += 1) {
    first += samples[from + index] as number;
    last += samples[to - index] as number;
  }
  return (last - first) / part / (to - from - part + 1);
}

/** The first sample of a jump that was noticed `reach` samples on at the latest. */
function beginningOf(samples: Samples, noticed: number, reach: number, jump: number): number {
  const base = samples[noticed - reach] as number;
  for (let at = noticed - reach + 1; at < noticed; at += 1) if (Math.abs((samples[at] as number) - base) > 0.5 * jump) return at;
  return noticed;
}

/** Where a jump has come to rest: after it, the value once neighbours no longer run on. */
function settledAfter(samples: Samples, noticed: number, reach: number): { at: number; value: number } {
  const at = Math.min(samples.length - 1, noticed + reach - 1);
  let best = noticed;
  const base = samples[Math.max(0, noticed - reach)] as number;
  for (let index = noticed; index <= at; index += 1) {
    if (Math.abs((samples[index] as number) - base) > Math.abs((samples[best] as number) - base)) best = index;
  }
  return { at: best, value: samples[best] as number };
}

/** The sample at which a course is met again; null where it is not. */
function returnOf(
  samples: Samples,
  first: number,
  { start, slope, jump, reach, longest, away }: { start: number; slope: number; jump: number; reach: number; longest: number; away: number },
): number | null {
  const last = Math.min(samples.length, first + longest);
  // The course moves on while nobody sees it: half of the way back, or a jump, is near enough.
  const near = Math.max(jump, 0.45 * Math.abs(away));
  for (let index = first + 1; index < last; index += 1) {
    const value = samples[index] as number;
    // Where the course was, or where it has gone meanwhile.
    const target = Math.abs(value - start) <= near ? start : start + slope * (index - first);
    if (Math.abs(value - target) > near) continue;
    const moved = value - (samples[Math.max(first, index - reach)] as number);
    if (Math.abs(moved) < 0.5 * jump || Math.sign(moved) === Math.sign(away)) continue;
    // Walk on to the end of the jump.
    let to = index;
    while (to > first && Math.abs((samples[to - 1] as number) - target) <= near) to -= 1;
    return to;
  }
  return last === samples.length && Math.abs(away) > 2 * jump ? samples.length : null;
}
