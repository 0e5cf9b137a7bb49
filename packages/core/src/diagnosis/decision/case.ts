import type { CircuitPosterior } from "../posterior/posterior";
import type { WeighedJob } from "../posterior/weighed-job";
import type { Fit } from "./fit";
import type { HangsOn } from "./kinds";
import type { Stake } from "./stake";
import type { RankedPart, Standing } from "./standing";

/** The circuits of the leading unit weighed once more with pairs of faults beside the single ones. */
export interface Challenge {
  /** Place of the circuits among the job's clusters. */
  readonly at: number;
  readonly posterior: CircuitPosterior;
}

/** A weighed job with where it stands; what takes time is worked out when it is first asked for. */
export interface Case extends WeighedJob {
  /** What two faults could do instead of the one that leads; null while none is about to be declared, and where two already count. */
  readonly challenge: Challenge | null;
  readonly standing: () => Standing;
  readonly stake: () => Stake;
  /** Tests that must be done before the leader may be declared, though they would tell little; empty when none are left. */
  readonly owed: () => readonly RankedPart[];
  /** How well the readings together fit the leader; null where that cannot be said. */
  readonly fit: () => Fit | null;
  /** What the leader's sheets leave out that would change the verdict. */
  readonly hangs: () => readonly HangsOn[];
}
