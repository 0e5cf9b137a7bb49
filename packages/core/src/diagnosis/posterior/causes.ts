import type { WeighedCluster } from "../inference/cluster";

/** P(code is stored | unit) for the codes of one set of circuits: that of the unit's likeliest fault, row by unit. */
export function storedUnder(cluster: WeighedCluster, code: string): Float64Array {
  const { grid } = cluster.inference;
  const best = new Float64Array(grid.units.length);
  for (const { observation } of cluster.codes) {
    if (observation.id !== code) continue;
    const weight = new Float64Array(grid.units.length);
    const met = new Float64Array(grid.units.length);
    for (let cell = 0; cell < grid.count; cell += 1) {
      const unit = grid.unitOfFault[grid.fault[cell]];
      const likely = Math.exp(grid.logPrior[cell] + cluster.evidence.logLikelihood[cell]);
      weight[unit] = weight[unit] + likely;
      met[unit] = met[unit] + likely * observation.table.words[observation.table.slot[cell] * 2];
    }
    for (let unit = 0; unit < best.length; unit += 1) best[unit] = Math.max(best[unit], weight[unit] === 0 ? 0 : met[unit] / weight[unit]);
  }
  return best;
}

/** The causes within one set of circuits: probabilities of its units given that something is wrong among them. */
export function causesIn(cluster: WeighedCluster): { unit: string; index: number; probability: number }[] {
  const { grid } = cluster.inference;
  const sums = new Float64Array(grid.units.length);
  let top = Number.NEGATIVE_INFINITY;
  for (let cell = 0; cell < grid.count; cell += 1) top = Math.max(top, grid.logPrior[cell] + cluster.evidence.logLikelihood[cell]);
  for (let cell = 0; cell < grid.count; cell += 1) {
    const unit = grid.unitOfFault[grid.fault[cell]];
    if (unit === 0) continue;
    sums[unit] = sums[unit] + Math.exp(grid.logPrior[cell] + cluster.evidence.logLikelihood[cell] - top);
  }
  const total = sums.reduce((sum, value) => sum + value, 0);
  return grid.units.map((unit, index) => ({ unit, index, probability: total === 0 ? 0 : sums[index] / total })).slice(1);
}
