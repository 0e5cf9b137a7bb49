import type { Run } from "./edges";

/** How teeth follow one another at a place of a row, in samples: distance from tooth to tooth, and how long each level lasts. */
interface Pace {
  readonly tooth: number;
  readonly high: number;
  readonly low: number;
}

/** A run of a row that lasts longer than it should. */
export interface LongRun {
  readonly run: Run;
  readonly index: number;
  /** How much longer, in teeth; and by the slowest and the fastest tooth around it, where a wheel's speed swings. */
  readonly extra: number;
  readonly least: number;
  readonly most: number;
  readonly pace: Pace;
}

/** Whole teeth that are not there in a long run. */
export function teethGone({ least, most }: Pick<LongRun, "least" | "most">): number {
  return Math.max(0, Math.round(0.5 * (least + most)));
}

/** A row of pulses with what is unusual in it. */
export interface Row {
  /** Whether the pulses are alike enough to be called a row: else a pattern of its own, in which nothing is missing. */
  readonly even: boolean;
  /** Samples from tooth to tooth, over all places where one follows another. */
  readonly toothSamples: number | null;
  /** One standard deviation of neighbouring periods that should be alike, as a share. */
  readonly jitter: number | null;
  readonly long: readonly LongRun[];
  /** Indices of runs too short to be teeth or spaces. */
  readonly short: readonly number[];
}

/** Neighbours to each side that say what is usual. */
const NEIGHBOURS = 5;
/** A run shorter than this share of the usual is a spike. */
const SPIKE_SHARE = 0.12;
/** A period that differs less from its neighbours is one of the row. */
const ALIKE = 0.3;
/** That many of the periods have to be alike. */
const EVEN_SHARE = 0.5;
/** From tooth to tooth an engine that starts from rest gains so much, and over two teeth no more than this. */
const STARTS = 1.04;
const MOST_TREND = 1.6;
/** The pace is taken anew after so many runs, and for a run that differs by this share. */
const PACE_KEPT = 8;
const PACE_CHANGE = 0.12;
/** A run longer by this part of a tooth is worth a look. */
const LONG_TEETH = 0.55;

function median(values: number[]): number {
  values.sort((a, b) => a - b);
  const middle = values.length >> 1;
  return values.length % 2 === 1 ? (values[middle] as number) : 0.5 * ((values[middle - 1] as number) + (values[middle] as number));
}

/** The runs too short to belong to the row: against the median of their level. */
export function spikesOf(runs: readonly Run[]): number[] {
  const usual = (high: boolean): number => {
    const lengths = runs.filter((run) => run.high === high).map(({ from, to }) => to - from);
    return lengths.length === 0 ? 0 : median(lengths);
  };
  const [high, low] = [usual(true), usual(false)];
  return runs.flatMap((run, index) => (run.to - run.from < SPIKE_SHARE * (run.high ? high : low) ? [index] : []));
}

/**
 * The pace around a run: medians of the runs to its left and right, without itself. While an engine speeds up or slows down the two
 * sides differ; the longer one is taken, and the first and last runs are judged by the course of those beside them.
 */
function paceAt(runs: readonly Run[], index: number): Pace | null {
  const side = (step: 1 | -1): Pace | null => {
    const lengths: { high: number[]; low: number[]; tooth: number[] } = { high: [], low: [], tooth: [] };
    for (let count = 1; count <= 2 * NEIGHBOURS; count += 1) {
      const run = runs[index + step * count];
      if (run === undefined) break;
      lengths[run.high ? "high" : "low"].push(run.to - run.from);
      const next = runs[index + step * (count + 1)];
      if (next !== undefined) lengths.tooth.push(run.to - run.from + next.to - next.from);
    }
    if (lengths.high.length === 0 || lengths.low.length === 0 || lengths.tooth.length === 0) return null;
    // The newest two say where a course is going: a start from rest slows by the same factor at each tooth.
    const [first, second, third] = lengths.tooth;
    const slows = first !== undefined && second !== undefined && third !== undefined && first > STARTS * second && second > STARTS * third;
    const trend = slows ? first / third : 1;
    const factor = trend < MOST_TREND ? trend : 1;
    return { tooth: median(lengths.tooth) * factor, high: median(lengths.high) * factor, low: median(lengths.low) * factor };
  };
  const [left, right] = [side(-1), side(1)];
  if (left === null || right === null) return left ?? right;
  return left.tooth > right.tooth ? left : right;
}

