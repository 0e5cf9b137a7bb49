import type { Observation } from "./observation";

/** From so likely on, logarithm, an answer is one that hangs on how large something is: less is what hardly ever happens, each time anew. */
const LEAST_HANGING = Math.log(0.05);

/** What readings of one pair of leads by one instrument are asked: whether it counts, whether it shows a number at all. */
function nameOf({ table: { probe, wordNames } }: Observation): string | null {
  if (probe.kind !== "electrical" || wordNames.length === 0) return null;
  return `${probe.circuit.id} ${probe.meter} ${probe.unit ?? ""} ${probe.red} ${probe.black}`;
}

/**
 * Readings that answer the same question of the same signal the same way. Whether a signal is large enough to be counted, or a resistance small enough to be
 * shown, hangs on one car with one module: where a hypothesis leaves that open, they all say it together, once, not each for itself. Where they answer
 * differently, something else moved between them: then each is for itself.
 */
export class SameSide {
  private readonly groups: readonly (readonly number[])[];

  /**
   * @param observations in the order their answers are asked for
   * @param all these and those whose answers are asked for elsewhere
   */
  constructor(observations: readonly Observation[], all: readonly Observation[]) {
    const answers = new Map<string, Set<number>>();
    for (const observation of all) {
      const name = nameOf(observation);
      if (name !== null) answers.set(name, (answers.get(name) ?? new Set()).add(observation.word));
    }
    const byName = new Map<string, number[]>();
    observations.forEach((observation, i) => {
      const name = nameOf(observation);
      if (name !== null && answers.get(name)?.size === 1) byName.set(name, [...(byName.get(name) ?? []), i]);
    });
    this.groups = [...byName.values()].filter(({ length }) => length > 1);
  }

  get any(): boolean {
    return this.groups.length > 0;
  }

  /**
   * Shares what a group pays between its members: together the least likely answer, each by its own part of the sum.
   * @param answers log P(answer) of each observation, overwritten
   * @returns whether any of them was shared
   */
  share(answers: Float64Array): boolean {
    let any = false;
    for (const group of this.groups) {
      let [sum, least] = [0, 0];
      for (const i of group) {
        const answer = answers[i];
        sum += answer;
        if (answer < least) least = answer;
      }
      if (sum === least || least < LEAST_HANGING) continue;
      for (const i of group) answers[i] = (answers[i] * least) / sum;
      any = true;
    }
    return any;
  }
}
