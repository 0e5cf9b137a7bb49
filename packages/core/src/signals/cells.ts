import type { Samples } from "./capture";
import { middleOf } from "./middle";

/** How a zirconia cell switches: from lean (low) to rich (high) and back. */
export interface Switching {
  readonly switches: number;
  /** Share of the time above the threshold. */
  readonly richShare: number;
  /** Longest times on either side, seconds. */
  readonly longestRich: number;
  readonly longestLean: number;
  /** Usual times of the two changes between the lower and the upper mark, seconds; null for fewer than two of them. */
  readonly toRichSeconds: number | null;
  readonly toLeanSeconds: number | null;
}

/** Marks between which a change is timed, volts: the usual ones of a cell that goes from 0.1 to 0.9. */
const LOWER_VOLTS = 0.3;
const UPPER_VOLTS = 0.6;
const LEAST_CHANGES = 2;

function usualOf(changes: readonly number[]): number | null {
  return changes.length < LEAST_CHANGES ? null : middleOf(changes);
}

/** Reads how a cell switches; what lies between the marks belongs to the side it came from. @param rate samples a second */
export function switchingOf(samples: Samples, rate: number): Switching | null {
  let begin = 0;
  while (begin < samples.length && (samples[begin] as number) > LOWER_VOLTS && (samples[begin] as number) < UPPER_VOLTS) begin += 1;
  if (begin >= samples.length) return null;
  let rich = (samples[begin] as number) >= UPPER_VOLTS;
  let [left, since, above, switches] = [begin, begin, 0, 0];
  const longest = { rich: 0, lean: 0 };
  const changes: { rich: number[]; lean: number[] } = { rich: [], lean: [] };
  for (let at = begin; at < samples.length; at += 1) {
    const value = samples[at] as number;
    if (rich) above += 1;
    // The last moment it was certainly on its side.
    if (rich ? value >= UPPER_VOLTS : value <= LOWER_VOLTS) left = at;
    if (rich ? value > LOWER_VOLTS : value < UPPER_VOLTS) continue;
    longest[rich ? "rich" : "lean"] = Math.max(longest[rich ? "rich" : "lean"], (at - since) / rate);
    rich = !rich;
    changes[rich ? "rich" : "lean"].push((at - left) / rate);
    switches += 1;
    [since, left] = [at, at];
  }
  longest[rich ? "rich" : "lean"] = Math.max(longest[rich ? "rich" : "lean"], (samples.length - since) / rate);
  return {
    switches,
    richShare: above / (samples.length - begin),
    longestRich: longest.rich,
    longestLean: longest.lean,
    toRichSeconds: usualOf(changes.rich),
    toLeanSeconds: usualOf(changes.lean),
  };
}
