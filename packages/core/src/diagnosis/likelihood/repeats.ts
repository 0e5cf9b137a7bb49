import type { Observation } from "./observation";

// Taken out of Math once: these run millions of times.
const { abs, log, max } = Math;

const LOG_TWO_PI = log(2 * Math.PI);
/** Readings of one probe are one and the same where they lie this near to each other, as a share of them, and on the probe's scale. */
const SAME_SHARE = 0.03;
const SAME_LEAST = 0.01;
/** Who typed kilo-ohms as ohms once and did not notice, does so again this often: read again, a unit is not proven right by saying the same. */
const LOG_AGAIN = log(0.3);

/** What the numbers can be other than their rows, as they stand beside each other at a cell. */
export interface RepeatedNumbers {
  /** log P(whatever else the number can be). */
  readonly otherwise: Float64Array;
  /** log P(a slip that is made again where it was made once). */
  readonly lasting: Float64Array;
  /** Log variance of each number's own noise. */
  readonly logNoise: Float64Array;
}

/** Numbers of one probe that say the same and may be of another unit, in groups of two and more. */
export class Repeats {
  readonly groups: readonly (readonly number[])[];
  private readonly groupOf: Int32Array;
  /** What each group says, on average. */
  private readonly middles: Float64Array;

  constructor(private readonly observations: readonly Observation[]) {
    const groups: number[][] = [];
    observations.forEach(({ table, number }, i) => {
      if (table.slips !== "unit") return;
      const group = groups.find(([first]) => {
        const other = observations[first];
        return other.table === table && isSame(other.number as number, number as number);
      });
      if (group === undefined) groups.push([i]);
      else group.push(i);
    });
    this.groups = groups.filter(({ length }) => length > 1);
    this.middles = Float64Array.from(this.groups, (group) => group.reduce((sum, i) => sum + (observations[i].number as number), 0) / group.length);
    this.groupOf = new Int32Array(observations.length).fill(-1);
    this.groups.forEach((group, at) => {
      for (const i of group) this.groupOf[i] = at;
    });
  }

  /**
   * By how much a set of slipped numbers is likelier for some of them being one slip made again, logarithm; 0 where none is.
   * @param set places of the numbers, of which the first `size` count
   */
  lift(set: Int32Array, size: number, numbers: RepeatedNumbers): number {
    let lift = 0;
    for (let group = 0; group < this.groups.length; group += 1) {
      let count = 0;
      let [apart, once, further] = [0, Number.NEGATIVE_INFINITY, 0];
      for (let place = 0; place < size; place += 1) {
        const i = set[place];
        if (this.groupOf[i] !== group) continue;
        count += 1;
        apart += numbers.otherwise[i];
        once = max(once, numbers.lasting[i] + LOG_AGAIN);
        further += this.logBeside(i, group, numbers);
      }
      // All but one of them stand beside another one.
      if (count > 1) lift += max(0, once + (further * (count - 1)) / count - apart);
    }
    return lift;
  }

  /** log P(a number | the same slip gave the others of its group). */
  private logBeside(i: number, group: number, { logNoise }: RepeatedNumbers): number {
    const miss = (this.observations[i].number as number) - this.middles[group];
    return -0.5 * (LOG_TWO_PI + logNoise[i] + (miss * miss) / Math.exp(logNoise[i]));
  }
}

function isSame(one: number, other: number): boolean {
  return abs(one - other) <= max(SAME_LEAST, SAME_SHARE * max(abs(one), abs(other)));
}
