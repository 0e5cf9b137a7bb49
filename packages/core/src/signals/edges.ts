import type { Samples, Stretch } from "./capture";

/** Moments at which a signal went from one side to the other, in samples and parts of a sample; `rising[k]` is 1 for upwards. */
export interface Edges {
  readonly at: Float64Array;
  readonly rising: Uint8Array;
  /** The sample at which each had passed the second threshold. */
  readonly passed: Float64Array;
  /** Whether the signal begins above. */
  readonly startsHigh: boolean;
}

/**
 * Edges between two thresholds: an edge counts when the signal has passed both, so that noise smaller than their distance makes none.
 * Its moment is where the straight line between two samples crosses the middle.
 */
export function edgesOf(samples: Samples, lower: number, upper: number, { from, to }: Stretch = { from: 0, to: samples.length }): Edges {
  const middle = 0.5 * (lower + upper);
  let at = new Float64Array(1024);
  let rising = new Uint8Array(1024);
  let passed = new Float64Array(1024);
  let count = 0;
  // The first threshold that is passed says where it began.
  let begin = from;
  while (begin < to && (samples[begin] as number) > lower && (samples[begin] as number) < upper) begin += 1;
  let high = begin < to ? (samples[begin] as number) >= upper : (samples[from] ?? 0) > middle;
  const startsHigh = high;
  let crossed = from;
  let before = samples[begin] as number;
  let above = before > middle;
  for (let index = begin + 1; index < to; index += 1) {
    const value = samples[index] as number;
    const over = value > middle;
    if (over !== above) {
      if (over !== high) crossed = index - 1 + (middle - before) / (value - before);
      above = over;
    }
    before = value;
    if (high ? value > lower : value < upper) continue;
    if (count === at.length) {
      const [moreAt, moreRising, morePassed] = [new Float64Array(2 * count), new Uint8Array(2 * count), new Float64Array(2 * count)];
      moreAt.set(at);
      moreRising.set(rising);
      morePassed.set(passed);
      [at, rising, passed] = [moreAt, moreRising, morePassed];
    }
    high = !high;
    at[count] = crossed;
    rising[count] = high ? 1 : 0;
    passed[count] = index;
    count += 1;
  }
  return { at: at.subarray(0, count), rising: rising.subarray(0, count), passed: passed.subarray(0, count), startsHigh };
}

/** The last edge of the same direction as the first: from one to the other are whole pulses; under 2 there is none. */
export function lastWhole({ at }: Pick<Edges, "at">): number {
  return at.length % 2 === 1 ? at.length - 1 : at.length - 2;
}

/** A time the signal stayed on one side: between two edges, in samples. */
export interface Run {
  readonly from: number;
  readonly to: number;
  readonly high: boolean;
}

/** The runs between the edges; what lies before the first and after the last edge is left out, as its length is not known. */
export function runsOf({ at, rising }: Edges): Run[] {
  const runs: Run[] = [];
  for (let index = 1; index < at.length; index += 1) {
    runs.push({ from: at[index - 1] as number, to: at[index] as number, high: rising[index - 1] === 1 });
  }
  return runs;
}

/** Edges without some runs: the two edges that bound each of them go. @param dropped indices of runs between edges */
export function withoutRuns(edges: Edges, dropped: ReadonlySet<number>): Edges {
  if (dropped.size === 0) return edges;
  const kept: number[] = [];
  for (let index = 0; index < edges.at.length; index += 1) {
    if (dropped.has(index)) index += 1;
    else kept.push(index);
  }
  const picked = (list: Float64Array | Uint8Array) => kept.map((index) => list[index] as number);
  return {
    at: Float64Array.from(picked(edges.at)),
    rising: Uint8Array.from(picked(edges.rising)),
    passed: Float64Array.from(picked(edges.passed)),
    startsHigh: edges.startsHigh,
  };
}
