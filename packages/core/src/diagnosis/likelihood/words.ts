import { QUIET_SHARE } from "../../faults";
import { logAdd } from "../../numeric";
import type { PredictionTable } from "../predictions/table";
import type { Circumstances, Observation } from "./observation";
import { SameSide } from "./same-side";
import { logSlip } from "./slips";

// Taken out of Math once: these run millions of times.
const { exp, log, max } = Math;

const LEAST_LOG = -60;

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

/** Evaluates the readings of words at cells one by one, in storage that is allocated once. */
export class WordWeigher {
  private readonly words: readonly { readonly observation: Observation; readonly index: number }[];
  private readonly slips: readonly number[];
  private readonly sameSide: SameSide;
  /** log P(word) of each at a cell, as they share it. */
  private readonly answers: Float64Array;
  private readonly single: Float64Array;

  constructor(
    observations: readonly Observation[],
    private readonly known: Circumstances,
  ) {
    this.words = observations.map((observation, index) => ({ observation, index })).filter(({ observation }) => observation.number === null);
    this.slips = this.words.map(({ observation }) => logSlip(observation));
    this.sameSide = new SameSide(
      this.words.map(({ observation }) => observation),
      observations,
    );
    this.answers = new Float64Array(this.words.length);
    this.single = new Float64Array(observations.length);
  }

  /** log P(all words | cell), slips allowed for. @param sound observations that see the sound twin for sure; @param into filled for the words alone */
  weigh(cell: number, sound: Uint8Array | null, into: CellEvidence): number {
    const { words, answers, sameSide } = this;
    for (let at = 0; at < words.length; at += 1) {
      const { observation, index } = words[at];
      answers[at] = observation.word < 0 ? 0 : logWord(observation.table, rowAt(cell, observation.table, index, sound), observation.word);
    }
    let sum = this.mixAll(cell, sound, into);
    if (sameSide.any && sameSide.share(answers)) {
      // What each says alone stays what it says alone.
      this.single.set(into.single);
      sum = this.mixAll(cell, sound, into);
      into.single.set(this.single);
    }
    return sum;
  }

  /** Mixes every word with its slips, and with the sound circuit where the fault shows only at times. @returns the sum of their logs */
  private mixAll(cell: number, sound: Uint8Array | null, into: CellEvidence): number {
    const { presence } = this.known;
    let sum = 0;
    for (let at = 0; at < this.words.length; at += 1) {
      const { observation, index } = this.words[at];
      if (observation.word < 0) {
        into.single[index] = 0;
        continue;
      }
      const { table, word } = observation;
      const own = this.answers[at];
      const twin = table.quiet[cell];
      const mixed = twin >= 0 && rowAt(cell, table, index, sound) === cell;
      let clean = own;
      if (presence !== null && mixed) {
        const there = presence[index] ?? 1;
        const away = log(1 - there) + logWord(table, twin, word);
        clean = logAdd(log(there) + own, away);
        into.absent[index] = exp(away - clean);
      } else if (mixed && this.known.sometimes[cell] === 1) {
        clean = logAdd(log(QUIET_SHARE) + logWord(table, twin, word), log(1 - QUIET_SHARE) + own);
      }
      const slip = this.slips[at];
      const both = logAdd(clean, slip);
      sum += both;
      into.slipped[index] = exp(slip - both);
      into.single[index] = both;
    }
    return sum;
  }
}
