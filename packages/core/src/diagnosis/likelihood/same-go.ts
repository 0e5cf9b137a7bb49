import { QUIET_SHARE } from "../../faults";

/** What showed in one value of a go shows in the others of it, and what kept quiet keeps quiet, but for so many. */
const OTHERWISE = 0.02;

/**
 * Whether a fault that shows only under its stimulus showed, for numbers of which some were read in one go: a connector that is moved once moves once for
 * all the values on the screen, so that they all see it or none does.
 */
export class SameGo {
  /** For each number the one before it in the same go; -1 for the first. */
  private readonly before: readonly number[];
  /** For each number whether the fault showed at the cell being weighed: 1 it did, -1 it did not, 0 it could not tell. */
  private readonly showed: Int8Array;

  /** @param goes by number the go it was read in; -1 for one by itself */
  constructor(goes: readonly number[]) {
    this.before = goes.map((go, i) => (go < 0 ? -1 : goes.slice(0, i).lastIndexOf(go)));
    this.showed = new Int8Array(goes.length);
  }

  /** How likely the fault shows in a number, by what the one before it in its go saw. Numbers are asked for in their order. */
  there(i: number): number {
    const before = this.before[i] ?? -1;
    const showed = before < 0 ? 0 : this.showed[before];
    this.showed[i] = 0;
    return showed === 0 ? 1 - QUIET_SHARE : showed > 0 ? 1 - OTHERWISE : OTHERWISE;
  }

  /** Takes down whether it showed in a number. */
  note(i: number, showed: boolean): void {
    this.showed[i] = showed ? 1 : -1;
  }
}
