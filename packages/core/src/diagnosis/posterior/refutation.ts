import { isOfCode } from "../inference/code-evidence";
import { weighCells } from "../likelihood/weigh";
import { type CircuitPosterior, slipProbability } from "./posterior";
import { REFUTED_LOG, unitSingle } from "./unit-evidence";

/** A reading that slipped with this probability clears nothing. */
const DOUBTED = 0.5;
/** More readings than this together are no argument anybody follows. */
const MOST_TOGETHER = 6;

/** Readings that may clear somebody: neither codes nor what is in doubt. */
function witnesses(posterior: CircuitPosterior): number[] {
  return posterior.observations.flatMap((observation, index) =>
    isOfCode(observation) || observation.id.includes(" ") || slipProbability(posterior, index) >= DOUBTED ? [] : [index],
  );
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

/** What clears units of one set of circuits against whoever leads there. */
export class Clearing {
  private readonly indices: readonly number[];
  private readonly singles: readonly Float64Array[];
  private readonly plain: boolean;

  /** @param leader the unit that leads, or 0 where these circuits are sound */
  constructor(
    private readonly posterior: CircuitPosterior,
    private readonly leader: number,
  ) {
    const { inference, evidence, observations } = posterior;
    this.indices = witnesses(posterior);
    this.plain = posterior.known.presence === null && posterior.known.after.length === 0;
    this.singles = observations.map((_, index) => unitSingle(inference.grid, evidence.single, observations.length, index));
  }

  /** log P(some readings | unit) - log P(the same | leader), by themselves. */
  private against(unit: number, chosen: readonly number[]): number {
    const { inference, observations, known } = this.posterior;
    const { grid, columns } = inference;
    const cells: number[] = [];
    for (let cell = 0; cell < grid.count; cell += 1) {
      const own = grid.unitOfFault[grid.fault[cell]];
      if (own === unit || own === this.leader) cells.push(cell);
    }
    const logs = weighCells(observations, chosen, cells, columns.count, known);
    return evidenceOf(this.posterior, unit, cells, logs) - evidenceOf(this.posterior, this.leader, cells, logs);
  }

  /**
   * The fewest readings found that by themselves, with the unit and the leader equally likely before, separate the two twenty to one.
   * @returns ids of observations, the strongest first; null where no readings do: then nobody may say that the unit is cleared
   */
  by(unit: number): string[] | null {
    const { observations } = this.posterior;
    const order = this.indices.map((index) => ({ index, log: this.singles[index][unit] - this.singles[index][this.leader] })).sort((a, b) => a.log - b.log);
    const [first] = order;
    if (first === undefined || first.log >= 0) return null;
    // One reading alone was weighed before, but for contacts that unplugging may have cured.
    if (first.log <= REFUTED_LOG && this.plain) return [observations[first.index].id];
    let chosen = [first.index];
    let reached = this.against(unit, chosen);
    for (const { index, log } of order.slice(1, MOST_TOGETHER)) {
      if (reached <= REFUTED_LOG || log >= 0) break;
      const more = [...chosen, index];
      const together = this.against(unit, more);
      if (together >= reached) continue;
      chosen = more;
      reached = together;
    }
    if (reached > REFUTED_LOG) return null;
    for (const index of [...chosen].reverse()) {
      const fewer = chosen.filter((other) => other !== index);
      if (fewer.length > 0 && this.against(unit, fewer) <= REFUTED_LOG) chosen = fewer;
    }
    return [...new Set(chosen.map((index) => observations[index].id))];
  }
}
