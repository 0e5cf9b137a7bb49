import { logAdd } from "../../numeric";
import type { Observation } from "./observation";

const { exp, log, max, min } = Math;

/** One number speaks for a state by so much at most, log likelihood: it may be slipped. */
const MOST_SAID = 8;

/**
 * Electronics on the brink work or starve, but do one of the two for as long as the key stands alike: a lowest level of a sensor that works and a
 * highest of one that starves are no recording of any car. Which of the two it is, all numbers of such moments say together.
 */
export class BrinkStates {
  /** Numbers read with the key alike share a group. */
  private readonly groupOf: readonly number[];
  /** By group: what its numbers say for the other state, log likelihood, then log P(other state). */
  private readonly other: Float64Array;
  private readonly shares: Float64Array;
  private readonly counts: Int32Array;

  /** @param observations the numbers, in the order they are asked for */
  constructor(private readonly observations: readonly Observation[]) {
    const keys = observations.map(({ table: { probe } }) => ("setup" in probe ? (probe.setup.key ?? "on") : ""));
    const names = [...new Set(keys)];
    this.groupOf = keys.map((key) => names.indexOf(key));
    this.other = new Float64Array(names.length);
    this.shares = new Float64Array(names.length);
    this.counts = new Int32Array(names.length);
  }

  /**
   * Weighs the state that was solved against the other one, for a cell.
   *
   * @param rowOf row of a number at the cell
   * @param logAlone log P(number | slot of a row) alone
   * @returns log of by how much both states together are likelier than the likelier one alone; 0 where nothing stands on the brink
   */
  settle(rowOf: (i: number) => number, logAlone: (i: number, row: number, slot: number) => number): number {
    const { observations, groupOf, other, shares, counts } = this;
    counts.fill(0);
    if (observations.every(({ table: { brinks } }) => brinks === null)) return 0;
    other.fill(0);
    shares.fill(0);
    observations.forEach((observation, i) => {
      const row = rowOf(i);
      const { slot, brinks } = observation.table;
      const brink = brinks?.get(row);
      if (brink === undefined) return;
      const group = groupOf[i];
      const said = logAlone(i, row, brink.slot) - logAlone(i, row, slot[row]);
      other[group] += max(-MOST_SAID, min(MOST_SAID, said));
      shares[group] += brink.share;
      counts[group] += 1;
    });
    let factor = 0;
    for (let group = 0; group < counts.length; group += 1) {
      if (counts[group] === 0) continue;
      const share = shares[group] / counts[group];
      const [one, two] = [log(1 - share), log(share) + other[group]];
      const both = logAdd(one, two);
      factor += two > one ? both - other[group] : both;
      other[group] = two - both;
    }
    return factor;
  }

  /** P(the other state than the one that was solved, while a number was read); 0 where nothing stands on the brink then. */
  otherShare(i: number): number {
    const group = this.groupOf[i];
    return this.counts[group] === 0 ? 0 : exp(this.other[group]);
  }
}
