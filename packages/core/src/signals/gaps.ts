import type { Run } from "./edges";
import { type LongRun, type Row, teethGone } from "./rows";

/** The wheel a sheet describes: its teeth with the missing ones counted; null teeth where it does not say. */
export interface Wheel {
  readonly teeth: number | null;
  readonly missing: number;
}

/** A wheel behind a channel that nobody has said anything of: it may have a gap of its own, or there may be none at all. */
export const ANY_WHEEL: Wheel = { teeth: null, missing: 0 };
/** Missing teeth a wheel may be made with, and gaps from which one can tell whether they come once a turn. */
const MOST_DESIGNED = 4;
const LEAST_GAPS = 3;

/** A gap in a row of teeth. */
export interface Gap {
  /** Its middle, in samples. */
  readonly at: number;
  readonly count: number;
  readonly designed: boolean;
}

/** A time a row stood still. */
export interface Stand {
  /** In samples. */
  readonly from: number;
  readonly to: number;
  readonly high: boolean;
  /** Both ends are known no better than this, in samples. */
  readonly within: number;
}

/** A gap ends on a tooth to within this part of one. */
const ON_TOOTH = 0.22;
/** An edge this part of a tooth early or late is not the wheel's. */
const OFF_TIME = 0.1;
/** Where nothing turns a pulse train may change its pace; it stood still after this many periods. */
const LEAST_STAND = 1.5;
/** More teeth than this do not break out of a wheel side by side. */
const MOST_BROKEN = 3;

/** Whether a run is longer by so many teeth, at a pace between those of its two sides. */
function fits({ least, most, pace }: LongRun, count: number): boolean {
  const within = ON_TOOTH + 0.02 * count + 0.75 / pace.tooth;
  return count >= 1 && count >= least - within && count <= most + within;
}

/** The teeth a run is longer by: those the wheel lacks where that fits, else the nearest number. */
function countOf(run: LongRun, asked: number): number {
  if (asked > 0 && fits(run, asked)) return asked;
  return teethGone(run);
}

/** The tooth each long run lies behind, counted over the gaps. */
function toothNumbers(long: readonly LongRun[]): number[] {
  let absent = 0;
  return long.map((one) => {
    const number = (one.index >> 1) + absent;
    absent += teethGone(one);
    return number;
  });
}

/** Whether a gap is there at other turns too; null where the sheet names no teeth, or the capture is too short to say. */
function comesBack(numbers: readonly number[], which: number, teeth: number | null, seen: number): boolean | null {
  const here = numbers[which] as number;
  if (teeth === null || seen < 2 * teeth) return null;
  return numbers.some((other, index) => {
    const turns = (other - here) / teeth;
    return index !== which && Math.abs(turns) > 0.5 && Math.abs(turns - Math.round(turns)) * teeth <= 1.01;
  });
}

/** Whether a gap lies where the designed one was seen before, whole turns away; a wheel has one. */
function atItsPlace(numbers: readonly number[], which: number, teeth: number | null, place: number | null): boolean {
  if (teeth === null || place === null) return true;
  const turns = ((numbers[which] as number) - place) / teeth;
  return Math.abs(turns - Math.round(turns)) * teeth <= 1.01;
}

/**
 * Of a wheel nobody knows: its widest gaps, where they come at even distances, are its own, and the others are teeth that are gone; as few as
 * cannot be compared are not told as broken.
 */
function gapsOfAny(long: readonly LongRun[], numbers: readonly number[]): ReadonlyMap<LongRun, Gap> {
  const whole = long.flatMap((one, which) => {
    const count = teethGone(one);
    return count <= MOST_DESIGNED && fits(one, count) ? [{ one, count, number: numbers[which] as number }] : [];
  });
  const largest = Math.max(0, ...whole.map(({ count }) => count));
  const widest = whole.filter(({ count }) => count === largest);
  // Over a time it stood still nobody can count: most of the distances have to be alike.
  const distances = widest.slice(1).map(({ number }, index) => number - (widest[index]?.number ?? 0));
  const usual = [...distances].sort((a, b) => a - b)[distances.length >> 1] ?? 0;
  const few = widest.length < LEAST_GAPS;
  const even = few || distances.filter((distance) => Math.abs(distance - usual) <= 1).length > 0.5 * distances.length;
  return new Map(whole.map(({ one, count }) => [one, { at: 0.5 * (one.run.from + one.run.to), count, designed: count === largest ? even : few }]));
}

/**
 * Tells missing teeth from a signal that stood still. Missing are teeth where the next edge comes when it should, a whole number of
 * teeth later, as many as the wheel is designed to lack or a few that may have broken out, and at every turn again. What lasts another time, or
 * longer, or comes once, is a stand. Where nothing turns past the sensor (`wheel` null) every long run is one.
 */
export function gapsOf(runs: readonly Run[], { long }: Row, wheel: Wheel | null): { gaps: Gap[]; stands: Stand[] } {
  const gaps: Gap[] = [];
  const stands: Stand[] = [];
  const numbers = toothNumbers(long);
  const seen = runs.length / 2 + long.reduce((sum, one) => sum + teethGone(one), 0);
  let place: number | null = null;
  const any = wheel === ANY_WHEEL ? gapsOfAny(long, numbers) : null;
  long.forEach((one, which) => {
    const own = any?.get(one);
    if (own !== undefined) {
      gaps.push(own);
      return;
    }
    const { run, extra, pace } = one;
    const asked = wheel?.missing ?? 0;
    const count = countOf(one, asked);
    const whole = fits(one, count);
    const designed = asked > 0 && count === asked && whole && atItsPlace(numbers, which, wheel?.teeth ?? null, place);
    if (designed) place = numbers[which] as number;
    const back = wheel === null || !whole || designed ? null : comesBack(numbers, which, wheel.teeth, seen);
    if (designed || (wheel !== null && any === null && whole && count <= MOST_BROKEN + asked && back !== false)) {
      gaps.push({ at: 0.5 * (run.from + run.to), count, designed });
      return;
    }
    if ((wheel === null || any !== null) && extra < LEAST_STAND) return;
    const usual = run.high ? pace.high : pace.low;
    const [before, after] = [runs[one.index - 2], runs[one.index + 2]];
    // An edge that came off its time is itself the beginning or the end; else it happened before the edge that is missing.
    const begins = before !== undefined && offTime(run.from - before.from, pace.tooth) ? 0 : 0.5 * usual;
    const ends = after !== undefined && offTime(after.to - run.to, pace.tooth) ? 0 : 0.5 * usual;
    stands.push({ from: run.from + begins, to: run.to - ends, high: run.high, within: Math.max(begins, ends) + 1 });
  });
  return { gaps, stands };
}

function offTime(period: number, tooth: number): boolean {
  return Math.abs(period / tooth - 1) > OFF_TIME + 1 / tooth;
}
