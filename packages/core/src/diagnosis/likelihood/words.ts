import { QUIET_SHARE } from "../../faults";
import { logAdd, logSumExp } from "../../numeric";
import type { PredictionTable } from "../predictions/table";
import type { Circumstances, Observation } from "./observation";
import { logSlip } from "./slips";

// Taken out of Math once: these run millions of times.
const { abs, exp, log, max } = Math;

const NEVER = Number.NEGATIVE_INFINITY;
const LEAST_LOG = -60;
/** Log probabilities this near are the same. */
const SAME_LOG = 1e-9;

/** What one evaluation of a cell says of its observations. */
export interface CellEvidence {
  readonly slipped: Float64Array;
  readonly absent: Float64Array;
  readonly single: Float64Array;
}

/** The row an observation sees at a cell: the sound twin's where it sees that for sure. */
export function rowAt(cell: number, { quiet }: PredictionTable, index: number, sound: Uint8Array | null): number {
  if (sound === null || sound[index] === 0) return cell;
  const twin = quiet[cell];
  return twin < 0 ? cell : twin;
}

/** Log probability of a word at a cell; on the brink of starving it is a mixture of both states. */
function logWord(table: PredictionTable, cell: number, word: number): number {
  const count = table.wordNames.length;
  const own = table.words[table.slot[cell] * count + word];
  const brink = table.brinks?.get(cell);
  const share = brink === undefined ? own : (1 - brink.share) * own + brink.share * table.words[brink.slot * count + word];
  return max(LEAST_LOG, log(share + 1e-30));
}

/**
 * Whether a module hears a ring hangs on how hard this part rings, which the model does not draw for words. So often the part is well above or below
 * what is heard, and the same test shows the same word each time; else it is near, and every test falls as it likes.
 */
const HELD_SHARE = 0.8;
const [LOG_HELD, LOG_FREE] = [log(HELD_SHARE), log(1 - HELD_SHARE)];

/** What makes readings of rings the same test, whatever was moved meanwhile; null for any other word. */
function ringTest({ table: { probe } }: Observation): string | null {
  if (probe.kind !== "electrical" || probe.unit !== "taps") return null;
  const { key, open = [], add = [], stimulus } = probe.setup;
  return JSON.stringify([probe.circuit.id, probe.red, key, stimulus?.kind === "tap", [...open].sort(), add]);
}

/** Readings of words that are the same test, two of them at least: their places among the words, in order. */
function repeatedTests(words: readonly { readonly observation: Observation }[]): readonly (readonly number[])[] {
  const byTest = new Map<string, number[]>();
  words.forEach(({ observation }, at) => {
    const test = observation.word < 0 ? null : ringTest(observation);
    if (test !== null) byTest.set(test, [...(byTest.get(test) ?? []), at]);
  });
  return [...byTest.values()].filter((test) => test.length > 1);
}

/** Evaluates the readings of words at cells one by one, in storage that is allocated once. */
export class WordWeigher {
  private readonly words: readonly { readonly observation: Observation; readonly index: number }[];
  private readonly repeated: readonly (readonly number[])[];
  private readonly inRepeated: Uint8Array;
  private readonly slips: readonly number[];
  /** Of each word: the row a part's ring is drawn from, log share and log probability of that row, and log probability of the word without it. */
  private readonly rows: Int32Array;
  private readonly drawn: Float64Array;
  private readonly shares: Float64Array;
  private readonly others: Float64Array;

  constructor(
    observations: readonly Observation[],
    private readonly known: Circumstances,
  ) {
    this.words = observations.map((observation, index) => ({ observation, index })).filter(({ observation }) => observation.number === null);
    this.repeated = repeatedTests(this.words);
    this.inRepeated = new Uint8Array(this.words.length);
    for (const at of this.repeated.flat()) this.inRepeated[at] = 1;
    this.slips = this.words.map(({ observation }) => logSlip(observation));
    this.rows = new Int32Array(this.words.length);
    [this.drawn, this.shares, this.others] = [0, 1, 2].map(() => new Float64Array(this.words.length));
  }

  /** log P(all words | cell), slips allowed for. @param sound observations that see the sound twin for sure; @param into filled for the words alone */
  weigh(cell: number, sound: Uint8Array | null, into: CellEvidence): number {
    const { presence } = this.known;
    let sum = 0;
    for (let at = 0; at < this.words.length; at += 1) {
      const { observation, index } = this.words[at];
      if (observation.word < 0) {
        into.single[index] = 0;
        continue;
      }
      const { table, word } = observation;
      const row = rowAt(cell, observation.table, index, sound);
      const own = logWord(table, row, word);
      const twin = table.quiet[cell];
      const mixed = twin >= 0 && row === cell;
      let [drawn, share, other] = [own, 0, NEVER];
      if (presence !== null && mixed) {
        const there = presence[index] ?? 1;
        [drawn, share, other] = [logWord(table, twin, word), log(1 - there), log(there) + own];
      } else if (mixed && this.known.sometimes[cell] === 1) {
        [drawn, share, other] = [logWord(table, twin, word), log(QUIET_SHARE), log(1 - QUIET_SHARE) + own];
      }
      const clean = logAdd(share + drawn, other);
      if (presence !== null && mixed) into.absent[index] = exp(share + drawn - clean);
      const slip = this.slips[at];
      if (this.inRepeated[at] === 1) {
        this.rows[at] = other === NEVER ? row : twin;
        [this.drawn[at], this.shares[at], this.others[at]] = [drawn, share, logAdd(other, slip)];
        continue;
      }
      const both = logAdd(clean, slip);
      sum += both;
      into.slipped[index] = exp(slip - both);
      into.single[index] = both;
    }
    for (const test of this.repeated) sum += this.weighRepeated(test, into);
    return sum;
  }

  /**
   * log P(the words of one test, done several times | cell): the part rings the same each time, or every time is drawn anew. Where what was moved
   * changes what the cell says, the times have nothing in common.
   */
  private weighRepeated(test: readonly number[], into: CellEvidence): number {
    const { table } = this.words[test[0]].observation;
    const row = this.rows[test[0]];
    const held = table.wordNames.map((_, word) => logWord(table, row, word));
    const alike = test.every((at) => abs(this.drawn[at] - held[this.words[at].observation.word]) < SAME_LOG);
    // Each word the part may hold to, then no word: every time anew.
    const branches = alike ? [...held.map((word) => LOG_HELD + word), LOG_FREE] : [0];
    const free = branches.length - 1;
    const terms = test.map((at) => {
      const shown = logAdd(this.shares[at] + this.drawn[at], this.others[at]);
      const { word } = this.words[at].observation;
      return branches.map((_, branch) => (branch === free ? shown : branch === word ? logAdd(this.shares[at], this.others[at]) : this.others[at]));
    });
    const sums = [...branches];
    let before = 0;
    terms.forEach((term, place) => {
      term.forEach((one, branch) => {
        sums[branch] += one;
      });
      const upTo = logSumExp(sums);
      into.single[this.words[test[place]].index] = upTo - before;
      before = upTo;
    });
    terms.forEach((term, place) => {
      const at = test[place];
      into.slipped[this.words[at].index] = term.reduce((share, one, branch) => share + exp(sums[branch] - before + this.slips[at] - one), 0);
    });
    return before;
  }
}
