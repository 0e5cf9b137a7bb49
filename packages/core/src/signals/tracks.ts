import type { Samples } from "./capture";

/** How two tracks of one sensor go together over a sweep: the second is `offset + slope` times the first, volts. */
export interface Together {
  readonly slope: number;
  readonly offset: number;
  /** The largest usual distance from that line, volts: what only one sample in a hundred passes. */
  readonly usualApart: number;
  readonly from: number;
  readonly to: number;
}

const MOST_POINTS = 4000;
const ROUNDS = 4;
/** A sweep moves the first track by this much at least, volts. */
const LEAST_SWEEP_VOLTS = 0.5;

/** A straight line through points, those far from it left out again and again (least squares, trimmed). */
function lineThrough(x: readonly number[], y: readonly number[]): { slope: number; offset: number } | null {
  let kept = x.map((_, index) => index);
  let line: { slope: number; offset: number } | null = null;
  for (let round = 0; round < ROUNDS; round += 1) {
    const count = kept.length;
    const [meanX, meanY] = [x, y].map((values) => kept.reduce((sum, index) => sum + (values[index] as number), 0) / count) as [number, number];
    let [across, along] = [0, 0];
    for (const index of kept) {
      across += ((x[index] as number) - meanX) * ((y[index] as number) - meanY);
      along += ((x[index] as number) - meanX) ** 2;
    }
    if (along === 0) return null;
    const slope = across / along;
    const found = { slope, offset: meanY - slope * meanX };
    line = found;
    const apart = (index: number): number => Math.abs((y[index] as number) - found.offset - found.slope * (x[index] as number));
    const sorted = kept.map(apart).sort((a, b) => a - b);
    const most = Math.max(1e-4, 4 * (sorted[sorted.length >> 1] as number));
    const next = kept.filter((index) => apart(index) <= most);
    if (next.length < count / 3) break;
    kept = next;
  }
  return line;
}

/** How a second track follows a first over the same samples; null where the first is not swept. */
export function togetherOf(first: Samples, second: Samples): Together | null {
  const stride = Math.max(1, Math.floor(first.length / MOST_POINTS));
  const [x, y]: [number[], number[]] = [[], []];
  for (let at = 0; at < first.length; at += stride) {
    x.push(first[at] as number);
    y.push(second[at] as number);
  }
  const [from, to] = [Math.min(...x), Math.max(...x)];
  if (to - from < LEAST_SWEEP_VOLTS) return null;
  const line = lineThrough(x, y);
  if (line === null) return null;
  const apart = x.map((value, index) => Math.abs((y[index] as number) - line.offset - line.slope * value)).sort((a, b) => a - b);
  return { ...line, usualApart: apart[Math.floor(0.99 * (apart.length - 1))] as number, from, to };
}

/** Stretches in which two tracks do not go together, in samples: farther from their line than `most` volts for `least` samples at least. */
export function partings(first: Samples, second: Samples, { slope, offset }: Together, most: number, least: number): { from: number; to: number }[] {
  const found: { from: number; to: number }[] = [];
  let begin = -1;
  for (let at = 0; at <= first.length; at += 1) {
    const away = at < first.length && Math.abs((second[at] as number) - offset - slope * (first[at] as number)) > most;
    if (away && begin < 0) begin = at;
    if (away || begin < 0) continue;
    const last = found.at(-1);
    if (last !== undefined && begin - last.to <= least) found[found.length - 1] = { from: last.from, to: at };
    else if (at - begin >= least) found.push({ from: begin, to: at });
    begin = -1;
  }
  return found;
}
