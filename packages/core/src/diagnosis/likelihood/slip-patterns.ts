import type { RepeatedNumbers, Repeats } from "./repeats";

// Taken out of Math once: these run millions of times.
const { exp, log, max, min } = Math;

const LOG_TWO_PI = log(2 * Math.PI);
const NEVER = Number.NEGATIVE_INFINITY;
/** Pairs of slips are weighed among this many most doubtful readings. */
const PAIRED = 5;
/** More readings than this are not taken for slips together: then they contradict one another. */
const MOST_SLIPPED = 5;
/** A number this far below a slip, whatever the others are, logarithm, is one of them from the start. */
const GROSS_LOG = 8;
/** Another slip is looked for where the last one explained so much, logarithm. */
const EXPLAINED_LOG = 2;
/** Patterns lighter than this share say nothing of any reading. */
const LEAST_SHARE = 1e-9;

/** One cell's numbers as they stand beside each other. All arrays are by number, `precision` is n x n. */
export interface JointNumbers extends RepeatedNumbers {
  /** Inverse covariance of the numbers in units of their own noise. */
  readonly precision: Float64Array;
  /** `precision` times the residuals. */
  readonly weighted: Float64Array;
  /** log P(number), whatever the others are. */
  readonly alone: Float64Array;
  /** log P(number | all others). */
  readonly conditional: Float64Array;
  /** log P(a number is shown at all). */
  readonly shown: Float64Array;
  /** Which of them say the same of the same. */
  readonly repeats: Repeats;
  /** Whether any of the numbers is an end of a converter. */
  readonly mayEnd: boolean;
  /** Numbers that are one, in an order that does not hang on the readings': they are laid out as the level that says the same of itself. */
  readonly ends: readonly number[];
  /**
   * log P(an end | those numbers beside it that did not slip) against what the level it was laid out as makes of them.
   * @param weighted of it, and `precision`, once the slipped ones are left out
   */
  endBeside(i: number, weighted: number, precision: number): number;
}

/**
 * Sums over which numbers are something else than their row: none, any one, pairs of the most doubtful, the likeliest pattern's
 * extensions by any other as long as each explains much more than the one before, and all together that can hardly be. The density of a set given all
 * others comes from its block of the precision matrix (standard Gaussian identities).
 */
export class SlipPatterns {
  private readonly logs: Float64Array;
  private readonly members: Int32Array;
  private readonly sizes: Uint8Array;
  private readonly doubtful = new Int32Array(PAIRED);
  private readonly set = new Int32Array(MOST_SLIPPED);
  private readonly factor = new Float64Array(MOST_SLIPPED * MOST_SLIPPED);
  private readonly solved = new Float64Array(MOST_SLIPPED);
  /** Numbers left out so far, with their block of the precision: the set, then ends that come later. */
  private readonly left: Int32Array;
  private readonly rows: Float64Array;
  private readonly moves: Float64Array;
  private count = 0;

  constructor(
    private readonly n: number,
    private readonly numbers: JointNumbers,
  ) {
    const most = 2 + numbers.repeats.groups.length + n * MOST_SLIPPED + (PAIRED * (PAIRED - 1)) / 2;
    this.logs = new Float64Array(most);
    this.members = new Int32Array(MOST_SLIPPED * most);
    this.sizes = new Uint8Array(most);
    const width = numbers.mayEnd ? MOST_SLIPPED + n : 0;
    this.left = new Int32Array(width);
    this.rows = new Float64Array(width * width);
    this.moves = new Float64Array(width);
  }

