import { isOfCode } from "../inference/code-evidence";
import type { Observation } from "../likelihood/observation";
import { SLIP_SHARE } from "../likelihood/slips";
import { weighCells } from "../likelihood/weigh";
import { type CircuitPosterior, slipProbability } from "./posterior";
import { REFUTED_LOG, unitSingle } from "./unit-evidence";

/** A reading that slipped with this probability clears nothing. */
const DOUBTED = 0.5;
/** What one reading says by itself is averaged in another order when it is weighed anew: so far from the edge it makes no difference. */
const CLEARLY_REFUTED_LOG = REFUTED_LOG - 0.2;
/** More readings than this together are no argument anybody follows. */
const MOST_TOGETHER = 6;

/** Readings that may clear somebody, each with all it says: neither codes nor what is in doubt, which is in doubt as a whole. */
function witnesses(posterior: CircuitPosterior): number[][] {
  const groups = new Map<string, number[]>();
  posterior.observations.forEach((observation, index) => {
    if (!isOfCode(observation) && !observation.id.includes(" ")) groups.set(observation.id, [...(groups.get(observation.id) ?? []), index]);
  });
  return [...groups.values()].filter((group) => group.every((index) => slipProbability(posterior, index) < DOUBTED));
}

/** log of the mean likelihood of each of a unit's faults under some readings; the best of them. */
function evidenceOf({ inference: { grid } }: CircuitPosterior, unit: number, cells: readonly number[], logs: Float64Array): number {
  const sums = new Map<number, { top: number; joint: number; prior: number }>();
  cells.forEach((cell, at) => {
    if (grid.unitOfFault[grid.fault[cell]] !== unit) return;
    const sum = sums.get(grid.fault[cell]) ?? { top: Number.NEGATIVE_INFINITY, joint: 0, prior: 0 };
    const value = logs[at];
    const top = Math.max(sum.top, value);
    sums.set(grid.fault[cell], {
      top,
      joint: sum.joint * Math.exp(sum.top - top) + grid.prior[cell] * Math.exp(value - top),
      prior: sum.prior + grid.prior[cell],
    });
  });
  return Math.max(...[...sums.values()].map(({ top, joint, prior }) => top + Math.log(joint / prior)));
}

/** A reading by itself: that it was taken twice, and stands for that reason, is not part of what it says alone. */
function byItself(observation: Observation): Observation {
  const { slipShare = SLIP_SHARE, table } = observation;
  return table.probe.kind === "electrical" && slipShare < SLIP_SHARE ? { ...observation, slipShare: SLIP_SHARE } : observation;
}

/** What clears units of one set of circuits against whoever leads there. */
export class Clearing {
  private readonly groups: readonly (readonly number[])[];
  private readonly singles: readonly Float64Array[];
  private readonly plain: boolean;
  private readonly alone: readonly Observation[];

  /** @param leader the unit that leads, or 0 where these circuits are sound */
  constructor(
    private readonly posterior: CircuitPosterior,
    private readonly leader: number,
  ) {
    const { inference, evidence, observations } = posterior;
    this.groups = witnesses(posterior);
    this.plain = posterior.known.presence === null && posterior.known.after.length === 0;
    this.alone = observations.map(byItself);
    this.singles = observations.map((_, index) => unitSingle(inference.grid, evidence.single, observations.length, index));
  }

  /** log P(some readings | unit) - log P(the same | leader), by themselves. */
  private against(unit: number, chosen: readonly number[]): number {
    const { inference, known } = this.posterior;
    const { grid, columns } = inference;
    const cells: number[] = [];
    for (let cell = 0; cell < grid.count; cell += 1) {
      const own = grid.unitOfFault[grid.fault[cell]];
      if (own === unit || own === this.leader) cells.push(cell);
    }
    const logs = weighCells(this.alone, chosen, cells, columns.count, known);
    return evidenceOf(this.posterior, unit, cells, logs) - evidenceOf(this.posterior, this.leader, cells, logs);
  }

  /**
   * The fewest readings found that by themselves, with the unit and the leader equally likely before, separate the two twenty to one.
   * @returns ids of observations, the strongest first; null where no readings do: then nobody may say that the unit is cleared
   */
  by(unit: number): string[] | null {
    const { observations } = this.posterior;
    const order = this.groups
      .map((group) => ({ group, log: group.reduce((sum, index) => sum + this.singles[index][unit] - this.singles[index][this.leader], 0) }))
      .sort((a, b) => a.log - b.log);
    const [first] = order;
    if (first === undefined || first.log >= 0) return null;
    const [only, ...more] = first.group;
    // What one observation says by itself was weighed before, but for contacts that unplugging may have cured; on the edge it is weighed anew.
    const known = this.plain && more.length === 0 && this.alone[only] === observations[only];
    if (known && first.log <= CLEARLY_REFUTED_LOG) return [observations[only].id];
    let chosen = [first.group];
    let reached = this.against(unit, chosen.flat());
    for (const { group, log } of order.slice(1, MOST_TOGETHER)) {
      if (reached <= REFUTED_LOG || log >= 0) break;
      const wider = [...chosen, group];
      const together = this.against(unit, wider.flat());
      if (together >= reached) continue;
      chosen = wider;
      reached = together;
    }
    if (reached > REFUTED_LOG) return null;
    for (const group of [...chosen].reverse()) {
      const fewer = chosen.filter((other) => other !== group);
      if (fewer.length > 0 && this.against(unit, fewer.flat()) <= REFUTED_LOG) chosen = fewer;
    }
    return chosen.map(([index]) => observations[index].id);
  }
}
