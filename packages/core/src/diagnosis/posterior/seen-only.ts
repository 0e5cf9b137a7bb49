import { logSumExp } from "../../numeric";
import type { CircuitPosterior } from "./posterior";

/**
 * Without what was seen nobody is shown to be faulty who is not likelier than a sound car by more than this, logarithm; and what was seen speaks for
 * somebody who gains more by it.
 */
const SHOWN_LOG = Math.log(3);

/**
 * Whether a group is suspected for what was seen alone: green on a terminal, while everything that was measured fits a sound car as well. (What is seen
 * is a word for itself, so it can be left out again.)
 */
export function isSeenOnly({ inference: { grid }, observations, evidence, weights }: CircuitPosterior, group: readonly string[]): boolean {
  const total = observations.length;
  const looks = [...observations.keys()].filter((index) => observations[index].table.probe.kind === "look");
  if (looks.length === 0) return false;
  const whole = (cell: number): number => Math.log(weights[cell]);
  const measured = (cell: number): number => looks.reduce((log, index) => log - evidence.single[cell * total + index], whole(cell));
  const among = (belongs: (unit: string) => boolean, weigh: (cell: number) => number): number =>
    logSumExp(
      Array.from(weights.keys()).flatMap((cell) => (belongs(grid.units[grid.unitOfFault[grid.fault[cell]]] ?? "") && weights[cell] > 0 ? [weigh(cell)] : [])),
    );
  /** By how much the group is likelier than a sound car, logarithm. */
  const lead = (weigh: (cell: number) => number): number => among((unit) => group.includes(unit), weigh) - among((unit) => unit === grid.units[0], weigh);
  const unseen = lead(measured);
  return unseen < SHOWN_LOG && lead(whole) - unseen > SHOWN_LOG;
}
