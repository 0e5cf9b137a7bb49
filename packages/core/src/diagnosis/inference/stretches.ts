import type { Observation } from "../likelihood/observation";
import type { WeighedCluster } from "./cluster";

/** Observations of one setup, which are solved together. @param most log P that any hypothesis gives all of them together */
export interface Stretch {
  readonly observations: readonly Observation[];
  readonly most: number;
}

/**
 * The readings by the setup they were taken in, those that fit the hypotheses of a cluster worst first: they tell most of them apart.
 * @param asked the cluster's readings, in its order, as observations of the same circuits under other hypotheses
 */
export function stretchesOf({ observations, evidence: { single }, inference: { grid } }: WeighedCluster, asked: readonly Observation[]): Stretch[] {
  const total = observations.length;
  const bySetup = new Map<string, { own: Observation[]; most: number; usual: number }>();
  asked.forEach((observation, index) => {
    const { probe } = observation.table;
    const key = probe.kind === "look" || probe.kind === "gauge" ? probe.kind : `${probe.circuit.id} ${JSON.stringify(probe.setup)}`;
    const stretch = bySetup.get(key) ?? { own: [], most: 0, usual: 0 };
    bySetup.set(key, stretch);
    let most = Number.NEGATIVE_INFINITY;
    let usual = 0;
    for (let cell = 0; cell < grid.count; cell += 1) {
      const log = single[cell * total + index];
      most = Math.max(most, log);
      usual += grid.prior[cell] * log;
    }
    stretch.own.push(observation);
    stretch.most += most;
    stretch.usual += usual - most;
  });
  return [...bySetup.values()].sort((a, b) => a.usual - b.usual).map(({ own, most }) => ({ observations: own, most }));
}

/** log P(the first readings of a cluster, each by itself) at a cell. @param readings how many of its observations */
export function apartAt({ observations: { length }, evidence: { single } }: WeighedCluster, cell: number, readings: number): number {
  let sum = 0;
  for (let index = 0; index < readings; index += 1) sum += single[cell * length + index];
  return sum;
}
