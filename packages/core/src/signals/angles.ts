import type { ChannelReading } from "./channel";
import { teethGone } from "./rows";

/** The crank's angle over the capture: at each of some edges, degrees from the first tooth after the first gap. */
export interface CrankCourse {
  readonly at: Float64Array;
  readonly degrees: Float64Array;
  readonly teeth: number;
}

const TURN = 360;
const CYCLE = 720;
/** Cam edges of different turns that lie closer belong together, degrees. */
const APART = 4;

/** The angle of a crank from its own signal: teeth count on from the gap, which comes once a turn. Null where it has none. */
export function crankCourse(crank: ChannelReading): CrankCourse | null {
  const { row, edges, wave, gaps } = crank;
  if (row === null || !row.even) return null;
  const designed = gaps.some((gap) => gap.designed);
  const largest = Math.max(0, ...gaps.map(({ count }) => count));
  const marks = new Set(
    row.long
      .filter((one) => {
        const count = teethGone(one);
        return count === largest || (designed && gaps.some((gap) => gap.designed && gap.count === count));
      })
      .map(({ index }) => index),
  );
  if (marks.size === 0) return null;
  const absent = new Map(row.long.map((one) => [one.index, teethGone(one)]));
  const first = Math.min(...marks);
  // The edge that ends a gap: edges of its direction are the teeth. Of a wave the steep crossing counts, half a tooth later.
  const offset = wave === null ? 1 : 2;
  const parity = (first + offset) % 2;
  const teeth = teethOf(crank, marks, absent);
  if (teeth === null) return null;
  const places: number[] = [];
  const angles: number[] = [];
  let tooth = 0;
  let zero: number | null = null;
  for (let edge = parity; edge < edges.at.length; edge += 2) {
    if (edge >= 2) tooth += 1 + (absent.get(edge - 1) ?? 0) + (absent.get(edge - 2) ?? 0);
    if (zero === null && marks.has(edge - offset)) zero = tooth;
    places.push(edges.at[edge] as number);
    angles.push(tooth);
  }
  if (zero === null) return null;
  const lead = wave === null ? 0 : 0.5;
  const start = zero;
  return { at: Float64Array.from(places), degrees: Float64Array.from(angles, (count) => ((count - start + lead) * TURN) / teeth), teeth };
}

/** Teeth a turn, the missing ones counted: what the sheet says, else what lies between two gaps. */
function teethOf({ expected }: ChannelReading, marks: ReadonlySet<number>, absent: ReadonlyMap<number, number>): number | null {
  const stated = expected.wheel?.teeth ?? null;
  if (stated !== null) return stated;
  const [first, second] = [...marks].sort((a, b) => a - b);
  if (first === undefined || second === undefined) return null;
  let teeth = (second - first) / 2;
  for (let index = first + 1; index <= second; index += 1) teeth += absent.get(index) ?? 0;
  return teeth;
}

/** The crank's angle at a place between its first and last edge, degrees; null outside. */
export function degreesAt({ at, degrees }: CrankCourse, place: number): number | null {
  if (at.length < 2 || place < (at[0] as number) || place > (at.at(-1) as number)) return null;
  let [low, high] = [0, at.length - 1];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if ((at[middle] as number) <= place) low = middle;
    else high = middle;
  }
  const share = (place - (at[low] as number)) / ((at[high] as number) - (at[low] as number));
  return (degrees[low] as number) + share * ((degrees[high] as number) - (degrees[low] as number));
}

/** Where a cam's edges lie in the 720 degrees of a cycle, each the mean over the cycles seen, rising. */
export function camDegrees(course: CrankCourse, cam: ChannelReading): number[] {
  const folded: number[] = [];
  let [from, to] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const place of cam.edges.at) {
    const degrees = degreesAt(course, place);
    if (degrees === null) continue;
    from = Math.min(from, degrees);
    to = Math.max(to, degrees);
    folded.push(((degrees % CYCLE) + CYCLE) % CYCLE);
  }
  if (folded.length === 0) return [];
  folded.sort((a, b) => a - b);
  const groups: number[][] = [[folded[0] as number]];
  for (const degrees of folded.slice(1)) {
    const group = groups.at(-1) as number[];
    if (degrees - (group.at(-1) as number) <= APART) group.push(degrees);
    else groups.push([degrees]);
  }
  const [firstGroup, lastGroup] = [groups[0] as number[], groups.at(-1) as number[]];
  if (groups.length > 1 && (firstGroup[0] as number) + CYCLE - (lastGroup.at(-1) as number) <= APART) {
    groups.pop();
    firstGroup.push(...lastGroup.map((degrees) => degrees - CYCLE));
  }
  const cycles = (to - from) / CYCLE;
  return groups
    .filter((group) => group.length >= Math.max(1, Math.floor(0.5 * cycles)))
    .map((group) => {
      const mean = group.reduce((sum, degrees) => sum + degrees, 0) / group.length;
      return ((mean % CYCLE) + CYCLE) % CYCLE;
    })
    .sort((a, b) => a - b);
}

/** Edges that fit no better than this on average are another pattern, degrees. */
const MOST_MISFIT = 8;

function apart(a: number, b: number): number {
  const difference = (((a - b) % CYCLE) + CYCLE) % CYCLE;
  return Math.min(difference, CYCLE - difference);
}

function misfit(now: readonly number[], known: readonly number[], shift: number): number {
  const nearest = (degrees: number, others: readonly number[]): number => Math.min(...others.map((other) => apart(degrees, other)));
  const there = now.reduce((sum, degrees) => sum + nearest(degrees - shift, known), 0) / now.length;
  const back = known.reduce((sum, degrees) => sum + nearest(degrees + shift, now), 0) / known.length;
  return Math.max(there, back);
}

/**
 * How far a cam pattern has moved against a known one, degrees, later positive: the shift at which edges fit best. Which of its two turns
 * a capture began in is not known, so shifts are told to within half a turn. Null where the patterns are not alike.
 */
export function shiftBetween(now: readonly number[], known: readonly number[]): number | null {
  if (now.length === 0 || known.length === 0) return null;
  let best: { shift: number; cost: number } | null = null;
  for (const degrees of now) {
    for (const other of known) {
      const turned = ((((degrees - other) % CYCLE) + CYCLE + TURN) % CYCLE) - TURN;
      const cost = misfit(now, known, turned);
      const shift = turned > TURN / 2 ? turned - TURN : turned <= -TURN / 2 ? turned + TURN : turned;
      const better = best === null || cost < best.cost - 0.6 || (cost < best.cost + 0.6 && Math.abs(shift) < Math.abs(best.shift) - 1);
      if (better) best = { shift, cost };
    }
  }
  if (best === null || best.cost > MOST_MISFIT) return null;
  // The mean of all edges at the best shift, not of the one pair that proposed it.
  const { shift } = best;
  const rests = [0, TURN, -TURN].map((turn) => {
    const moved = now.map((degrees) => {
      const target = degrees - shift - turn;
      const near = known.reduce((nearest, other) => (apart(target, other) < apart(target, nearest) ? other : nearest), known[0] as number);
      return ((((target - near) % CYCLE) + CYCLE + TURN) % CYCLE) - TURN;
    });
    return { cost: moved.reduce((sum, value) => sum + Math.abs(value), 0), mean: moved.reduce((sum, value) => sum + value, 0) / moved.length };
  });
  const rest = rests.reduce((least, next) => (next.cost < least.cost - 1e-9 ? next : least));
  return shift + rest.mean;
}
