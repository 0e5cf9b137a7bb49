import { type Diagnosis, type Setup, unitKindOf } from "@fox-lamp/language";
import { involvedUnits, pairShare } from "../posterior/involved";
import type { CircuitPosterior } from "../posterior/posterior";
import { isSeenOnly } from "../posterior/seen-only";
import { DECLARE } from "../posterior/unit-evidence";
import { comesAndGoes, type WeighedJob } from "../posterior/weighed-job";
import { overtakenIn } from "./overtaken";
import { isOutside, isSound, type Stake } from "./stake";
import { isIntermittent, type Standing } from "./standing";

export type Status = Diagnosis["verdict"]["status"];

/** Expected number of slipped readings from which the readings contradict one another. */
const CONTRADICTION = 1.6;
/**
 * With no test left that would tell more, a verdict may be declared from here: what has to be replaced, and what is cleaned, tightened or
 * spliced in minutes, after which the car itself says whether it was that.
 */
const DECLARE_EXHAUSTED = 0.9;
const MEND_EXHAUSTED = 0.85;
const MENDED: readonly (string | null)[] = ["contact", "contacts", "wire", "ground"];

/** {@link DECLARE_EXHAUSTED} of a group of units. */
function declaredFrom(group: readonly string[]): number {
  return group.length > 0 && group.every((unit) => MENDED.includes(unitKindOf(unit))) ? MEND_EXHAUSTED : DECLARE_EXHAUSTED;
}

/** Nothing wrong may be said from here when no test is worth its time any more; what was not refuted is named as not excluded. */
const SOUND = 0.9;
const SOUND_EXHAUSTED = 0.75;

/** Probability of all units that may hold a fault which shows only at times. */
function quietWeight(posterior: CircuitPosterior): number {
  let sum = 0;
  for (let fault = 1; fault < posterior.faults.length; fault += 1) {
    if ((posterior.inference.grid.faults[fault]?.during ?? null) !== null) sum += posterior.faults[fault];
  }
  return sum;
}

/** Probability of faults too slight for anybody to have noticed: nobody came for one of them. */
function slightWeight({ inference: { grid }, weights }: CircuitPosterior): number {
  let sum = 0;
  for (let cell = 0; cell < grid.count; cell += 1) {
    const from = grid.faults[grid.fault[cell]]?.noticedFrom ?? null;
    if (from !== null && grid.severity[cell] < from) sum += weights[cell];
  }
  return sum;
}

/** With no test left, a sound circuit of this probability which no reading refutes ends the search; of this one with none left that is worth its minutes. */
const SOUND_LEFT = 0.15;
const SOUND_SPENT = 0.85;
/** Beside a leader a sound circuit must be so likely against it: nobody found nothing who saw a line open once. */
const SOUND_BESIDE = 0.4;

/** After so many readings it ends as well where what is left shows only at times or is too slight to have been noticed; it is named as not excluded. */
const LONG_TRIED = 18;
const SOUND_LONG = 0.5;
const SOUND_UNSEEN = 0.85;
/** After still more, where a sound circuit leads by less: a connector that looked bad without doing anything is cleaned and named, not measured for ever. */
const LONGER_TRIED = 22;
const SOUND_LONGER = 0.35;
const SOUND_LED = 0.65;

/** From so many readings on nobody waits for the last tests before a leader is declared. */
const LAST_TRIED = 24;

/** Without the complaint nobody goes on after so many readings. */
const MOST_TRIED = 30;

/** The place a setup moves; null where it moves none. */
function movedIn(setup: Setup | undefined): string | null {
  return setup?.stimulus?.kind === "wiggle" ? (setup.stimulus.at ?? null) : null;
}

/** The readings favour no unit over a sound car by more than this, in logarithms. */
const SHOWN_LOG = Math.log(3);

/**
 * Whether a fault that comes and goes did not come: no reading speaks for anybody, and every place that can be moved has been moved, nothing is
 * left to do, or more has been tried than anybody pays for. What was not cleared stays open.
 */
export function isNotReproduced({ job, joint, numbered }: WeighedJob, { possible, tests }: Standing): boolean {
  if (!comesAndGoes(job) || numbered.length === 0) return false;
  if (joint.circuits.some(({ relative }) => relative.some((value) => value > SHOWN_LOG))) return false;
  if (tests.length === 0 || numbered.length >= MOST_TRIED) return true;
  const moved = new Set(numbered.map(({ reading }) => movedIn(reading.setup)).filter((place) => place !== null));
  const left = possible.flat().some(({ offered: { procedure } }) => {
    const place = movedIn(procedure.setup);
    return place !== null && !moved.has(place);
  });
  return moved.size > 0 && !left;
}

