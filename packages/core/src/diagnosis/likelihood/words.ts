import { QUIET_SHARE } from "../../faults";
import { logAdd } from "../../numeric";
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
 * Whether a module hears a ring hangs on how hard this part rings, which the model does not draw for words: what was heard once, or not, is so again
 * this often. Seeing it three times says little more of the part than seeing it once.
 */
const SHOWN_AGAIN = 0.5;

/** What makes readings of rings the same test, whatever was moved meanwhile; null for any other word. */
function ringTest({ table: { probe } }: Observation): string | null {
  if (probe.kind !== "electrical" || probe.unit !== "taps") return null;
  const { key, open = [], add = [], stimulus } = probe.setup;
  return JSON.stringify([probe.circuit.id, probe.red, key, stimulus?.kind === "tap", [...open].sort(), add]);
}

/** For each reading of a word its place among those before it that showed the same word in the same test; 0 for the first. */
function repetitions(words: readonly { readonly observation: Observation }[]): { readonly before: Int32Array; readonly times: Int32Array } {
  const last = new Map<string, number>();
  const [before, times] = [new Int32Array(words.length).fill(-1), new Int32Array(words.length)];
  words.forEach(({ observation }, at) => {
    const test = observation.word < 0 ? null : ringTest(observation);
    if (test === null) return;
    const key = `${observation.word} ${test}`;
    const earlier = last.get(key);
    if (earlier !== undefined) {
      before[at] = earlier;
      times[at] = times[earlier] + 1;
    }
    last.set(key, at);
  });
  return { before, times };
}

/** Evaluates the readings of words at cells one by one, in storage that is allocated once. */
export class WordWeigher {
  private readonly words: readonly { readonly observation: Observation; readonly index: number }[];
  private readonly again: { readonly before: Int32Array; readonly times: Int32Array };
  /** Log probability of each word by the cell, slips left out. */
  private readonly cleans: Float64Array;
  private readonly slips: readonly number[];

  constructor(
    observations: readonly Observation[],
    private readonly known: Circumstances,
  ) {
    this.words = observations.map((observation, index) => ({ observation, index })).filter(({ observation }) => observation.number === null);
    this.again = repetitions(this.words);
    this.cleans = new Float64Array(this.words.length);
    this.slips = this.words.map(({ observation }) => logSlip(observation));
  }

  /** log P(all words | cell), slips allowed for. @param sound observations that see the sound twin for sure; @param into filled for the words alone */
  weigh(cell: number, sound: Uint8Array | null, into: CellEvidence): number {
    const { presence } = this.known;
    let sum = 0;
    const { before, times } = this.again;
    for (let at = 0; at < this.words.length; at += 1) {
      const { observation, index } = this.words[at];
      this.cleans[at] = NEVER;
      if (observation.word < 0) {
        into.single[index] = 0;
        continue;
      }
      const { table, word } = observation;
      const row = rowAt(cell, observation.table, index, sound);
      let clean = logWord(table, row, word);
      const twin = table.quiet[cell];
      if (presence !== null && twin >= 0 && row === cell) {
        const there = presence[index] ?? 1;
        const quiet = log(1 - there) + logWord(table, twin, word);
        clean = logAdd(log(there) + clean, quiet);
        into.absent[index] = exp(quiet - clean);
      } else if (twin >= 0 && row === cell && this.known.sometimes[cell] === 1) {
        clean = logAdd(log(1 - QUIET_SHARE) + clean, log(QUIET_SHARE) + logWord(table, twin, word));
      }
      const slip = this.slips[at];
      this.cleans[at] = clean;
      const earlier = before[at];
      if (earlier >= 0 && clean < 0 && abs(this.cleans[earlier] - clean) < SAME_LOG) {
        sum += this.weighAgain(clean, slip, times[at], index, into);
        continue;
      }
      const both = logAdd(clean, slip);
      sum += both;
      into.slipped[index] = exp(slip - both);
      into.single[index] = both;
    }
    return sum;
  }

  /**
   * log P(a word is shown once more | cell, it was shown `times` before): either the first was no slip, and then it is likely shown again, or it was
   * one, and then this is another or the word after all. @param clean its log probability by the cell, the same each time
   */
  private weighAgain(clean: number, slip: number, times: number, index: number, into: CellEvidence): number {
    const shown = log(SHOWN_AGAIN + (1 - SHOWN_AGAIN) * exp(clean));
    const [again, anew] = [logAdd(shown, slip), logAdd(clean, slip)];
    const upTo = (count: number): number => logAdd(clean + count * again, slip + count * anew);
    const share = upTo(times) - upTo(times - 1);
    const first = exp(clean + times * again - upTo(times));
    into.slipped[index] = first * exp(slip - again) + (1 - first) * exp(slip - anew);
    into.single[index] = share;
    return share;
  }
}
