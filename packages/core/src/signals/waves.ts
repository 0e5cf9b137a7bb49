import type { Samples } from "./capture";
import { type Edges, edgesOf, runsOf } from "./edges";
import { type Histogram, quantile } from "./histogram";
import { middleOf } from "./middle";

/** An alternating voltage around its rest. */
export interface Wave {
  readonly rest: number;
  readonly edges: Edges;
  /** Usual lowest and highest of a wave. */
  readonly low: number;
  readonly high: number;
  /** Which of its edges, the even or the odd ones, are the sharp crossings in the middle of a tooth, and whether they rise; null where nobody can tell. */
  readonly steep: 0 | 1 | null;
  readonly steepRises: boolean | null;
}

/** A wave smaller than this share of the usual is rest. */
const LEAST_SHARE = 0.15;
/** Part of a half wave to each side of its extreme that is averaged. */
const TOP_SHARE = 0.13;
const MOST_TOPS = 600;

/** How badly periods are whole numbers of the usual one. */
function unevenness(at: Float64Array, first: number): number {
  const periods: number[] = [];
  for (let edge = first + 2; edge < at.length; edge += 2) periods.push((at[edge] as number) - (at[edge - 2] as number));
  const usual = middleOf(periods) ?? 1;
  return periods.reduce((sum, period) => sum + Math.abs(period / usual - Math.round(period / usual)), 0) / Math.max(1, periods.length);
}

/**
 * Where teeth are missing a wave rests, and its next crossing has no sharp moment. The crossing in the middle of each tooth has: the other
 * ones are set half a period before it. Which is which shows in how evenly they come.
 */
function placedOnTeeth(edges: Edges): { edges: Edges; steep: 0 | 1 | null } {
  if (edges.at.length < 8) return { edges, steep: null };
  const steep = unevenness(edges.at, 0) < unevenness(edges.at, 1) ? 0 : 1;
  const at = Float64Array.from(edges.at);
  for (let edge = steep; edge < at.length; edge += 2) {
    const here = edges.at[edge] as number;
    // The shortest of the periods around: others may hold a gap.
    let period = Number.POSITIVE_INFINITY;
    for (let near = edge - 2; near <= edge + 4; near += 2) {
      const [from, to] = [edges.at[near - 2], edges.at[near]];
      if (from !== undefined && to !== undefined) period = Math.min(period, to - from);
    }
    if (edge > 0 && Number.isFinite(period)) at[edge - 1] = Math.max(here - 0.5 * period, (at[edge - 2] ?? 0) + 1e-3);
  }
  // The beginning of a tooth whose middle is not seen any more: where it had left its rest for certain.
  const last = at.length - 1;
  if ((last - steep) % 2 !== 0) at[last] = (edges.passed[last] as number) - 1;
  return { edges: { ...edges, at }, steep };
}

/**
 * Reads an alternating signal: its rest is the median, its edges are the crossings of the rest by waves that are larger than noise, its
 * levels the usual extremes of the half waves, averaged over their tops so that noise does not raise them.
 */
export function waveOf(samples: Samples, histogram: Histogram, sigma: number): Wave {
  const rest = quantile(histogram, 0.5);
  const size = 0.5 * (quantile(histogram, 0.985) - quantile(histogram, 0.015));
  const threshold = Math.max(4.5 * sigma, LEAST_SHARE * size);
  const { edges, steep } = placedOnTeeth(edgesOf(samples, rest - threshold, rest + threshold));
  const runs = runsOf(edges);
  // Odd, so that both sides are met.
  const stride = 2 * Math.floor(runs.length / MOST_TOPS / 2) + 1;
  const tops: { high: number[]; low: number[] } = { high: [], low: [] };
  for (let index = 0; index < runs.length; index += stride) {
    const run = runs[index];
    if (run === undefined) continue;
    const [from, to] = [Math.ceil(run.from), Math.floor(run.to)];
    let best = from;
    for (let at = from; at <= to && at < samples.length; at += 1) {
      const [here, top] = [samples[at] as number, samples[best] as number];
      if (run.high ? here > top : here < top) best = at;
    }
    const reach = Math.floor(TOP_SHARE * (to - from));
    let [sum, count] = [0, 0];
    for (let at = Math.max(from, best - reach); at <= Math.min(to, best + reach); at += 1) {
      sum += samples[at] as number;
      count += 1;
    }
    // The mean of so many samples around the top of a sine is lower than its peak by this much.
    const step = Math.PI / Math.max(2, run.to - run.from);
    let flat = 0;
    for (let at = Math.max(from, best - reach); at <= Math.min(to, best + reach); at += 1) flat += Math.cos((at - best) * step);
    if (count > 0) tops[run.high ? "high" : "low"].push(rest + (sum - count * rest) / flat);
  }
  const steepRises = steep === null ? null : edges.rising[steep] === 1;
  return { rest, edges, low: middleOf(tops.low) ?? histogram.min, high: middleOf(tops.high) ?? histogram.max, steep, steepRises };
}