/** What may be declared, were no test owed: proven, nothing found, contradiction; else the search goes on. */
export function bareStatus(weighed: WeighedJob, standing: Standing, stake: Stake): Status {
  const { joint, doubts, numbered } = weighed;
  // What was found before neither proves nor hinders: the readings say it under the documented priors.
  const { posterior, sober: sure, open, tests, group } = standing;
  const left = declaredFrom(group);
  const unknown = Math.max(...joint.circuits.filter((part) => posterior === null || part === posterior).map((part) => part.unknown));
  if (unknown > 0.5) return "unknown-fault";
  const among = doubts.filter((doubt) => posterior === null || doubt.posterior === posterior);
  const corrected = overtakenIn(weighed);
  const expectedSlips = among.reduce((sum, { id, probability }) => sum + (probability > 0.2 && !corrected.has(id) ? probability : 0), 0);
  if (expectedSlips >= CONTRADICTION) return "contradiction";
  if (isNotReproduced(weighed, standing)) return "nothing-found";
  const soundCircuit = isSound(standing);
  const exhausted = tests.length === 0;
  if (!soundCircuit && pairShare(joint) > 0.5) {
    const both = involvedUnits(joint)[0]?.probability ?? 0;
    return both >= DECLARE || (exhausted && both >= DECLARE_EXHAUSTED) ? "proven" : "narrowing";
  }
  const quietFaults = joint.circuits.reduce((sum, part) => sum + quietWeight(part), 0);
  if (soundCircuit && posterior === null) {
    const slight = joint.circuits.reduce((sum, part) => sum + slightWeight(part), 0);
    const tried = numbered.length;
    const least = tried >= LONGER_TRIED ? SOUND_LONGER : SOUND_LONG;
    const unseen = tried >= LONG_TRIED && stake.sure >= least && stake.sure + quietFaults + slight >= SOUND_UNSEEN;
    const led = tried >= LONGER_TRIED && stake.sure >= SOUND_LED;
    // Another sweep of a minute, or a plug nobody has moved yet, is still worth it.
    const longTried = led || (unseen && tried >= LONGER_TRIED);
    if (longTried && (tried >= MOST_TRIED || !stake.worthMuch())) return "nothing-found";
    if (stake.worthMore) return "narrowing";
    const spent = unseen || stake.sure >= (exhausted ? SOUND_LEFT : SOUND_SPENT);
    return stake.sure + quietFaults >= SOUND || spent ? "nothing-found" : "narrowing";
  }
  const blocking = open.filter((rival) => !(soundCircuit && (rival.unit === "" || isOutside(rival.unit) || isIntermittent(rival.posterior, rival.index))));
  // Nor do they speak against a sound circuit: somebody only leads, and what leads is named as not excluded.
  const soundLeft = Math.max(SOUND_LEFT, SOUND_BESIDE * sure);
  if (exhausted && !soundCircuit && sure < left && joint.healthy >= soundLeft && blocking.some(({ unit }) => unit === "")) return "nothing-found";
  // With no test left what no reading refutes is named as not excluded, where it weighs little.
  const last = exhausted || numbered.length >= LAST_TRIED;
  // What was seen alone condemns nobody: it is named, and cleaned, and the car is as sound as it measures.
  if (last && !soundCircuit && posterior !== null && sure < DECLARE && isSeenOnly(posterior, group)) return "nothing-found";
  const enough = last && sure >= left;
  if (blocking.length > 0 && !(enough && !soundCircuit)) return "narrowing";
  if (!soundCircuit) return (sure >= DECLARE && !stake.worthMore) || enough ? "proven" : "narrowing";
  if (stake.worthMore || (stake.sure + quietFaults < DECLARE && !(exhausted && stake.sure >= SOUND_EXHAUSTED))) return "narrowing";
  // Of a circuit that is sound either way, the true value is named where it is that likely, though no reading refutes that nothing is wrong.
  return open.every(({ unit }) => unit !== "") || sure >= DECLARE_EXHAUSTED ? "proven" : "nothing-found";
}
