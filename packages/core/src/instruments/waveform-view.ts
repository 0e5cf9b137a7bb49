import type { Drive } from "../circuit";
import { type Solution, voltsBetween } from "../network";
import { type Port, portOf } from "./port";
import type { AcKind, ElectricalMeter } from "./probe";

/** One moment of a circuit, solved. */
export interface MomentSolution {
  readonly share: number;
  readonly solution: Solution;
}

/** How a circuit moves between its solved moments. */
export interface Rhythm {
  readonly moments: readonly MomentSolution[];
  readonly swing: Drive["swing"];
  readonly shape: Drive["shape"];
  /** Repetitions a second as they are, faults included; 0 when it stands still. */
  readonly hertz: number;
}

/** Slower than this, a meter follows instead of averaging. */
export const FOLLOWED_HERTZ = 3;
/** Peak to peak below which a meter's counter does not trigger, volts. */
export const TRIGGER_VOLTS = 0.3;
/** Corner of a hand-held meter's AC range, hertz. */
const AC_CORNER_HERTZ = 3000;
/** A ring is there only part of the time. */
const RING_SHARE = 0.35;

/** Whether a meter follows a signal up and down instead of averaging it. */
export function isFollowed(rhythm: Pick<Rhythm, "swing" | "hertz">): boolean {
  return rhythm.swing !== null && rhythm.hertz > 0 && rhythm.hertz < FOLLOWED_HERTZ;
}

/** Whether a meter shows both ends of a swing: a scope always does, a voltmeter when it can follow. */
export function showsEnds(rhythm: Pick<Rhythm, "swing" | "hertz">, meter: ElectricalMeter): boolean {
  return meter === "capture" ? rhythm.swing !== null && rhythm.hertz > 0 : isFollowed(rhythm);
}

/** The ports between two nodes in every moment. */
export function portsOf(rhythm: Rhythm, red: string, black: string): readonly Port[] {
  return rhythm.moments.map(({ solution }) => {
    const { nodeIndex } = solution.net;
    return portOf(solution, nodeIndex.get(red) ?? -1, nodeIndex.get(black) ?? -1);
  });
}

/** Average over the moments of a number each of them has. */
export function averageOf(rhythm: Rhythm, numberIn: (moment: number) => number): number {
  return rhythm.moments.reduce((sum, { share }, moment) => (share === 0 ? sum : sum + share * numberIn(moment)), 0);
}

/** Difference between the extremes of a number, high less low; zero when it stands still. */
export function swingOf(rhythm: Rhythm, numberIn: (moment: number) => number): number {
  return rhythm.swing === null ? 0 : numberIn(rhythm.swing[0]) - numberIn(rhythm.swing[1]);
}

/**
 * The two extremes of a number, in the order of its swing. A ring goes both ways from where it rests: what its source leads in those moments
 * is alternating, so the level it rides on stays what it is in between.
 */
export function extremesOf(rhythm: Rhythm, numberIn: (moment: number) => number): readonly [number, number] | null {
  if (rhythm.swing === null) return null;
  if (rhythm.shape !== "ring") return [numberIn(rhythm.swing[0]), numberIn(rhythm.swing[1])];
  const [level, half] = [averageOf(rhythm, numberIn), 0.5 * swingOf(rhythm, numberIn)];
  return [level + half, level - half];
}

/** Share of the time in the first extreme. */
export function shareOfFirst(rhythm: Rhythm): number {
  return rhythm.swing === null || rhythm.shape !== "square" ? 0.5 : (rhythm.moments[rhythm.swing[0]]?.share ?? 0.5);
}

/**
 * What an AC range shows per volt of swing: the form of the wave (rms of the alternating part, or 1.11 times its rectified
 * mean), and the range's bandwidth (one pole at 3 kHz).
 */
export function acFactor(rhythm: Rhythm, kind: AcKind = "true-rms"): number {
  if (rhythm.swing === null || rhythm.hertz === 0) return 0;
  const band = 1 / Math.hypot(1, rhythm.hertz / AC_CORNER_HERTZ);
  if (rhythm.shape === "square") {
    const share = shareOfFirst(rhythm);
    return band * (kind === "true-rms" ? Math.sqrt(share * (1 - share)) : 2.22 * share * (1 - share));
  }
  return (band * (rhythm.shape === "ring" ? RING_SHARE : 1)) / (2 * Math.SQRT2);
}

/** Current through a conductor in one moment, from its first end to its second, amperes. */
export function conductorAmps(solution: Solution, element: string): number {
  const index = solution.net.elementIndex.get(element) ?? -1;
  const across = voltsBetween(solution.volts, solution.net.a[index] ?? -1, solution.net.b[index] ?? -1);
  return across / (solution.values.ohms[index] ?? 1);
}