/** How many teeth longer a run is by a pace. */
function extraOf(run: Run, pace: Pace): number {
  return (run.to - run.from - (run.high ? pace.high : pace.low)) / pace.tooth;
}

/** Teeth around a run are of one swinging speed up to this factor from the slowest to the fastest. */
const MOST_SWING = 1.45;

/**
 * How many teeth longer a run may be where the speed swings, as a starter's does over compression: by the slowest and the fastest tooth around it,
 * and a tenth of their difference beyond. Where it does not, or what is around is no row, both are what the pace says.
 */
function swingOf(runs: readonly Run[], index: number, pace: Pace, extra: number): { least: number; most: number } {
  const teeth: number[] = [];
  for (let at = index - 2 * NEIGHBOURS; at < index + 2 * NEIGHBOURS; at += 1) {
    const [one, next] = [runs[at], runs[at + 1]];
    if (one === undefined || next === undefined || at === index || at + 1 === index) continue;
    const period = next.to - one.from;
    if (period < MOST_SWING * pace.tooth && period * MOST_SWING > pace.tooth) teeth.push(period);
  }
  const [fastest, slowest] = [Math.min(...teeth), Math.max(...teeth)];
  if (teeth.length < NEIGHBOURS || slowest > MOST_SWING * fastest) return { least: extra, most: extra };
  const beyond = 0.1 * (slowest - fastest);
  const by = (tooth: number): number => (extra * pace.tooth + ((pace.tooth - tooth) * ((runs[index] as Run).high ? pace.high : pace.low)) / pace.tooth) / tooth;
  return { least: Math.min(extra, by(slowest + beyond)), most: Math.max(extra, by(fastest - beyond)) };
}

/** Reads a row of pulses: its pace, what lasts too long in it, and whether it is a row at all. Runs must alternate. */
export function rowOf(runs: readonly Run[]): Row {
  const long: LongRun[] = [];
  let [alike, judged, sum, regular, squares] = [0, 0, 0, 0, 0];
  let before = 0;
  let near: Pace | null = null;
  for (let index = 0; index < runs.length; index += 1) {
    const run = runs[index] as Run;
    // The pace changes little from tooth to tooth: it is taken anew now and then, and wherever a run is not as it was.
    const usual: number = near === null ? 0 : run.high ? near.high : near.low;
    if (near === null || index % PACE_KEPT === 0 || Math.abs(run.to - run.from - usual) > PACE_CHANGE * usual) near = paceAt(runs, index);
    const pace: Pace | null = near;
    if (pace === null) continue;
    const extra = extraOf(run, pace);
    if (extra > LONG_TEETH) long.push({ run, index, extra, ...swingOf(runs, index, pace, extra), pace });
    const next = runs[index + 1];
    if (next === undefined) continue;
    const period = next.to - run.from;
    judged += 1;
    if (Math.abs(period / pace.tooth - 1) >= ALIKE) {
      before = 0;
      continue;
    }
    alike += 1;
    if (run.high !== runs[0]?.high) continue;
    sum += period;
    regular += 1;
    if (before > 0) squares += (period / before - 1) ** 2;
    before = period;
  }
  return {
    even: judged > 0 && alike >= EVEN_SHARE * judged,
    toothSamples: regular > 0 ? sum / regular : null,
    jitter: regular > 3 ? Math.sqrt(squares / regular / 2) : null,
    long,
    short: spikesOf(runs),
  };
}
