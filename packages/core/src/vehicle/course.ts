import type { Drive } from "../circuit";
import type { Random } from "../numeric";

/** How a circuit moves between its extremes: 1 is the first of the drive's swing, 0 the second; a ring counts from the middle. */
export type Course = (seconds: number) => number;

/** A tooth after a gap makes a little more than the others. */
const AFTER_GAP = 1.12;
/** How long a transistor's edge takes, as a share of a period at most, and a zirconia cell's change, seconds. */
const CELL_SECONDS = 0.07;
const RING_DECAY_SECONDS = 0.0012;
const TAP_EVERY_SECONDS = 0.25;

function toothed(drive: Drive, wheel: { teeth: number; missing: number }, startTurns: number, broken: ReadonlySet<number>): Course {
  const present = wheel.teeth - wheel.missing;
  const turnsPerSecond = drive.hertz / present;
  const duty = drive.moments[drive.swing?.[0] ?? 0]?.share ?? 0.5;
  return (seconds) => {
    const turns = startTurns + turnsPerSecond * seconds;
    const place = (turns - Math.floor(turns)) * wheel.teeth;
    const tooth = Math.floor(place);
    const phase = place - tooth;
    const gone = tooth >= present || broken.has(tooth);
    if (drive.shape === "square") return gone ? 0 : phase < duty ? 1 : 0;
    if (gone) return 0.5;
    return 0.5 + 0.5 * (tooth === 0 && wheel.missing > 0 ? AFTER_GAP : 1) * Math.sin(2 * Math.PI * phase);
  };
}

/** A cell that switches: periods vary by a tenth, edges are soft. */
function cell(drive: Drive, random: Random): Course {
  const edges: number[] = [];
  let at = random.uniform() / drive.hertz;
  for (let count = 0; count < 4096; count += 1) {
    edges.push(at);
    at += (0.5 / drive.hertz) * Math.max(0.4, 1 + 0.12 * random.normal());
  }
  const soft = Math.min(CELL_SECONDS, 0.2 / drive.hertz);
  let near = 0;
  return (seconds) => {
    while (near > 0 && edges[near] > seconds) near -= 1;
    while (near < edges.length - 1 && edges[near + 1] <= seconds) near += 1;
    const before = seconds < edges[0];
    const rising = near % 2 === 0;
    const since = before ? 1 : (seconds - edges[near]) / soft;
    const done = 1 / (1 + Math.exp(-6 * (Math.min(since, 3) - 0.5)));
    if (before) return 0;
    return rising ? done : 1 - done;
  };
}

/** Rings: one a quarter second after a tap, or random small ones from a running engine; between -1 and 1 around the middle. */
function ringing(drive: Drive, tapped: boolean, random: Random): Course {
  const starts: { at: number; size: number }[] = [];
  let at = tapped ? 0.05 : 0;
  for (let count = 0; count < 4096; count += 1) {
    starts.push({ at, size: tapped ? 1 : 0.2 + 0.8 * random.uniform() });
    at += tapped ? TAP_EVERY_SECONDS : 0.004 * (0.5 + random.uniform());
  }
  let near = 0;
  return (seconds) => {
    while (near > 0 && starts[near].at > seconds) near -= 1;
    while (near < starts.length - 1 && starts[near + 1].at <= seconds) near += 1;
    const { at: start, size } = starts[near];
    if (seconds < start) return 0;
    const since = seconds - start;
    return size * Math.exp(-since / RING_DECAY_SECONDS) * Math.sin(2 * Math.PI * drive.hertz * since);
  };
}

/**
 * The course of a drive; the same seed gives the same course.
 * @param tapped whether somebody taps beside the sensor
 * @param broken teeth of its wheel that have broken out, from 0
 */
export function courseOf(drive: Drive, tapped: boolean, random: Random, broken: readonly number[] = []): Course {
  if (drive.swing === null || drive.hertz === 0) return () => 1;
  if (drive.shape === "ring") return ringing(drive, tapped, random);
  if (drive.wheel !== undefined) return toothed(drive, drive.wheel, random.uniform(), new Set(broken));
  if (drive.hertz < 3) return cell(drive, random);
  const duty = drive.moments[drive.swing[0]]?.share ?? 0.5;
  const start = random.uniform();
  return (seconds) => {
    const turns = start + drive.hertz * seconds;
    return turns - Math.floor(turns) < duty ? 1 : 0;
  };
}

/** When a throttle is snapped open, and how many times the flow of idle the filling manifold and the revving engine bring. */
const SNAP_SECONDS = 0.5;
const FILLING = 7;
const FOLLOWING = 11;

/** A hump: up with one time constant, down with another, one at its top. */
function hump(since: number, up: number, down: number): number {
  if (since <= 0) return 0;
  const raw = (time: number): number => (1 - Math.exp(-time / up)) * Math.exp(-time / down);
  return raw(since) / raw(up * Math.log(1 + down / up));
}

/** A sensed quantity that moves with time, for a sweep or a snap; null where it stands. */
export function worldCourse(stimulus: string | undefined, quantity: string, low: number, high: number, now: number): ((seconds: number) => number) | null {
  if (stimulus === "sweep") {
    return (seconds) => {
      const share = seconds / 4 - Math.floor(seconds / 4);
      return low + (high - low) * (share < 0.5 ? 2 * share : 2 - 2 * share);
    };
  }
  if (stimulus === "snap" && quantity === "flow") {
    return (seconds) => {
      const since = seconds - SNAP_SECONDS;
      if (since < 0) return now;
      // The manifold fills at once; then flow follows the engine's speed until the throttle is shut.
      return now * (1 + FILLING * hump(since, 0.05, 0.09) + FOLLOWING * hump(since - 0.2, 0.25, 0.3));
    };
  }
  return null;
}