  /** log of the sum over all patterns. @param joint log P(all numbers); @param each told the share of every pattern a number slipped in */
  sum(joint: number, each: (number: number, share: number) => void): number {
    const { n, logs, members, sizes, set } = this;
    this.count = 0;
    this.add(joint, 0);
    for (let i = 0; i < n; i += 1) {
      set[0] = i;
      this.factor[0] = Math.sqrt(max(1e-12, this.numbers.precision[i * n + i]));
      this.solved[0] = this.numbers.weighted[i] / this.factor[0];
      this.add(joint - this.numbers.conditional[i] + this.numbers.otherwise[i], 1);
    }
    if (n >= 2) this.addLarger(joint);
    let top = NEVER;
    for (let pattern = 0; pattern < this.count; pattern += 1) top = max(top, logs[pattern]);
    if (top === NEVER) return NEVER;
    let sum = 0;
    for (let pattern = 0; pattern < this.count; pattern += 1) {
      const share = exp(logs[pattern] - top);
      logs[pattern] = share;
      sum += share;
    }
    for (let pattern = 1; pattern < this.count; pattern += 1) {
      const share = logs[pattern] / sum;
      if (share < LEAST_SHARE) continue;
      for (let at = 0; at < sizes[pattern]; at += 1) each(members[MOST_SLIPPED * pattern + at], share);
    }
    return top + log(sum);
  }

  /**
   * What the ends that are not in the set say beside the numbers that are not, against the levels they were laid out as: one after the other, each
   * beside those before it. The block of the precision of the set's first `size` members is expected in `factor` and `solved`.
   */
  private endsBeside(size: number): number {
    const { n, set, left, rows, moves } = this;
    const { ends, precision, weighted } = this.numbers;
    const width = MOST_SLIPPED + n;
    for (let at = 0; at < size; at += 1) {
      left[at] = set[at];
      moves[at] = this.solved[at];
      for (let k = 0; k <= at; k += 1) rows[at * width + k] = this.factor[at * MOST_SLIPPED + k];
    }
    let out = size;
    let sum = 0;
    for (let place = ends.length - 1; place >= 0; place -= 1) {
      const end = ends[place];
      let inside = false;
      let [own, moved] = [precision[end * n + end], weighted[end]];
      for (let at = 0; at < out; at += 1) {
        inside ||= left[at] === end;
        let value = precision[end * n + left[at]];
        for (let k = 0; k < at; k += 1) value -= rows[at * width + k] * rows[out * width + k];
        value /= rows[at * width + at];
        rows[out * width + at] = value;
        own -= value * value;
        moved -= value * moves[at];
      }
      if (inside) continue;
      own = max(1e-12, own);
      sum += this.numbers.endBeside(end, moved, own);
      left[out] = end;
      rows[out * width + out] = Math.sqrt(own);
      moves[out] = moved / rows[out * width + out];
      out += 1;
    }
    return sum;
  }

  /** Keeps a pattern of the first `size` members of the set. */
  private add(logShare: number, size: number): void {
    const at = this.count;
    this.count = at + 1;
    this.logs[at] = this.numbers.ends.length === 0 ? logShare : logShare + this.endsBeside(size);
    this.sizes[at] = size;
    for (let member = 0; member < size; member += 1) this.members[MOST_SLIPPED * at + member] = this.set[member];
  }

  /** The likeliest pattern from one on. */
  private likeliest(from: number): number {
    let best = from;
    for (let pattern = from + 1; pattern < this.count; pattern += 1) if (this.logs[pattern] > this.logs[best]) best = pattern;
    return best;
  }

  private addLarger(joint: number): void {
    const { n, logs, doubtful, set } = this;
    const pairs = this.count;
    const count = this.findDoubtful();
    for (let first = 0; first < count; first += 1) {
      for (let second = first + 1; second < count; second += 1) {
        set[0] = doubtful[first];
        set[1] = doubtful[second];
        this.addSet(joint, 2);
      }
    }
    this.addGross(joint);
    this.addRepeats(joint);
    // One gross slip bends everything beside it: what else does not fit shows only without it.
    let best = this.likeliest(1);
    let before = this.sizes[best] === 1 ? pairs : this.count;
    for (let size = this.sizes[best] + 1; size <= min(n, MOST_SLIPPED); size += 1) {
      this.extend(joint, best, size, before);
      if (before === this.count) return;
      const longest = this.likeliest(before);
      if (logs[longest] < logs[best] + EXPLAINED_LOG) return;
      best = longest;
      before = this.count;
    }
  }

