import type { Diagnosis } from "@fox-lamp/language";
import type { RankedTest } from "./advice";
import type { Case } from "./case";
import { involvedUnits, pairShare } from "./involved";
import type { CircuitPosterior, JointPosterior } from "./posterior";
import { isIntermittent, type RankedPart, type Standing } from "./standing";
import { DECLARE } from "./verdict";

/** Expected number of slipped readings from which the readings contradict one another. */
const CONTRADICTION = 1.6;
/** What a wrong verdict costs: the part, the time, the comeback, in minutes of work. */
export const WRONG_MINUTES = 50;
/** What it costs to send a car home with its fault unfound, in minutes of work: it comes back, and everything is done again. */
const MISSED_MINUTES = 110;
/** With every rival refuted and no test left that would tell more, a verdict or a sound circuit may be declared from here. */
const DECLARE_EXHAUSTED = 0.9;
/** Nothing wrong may be said from here when no test is worth its time any more; what was not refuted is named as not excluded. */
const SOUND = 0.9;
const SOUND_EXHAUSTED = 0.75;

/** What is still uncertain about the unit, bits (never quite nothing). */
function entropyBits(joint: JointPosterior): number {
  const shares = [joint.healthy, ...joint.circuits.flatMap(({ units }) => [...units.slice(1)])];
  return shares.reduce((sum, share) => (share > 0 ? sum - share * Math.log2(share) : sum), 1e-6);
}

/** Probability that the circuit is sound and the value true but abnormal. */
function outsideWeight(joint: JointPosterior): number {
  return joint.circuits.reduce(
    (sum, { engine, units }) => sum + engine.points.units.reduce((own, unit, at) => own + (unit.endsWith("/outside") ? (units[at] as number) : 0), 0),
    0,
  );
}

/** Probability of all units that may hold a fault which shows only at times. */
function quietWeight(posterior: CircuitPosterior): number {
  let sum = 0;
  for (let fault = 1; fault < posterior.faults.length; fault += 1) {
    if ((posterior.engine.points.faults[fault]?.during ?? null) !== null) sum += posterior.faults[fault] as number;
  }
  return sum;
}

/** What a verdict now would risk, and whether the next test is worth more than that. */
export interface Stake {
  /** Probability that the verdict is right. */
  readonly sure: number;
  /** Minutes of work lost on average by declaring now. */
  readonly riskMinutes: number;
  /** Whether some test takes fewer minutes than it saves. */
  readonly worthMore: boolean;
}

/** Whether what leads says that the circuits themselves are sound: nothing wrong, or a true value. */
function isSound({ posterior, group }: Standing): boolean {
  return posterior === null || (group[0] ?? "").endsWith("/outside");
}

/**
 * Minutes of work that a test saves on average on a circuit that looks sound: after each of its outcomes either the car goes home, or what
 * then leads is condemned, whichever risks less.
 */
function savedMinutes({ engine }: CircuitPosterior, { outcomes }: RankedTest, riskMinutes: number): number {
  const { members, mass, width } = outcomes;
  let all = 0;
  let after = 0;
  for (let column = 0; column < width; column += 1) {
    let total = 0;
    let sound = 0;
    let leader = 0;
    members.forEach((unit, row) => {
      const share = mass[row * width + column] as number;
      total += share;
      if (unit === 0 || (engine.points.units[unit] ?? "").endsWith("/outside")) sound += share;
      else leader = Math.max(leader, share);
    });
    all += total;
    after += Math.min((total - sound) * MISSED_MINUTES, (total - leader) * WRONG_MINUTES);
  }
  return all === 0 ? 0 : riskMinutes - after / all;
}

/** The stake of declaring what leads now. */
export function stakeOf({ joint }: Case, standing: Standing): Stake {
  const { groupProbability, tests } = standing;
  const soundCircuit = isSound(standing);
  const sure = soundCircuit ? joint.healthy + outsideWeight(joint) : groupProbability;
  const riskMinutes = (1 - sure) * (soundCircuit ? MISSED_MINUTES : WRONG_MINUTES);
  const doubtBits = entropyBits(joint);
  const worthMore = tests.some(
    ({ posterior, test }) =>
      riskMinutes * Math.min(1, test.gainBits / doubtBits) > test.minutes || (soundCircuit && savedMinutes(posterior, test, riskMinutes) > test.minutes),
  );
  return { sure, riskMinutes, worthMore };
}

/** What may be declared: proven, nothing found, contradiction; else the search goes on, as it does while a test is owed. */
export function statusOf(opened: Case, standing: Standing, stake: Stake): Diagnosis["verdict"]["status"] {
  const status = bareStatus(opened, standing, stake);
  return status === "proven" && standing.owed().length > 0 ? "narrowing" : status;
}

/** What could be done now, the best first: before a leader is declared, what is owed for that. */
export function testsNow(opened: Case, standing: Standing, stake: Stake): readonly RankedPart[] {
  const owed = bareStatus(opened, standing, stake) === "proven" ? standing.owed() : [];
  return owed.length > 0 ? owed : standing.tests;
}

/** {@link statusOf} as if nothing were owed. */
export function bareStatus(opened: Case, standing: Standing, stake: Stake): Diagnosis["verdict"]["status"] {
  const { joint, slips } = opened;
  const { posterior, groupProbability, open, tests } = standing;
  const expectedSlips = slips.reduce((sum, { probability }) => sum + (probability > 0.2 ? probability : 0), 0);
  if (expectedSlips >= CONTRADICTION) return "contradiction";
  const soundCircuit = isSound(standing);
  const exhausted = tests.length === 0;
  if (!soundCircuit && pairShare(joint) > 0.5) {
    const sure = involvedUnits(joint)[0]?.probability ?? 0;
    return sure >= DECLARE || (exhausted && sure >= DECLARE_EXHAUSTED) ? "proven" : "narrowing";
  }
  const quietFaults = joint.circuits.reduce((sum, part) => sum + quietWeight(part), 0);
  if (soundCircuit && posterior === null) {
    if (stake.worthMore) return "narrowing";
    return stake.sure + quietFaults >= SOUND || (exhausted && stake.sure >= SOUND_EXHAUSTED) ? "nothing-found" : "narrowing";
  }
  const blocking = open.filter(
    (rival) => !(soundCircuit && (rival.unit === "" || rival.unit.endsWith("/outside") || isIntermittent(rival.posterior, rival.index))),
  );
  if (blocking.length > 0) return "narrowing";
  if (!soundCircuit) return (groupProbability >= DECLARE && !stake.worthMore) || (exhausted && groupProbability >= DECLARE_EXHAUSTED) ? "proven" : "narrowing";
  if (stake.worthMore || (stake.sure + quietFaults < DECLARE && !(exhausted && stake.sure >= SOUND_EXHAUSTED))) return "narrowing";
  return open.every(({ unit }) => unit !== "") ? "proven" : "nothing-found";
}
