import { unitKindOf } from "@fox-lamp/language";
import { type Assignment, elementName, type Situation } from "../../circuit";
import { type Fault, type FaultPart, type FaultVariant, PLAIN_VARIANT } from "../../faults";
import type { HypothesisGrid } from "../hypotheses/grid";

/** One of two faults: a cell of the grid it came from, and the severity it has here. */
export interface Member {
  readonly fault: Fault;
  readonly cell: number;
  /** Ohms or a share; moves away from its cell's as the pair is fitted. */
  readonly severity: number;
}

/** Two faults at once: the first one's severity is the hypothesis' own, the second one's a further variable. */
export interface Pair {
  readonly first: Member;
  readonly second: Member;
}

/** A severity moved by a share of its grid cell's standard deviation. @param spread ln ohms or a share */
export function movedSeverity({ fault, severity }: Member, spread: number, by: number): number {
  if (fault.severity === null) return severity;
  const moved = fault.severity.key === "ohms" ? severity * Math.exp(by * spread) : severity + by * spread;
  return Math.min(fault.severity.high, Math.max(fault.severity.low, moved));
}

/** Fitted severities stand on a lattice of so many steps to a standard deviation of the grid cell: the next reading finds most rows again. */
const STEPS_PER_SPREAD = 4;

/** A member's severity moved by a share of its grid cell's standard deviation, to the nearest step. */
export function steppedSeverity(grid: HypothesisGrid, member: Member, by: number): number {
  const { fault, cell, severity } = member;
  const spread = grid.severitySpread[cell];
  if (fault.severity === null || spread === 0) return severity;
  const origin = grid.severity[cell];
  const away = (fault.severity.key === "ohms" ? Math.log(severity / origin) : severity - origin) / spread;
  return movedSeverity({ ...member, severity: origin }, spread, Math.round((away + by) * STEPS_PER_SPREAD) / STEPS_PER_SPREAD);
}

function variantOf(grid: HypothesisGrid, { cell }: Member): FaultVariant {
  return grid.variant[cell] ?? PLAIN_VARIANT;
}

type Effect = (severity: number, situation: Situation, moment: number, before?: readonly Assignment[]) => readonly Assignment[];

/** The effect of one member in full element names, in the state of its own circuit. */
function effectOf(grid: HypothesisGrid, member: Member, owner: string): Effect {
  const { fault } = member;
  const variant = variantOf(grid, member);
  return (severity, situation, moment, before) => {
    const { beside } = situation;
    const own = fault.circuit === owner ? situation : (beside?.at(fault.circuit) ?? situation);
    const ownMoment = beside === undefined || beside.probed === fault.circuit ? moment : 0;
    return fault.effect(severity, own, variant, ownMoment, before).map((assignment) => {
      const local = fault.circuit === owner || assignment.element.includes("/");
      return local ? assignment : { ...assignment, element: elementName(fault.circuit, assignment.element) };
    });
  };
}

/** Whichever of two faults hangs on the state of its circuit, or else the one with a severity, comes first. */
export function orderedPair(one: Member, other: Member): Pair {
  const swap = other.fault.constant !== one.fault.constant ? one.fault.constant : one.fault.severity === null && other.fault.severity !== null;
  return swap ? { first: other, second: one } : { first: one, second: other };
}

/** Whether a fault lies before another one on the way of the signal: what a sensor makes of a wheel without teeth, not the wheel of a dead sensor. */
function isBefore(one: Fault, other: Fault): boolean {
  return one.circuit === other.circuit && unitKindOf(one.unit) === "outside" && unitKindOf(other.unit) !== "outside";
}

/** What both set: where one lies before the other, that one hands on what it set, and the later word holds. */
function bothOf(earlier: readonly Assignment[], later: (before: readonly Assignment[]) => readonly Assignment[]): readonly Assignment[] {
  const after = later(earlier);
  return [...earlier.filter((set) => !after.some(({ element, field }) => element === set.element && field === set.field)), ...after];
}

/** Two faults as one: both effects at once, named by both units. */
export function mergedFault(grid: HypothesisGrid, { first, second }: Pair): Fault {
  const owner = first.fault.circuit;
  const [one, two] = [effectOf(grid, first, owner), effectOf(grid, second, owner)];
  const spread = grid.severitySpread[second.cell];
  const both = (own: number, other: number, situation: Situation, moment: number): readonly Assignment[] =>
    isBefore(second.fault, first.fault)
      ? bothOf(two(other, situation, moment), (before) => one(own, situation, moment, before))
      : bothOf(one(own, situation, moment), (before) => two(other, situation, moment, isBefore(first.fault, second.fault) ? before : undefined));
  const severities = (given: number) => [
    { member: first, severity: given },
    { member: second, severity: second.severity },
  ];
  const partOf = (member: Member, effect: Effect): FaultPart => ({
    of: member,
    severity: member.severity,
    moved: (share) => movedSeverity(member, grid.severitySpread[member.cell], share),
    effect,
  });
  const constant = first.fault.constant && second.fault.constant;
  const apart = constant && !isBefore(first.fault, second.fault) && !isBefore(second.fault, first.fault);
  const blind = [first, second].find(({ fault }) => fault.scanVolts !== null);
  const rated = [first, second].some(({ fault }) => fault.hertzFactor !== null);
  return {
    id: `${first.fault.id}&${second.fault.id}`,
    unit: `${first.fault.unit}&${second.fault.unit}`,
    circuit: owner,
    kind: "pair",
    title: `${first.fault.title}, and ${second.fault.title}`,
    severity: first.fault.severity,
    prior: first.fault.prior * second.fault.prior,
    matters: true,
    variants: [PLAIN_VARIANT],
    during: null,
    constant,
    effect: (severity, situation, _variant, moment) => both(severity, second.severity, situation, moment),
    nudged: (share, severity, situation, moment) => both(severity, movedSeverity(second, spread, share), situation, moment),
    ...(apart ? { parts: [partOf(first, one), partOf(second, two)] as const } : {}),
    scanVolts: blind === undefined ? null : (severity) => blind.fault.scanVolts?.(blind === first ? severity : blind.severity) ?? 0,
    noticedFrom: null,
    hertzFactor: rated
      ? (given) =>
          severities(given).reduce(
            (product, { member, severity }) => product * (member.fault.hertzFactor?.(severity, variantOf(grid, member).direction) ?? 1),
            1,
          )
      : null,
  };
}

/** Whether two faults can be there together: of two units, both all the time; a true value is no fault. */
export function compatible(a: Fault, b: Fault): boolean {
  return a.unit !== b.unit && a.during === null && b.during === null && a.kind !== "true-value" && b.kind !== "true-value";
}