  /** Adds the pattern of all numbers that can hardly be, even alone: together they may bend the rest until a sound one fits worst. */
  private addGross(joint: number): void {
    const { n, set } = this;
    const { alone, otherwise } = this.numbers;
    let size = 0;
    for (let i = 0; i < n; i += 1) {
      if (alone[i] + GROSS_LOG > otherwise[i]) continue;
      if (size === MOST_SLIPPED) return;
      set[size] = i;
      size += 1;
    }
    if (size > 1 && !this.isListed(size, 1, this.count)) this.addSet(joint, size);
  }

  /** Adds the patterns in which one slip was made again: each of them makes the other look right. */
  private addRepeats(joint: number): void {
    const { set } = this;
    for (const group of this.numbers.repeats.groups) {
      if (group.length > MOST_SLIPPED) continue;
      for (const [at, i] of group.entries()) set[at] = i;
      if (!this.isListed(group.length, 1, this.count)) this.addSet(joint, group.length);
    }
  }

  /** Adds the pattern with any one more number, but for sets already among those from `listed` on. */
  private extend(joint: number, pattern: number, size: number, listed: number): void {
    const { members, set, n } = this;
    const known = this.count;
    for (let i = 0; i < n; i += 1) {
      let inside = false;
      for (let at = 0; at < size - 1; at += 1) {
        set[at] = members[MOST_SLIPPED * pattern + at];
        inside ||= set[at] === i;
      }
      set[size - 1] = i;
      if (!inside && !this.isListed(size, listed, known)) this.addSet(joint, size);
    }
  }

  private isListed(size: number, from: number, to: number): boolean {
    const { members, sizes, set } = this;
    for (let pattern = from; pattern < to; pattern += 1) {
      if (sizes[pattern] !== size) continue;
      let same = true;
      for (let at = 0; at < size && same; at += 1) {
        let found = false;
        for (let other = 0; other < size; other += 1) found ||= members[MOST_SLIPPED * pattern + other] === set[at];
        same = found;
      }
      if (same) return true;
    }
    return false;
  }

  /** Fills `doubtful` with the numbers that fit worst beside all others. @returns how many */
  private findDoubtful(): number {
    const { n, doubtful } = this;
    const { conditional } = this.numbers;
    const most = min(n, PAIRED);
    let count = 0;
    for (let i = 0; i < n; i += 1) {
      const own = conditional[i];
      if (count === most && own >= conditional[doubtful[count - 1]]) continue;
      let at = count < most ? count : count - 1;
      while (at > 0 && own < conditional[doubtful[at - 1]]) {
        doubtful[at] = doubtful[at - 1];
        at -= 1;
      }
      doubtful[at] = i;
      count = min(most, count + 1);
    }
    return count;
  }

  /** Adds the pattern in which the first `size` members of the set slipped. */
  private addSet(joint: number, size: number): void {
    const { n, set, factor, solved } = this;
    const { precision, weighted, shown, otherwise, logNoise } = this.numbers;
    let together = 0;
    let instead = 0;
    for (let row = 0; row < size; row += 1) {
      const i = set[row];
      let projected = weighted[i];
      for (let column = 0; column <= row; column += 1) {
        let value = precision[i * n + set[column]];
        for (let k = 0; k < column; k += 1) value -= factor[row * MOST_SLIPPED + k] * factor[column * MOST_SLIPPED + k];
        if (column === row) {
          const root = Math.sqrt(max(1e-12, value));
          factor[row * MOST_SLIPPED + row] = root;
          solved[row] = projected / root;
          together += shown[i] - 0.5 * (LOG_TWO_PI + logNoise[i] + solved[row] * solved[row]) + log(root);
        } else {
          factor[row * MOST_SLIPPED + column] = value / factor[column * MOST_SLIPPED + column];
          projected -= factor[row * MOST_SLIPPED + column] * solved[column];
        }
      }
      instead += otherwise[i];
    }
    this.add(joint - together + instead + this.numbers.repeats.lift(set, size, this.numbers), size);
  }
}
