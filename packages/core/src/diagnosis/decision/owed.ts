import { membersOf } from "../posterior/involved";
import { REFUTED_LOG, unitBest } from "../posterior/unit-evidence";
import type { WeighedJob } from "../posterior/weighed-job";
import { outlook } from "../value-of-information/possible-tests";
import { rankTests } from "../value-of-information/rank";
import { workDoneOf } from "../value-of-information/work-done";
import type { Challenge } from "./case";
import { LEAST_NAMED, MOST_NEXT, type RankedPart, type Standing } from "./standing";
import { plugOffTests, touchingTests, untouchedPoints } from "./touched";

/**
 * Tests that must be done before the leader may be declared: leads on pins nobody has touched, then what tells it from two faults that
 * look like it.
 */
export function owedTests(weighed: WeighedJob, standing: Standing, challenge: Challenge | null): readonly RankedPart[] {
  const touching = touchingLeader(weighed, standing);
  return touching.length > 0 || challenge === null ? touching : confirmingTests(weighed, standing.group, challenge);
}

/** Tests on pins of the leading unit's circuit that no lead has been on yet, then, of a module, tests with its own plug off. */
function touchingLeader({ joint, numbered, onlyCircuit }: WeighedJob, { posterior, group, possible }: Standing): RankedPart[] {
  if (posterior === null) return [];
  const [leader = ""] = group;
  const pins = untouchedPoints(posterior.inference, leader, numbered, onlyCircuit);
  const own = possible[joint.circuits.indexOf(posterior)] ?? [];
  const touching = pins.size === 0 ? [] : touchingTests(own, pins, posterior.units.length, MOST_NEXT);
  const owed = touching.length > 0 ? touching : plugOffTests(own, leader, numbered, onlyCircuit, posterior.units.length, MOST_NEXT);
  return owed.map((test) => ({ posterior, test }));
}

/** Two faults that weigh less than this beside everything else are no cause to hold anything up: nobody meets that coincidence in a working life. */
const LEAST_SHADOW = 1e-5;
/** A confirming test must tell so much of the leader from pairs that stand in its place, bits, and take no longer than this. */
const CONFIRM_BITS = 0.2;
const CONFIRM_MINUTES = 5;

/**
 * Tests that tell the leading group from what explains the readings as well but by coincidence: another fault at just one severity, or two
 * faults together that look like a third one. Only a reading taken for that shows it. Empty where no quick test would.
 */
function confirmingTests({ clusters, onlyCircuit, job }: WeighedJob, group: readonly string[], { posterior, at }: Challenge): RankedPart[] {
  if (group.length === 0) return [];
  const { units } = posterior.inference.grid;
  const led = units.flatMap((unit, index) => (group.includes(unit) ? [index] : []));
  const best = Math.max(...led.map((unit) => posterior.relative[unit]));
  const alive = (unit: number): boolean => posterior.relative[unit] - best >= REFUTED_LOG;
  const peaks = unitBest(posterior.inference.grid, posterior.evidence.logLikelihood);
  const peak = Math.max(...led.map((unit) => peaks[unit]));
  const shadows = units.flatMap((unit, index) => {
    const members = membersOf(unit);
    if (index === 0 || members.some((member) => group.includes(member))) return [];
    const single = members.length === 1 && posterior.units[index] >= LEAST_NAMED && peaks[index] - peak >= REFUTED_LOG;
    return single || (members.length === 2 && alive(index) && posterior.units[index] >= LEAST_SHADOW) ? [index] : [];
  });
  if (led.length === 0 || shadows.length === 0) return [];
  const scale = new Float64Array(units.length);
  const weightOf = (unit: number): number => Math.max(1e-300, posterior.units[unit]);
  for (const unit of led) scale[unit] = 1 / led.length / weightOf(unit);
  const total = shadows.reduce((sum, unit) => sum + weightOf(unit), 0);
  for (const unit of shadows) scale[unit] = 1 / total;
  const counts = new Set([...led, ...shadows]);
  const work = workDoneOf(clusters[at]?.own ?? [], onlyCircuit, job, new Set(), false, posterior.inference.basis.conditions);
  const { tests } = outlook(posterior, work, (unit) => counts.has(unit));
  const quick = tests.filter(({ minutes }) => minutes <= CONFIRM_MINUTES);
  return rankTests(quick, scale, MOST_NEXT).flatMap((test) => (test.gainBits < CONFIRM_BITS ? [] : [{ posterior, test }]));
}
