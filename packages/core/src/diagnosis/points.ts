import type { WorldValue } from "../circuit";
import type { Fault, FaultVariant } from "../faults";

/**
 * The hypotheses of one circuit on their grids: every fault at every severity, variant and value of the sensed quantity.
 * Arrays are indexed by point; point weights are prior probabilities within the circuit and sum to one.
 * Fault 0 is "nothing wrong here".
 */
export interface Points {
  readonly count: number;
  readonly faults: readonly (Fault | null)[];
  /** Repair units; index 0 stands for the healthy circuit. */
  readonly units: readonly string[];
  readonly unitOfFault: Int32Array;
  readonly fault: Int32Array;
  readonly world: Int32Array;
  readonly severity: Float64Array;
  /** Standard deviation of the severity within its grid cell: in ln ohms, or in severity. */
  readonly severitySpread: Float64Array;
  readonly variant: readonly FaultVariant[];
  readonly prior: Float64Array;
  readonly logPrior: Float64Array;
  readonly worlds: readonly WorldValue[];
}

/** Grid points per fault; the cell's spread covers the gap between them. With the sensed quantity open the grid is halved. */
const SERIES_POINTS = 24;
const SHARE_POINTS = 14;
/** Cells overlap a little: spread as a share of the step between points. */
const CELL_SPREAD = 0.5;

interface Severity {
  readonly value: number;
  readonly spread: number;
}

function severitiesOf(fault: Fault, coarse: boolean): readonly Severity[] {
  const scale = fault.severity;
  if (scale === null) return [{ value: 1, spread: 0 }];
  if (scale.key === "severity") {
    const points = coarse ? SHARE_POINTS / 2 : SHARE_POINTS;
    const step = (scale.high - scale.low) / points;
    return Array.from({ length: points }, (_, index) => ({ value: scale.low + (index + 0.5) * step, spread: CELL_SPREAD * step }));
  }
  const decades = Math.log(scale.high / scale.low);
  const count = Math.min(48, Math.max(4, Math.round(((coarse ? 0.5 : 1) * SERIES_POINTS * decades) / 5)));
  const step = decades / count;
  return Array.from({ length: count }, (_, index) => ({ value: scale.low * Math.exp((index + 0.5) * step), spread: CELL_SPREAD * step }));
}

/**
 * Lays out the grid.
 *
 * @param healthyPrior probability that nothing is wrong; the faults share the rest by their priors
 * @param normal values of the sensed quantity with nothing wrong outside, with weights
 * @param abnormal values that the "value is true" hypothesis stands for
 * @param outsideFactor how much likelier that hypothesis is made by what is known about the sensed quantity
 */
export function layPoints(
  faults: readonly Fault[],
  healthyPrior: number,
  normal: readonly WorldValue[],
  abnormal: readonly WorldValue[],
  outsideFactor: number,
): Points {
  const worlds = [...normal, ...abnormal];
  const share = (list: readonly WorldValue[]): number => list.reduce((sum, value) => sum + value.weight, 0);
  const [normalTotal, abnormalTotal] = [share(normal), share(abnormal)];
  const rows: { fault: number; world: number; severity: Severity; variant: FaultVariant; weight: number }[] = [];
  const nothing: FaultVariant = { direction: 1, section: 0, weight: 1 };
  normal.forEach((value, world) => {
    rows.push({ fault: 0, world, severity: { value: 0, spread: 0 }, variant: nothing, weight: (healthyPrior * value.weight) / normalTotal });
  });
  const kept = faults.filter((fault) => fault.matters && (fault.kind !== "true-value" || (abnormal.length > 0 && outsideFactor > 0)));
  const units = [""];
  const unitOfFault = new Int32Array(kept.length + 1);
  kept.forEach((fault, index) => {
    let unit = units.indexOf(fault.unit);
    if (unit < 0) unit = units.push(fault.unit) - 1;
    unitOfFault[index + 1] = unit;
    const severities = severitiesOf(fault, worlds.length > 2);
    const outside = fault.kind === "true-value";
    const list = outside ? abnormal : normal;
    const prior = (1 - healthyPrior) * fault.prior * (outside ? outsideFactor : 1);
    for (const variant of fault.variants) {
      for (const severity of severities) {
        list.forEach((value, position) => {
          const weight = (prior * variant.weight * value.weight) / (severities.length * (outside ? abnormalTotal : normalTotal));
          rows.push({ fault: index + 1, world: outside ? normal.length + position : position, severity, variant, weight });
        });
      }
    }
  });
  const total = rows.reduce((sum, row) => sum + row.weight, 0);
  return {
    count: rows.length,
    faults: [null, ...kept],
    units,
    unitOfFault,
    fault: Int32Array.from(rows, (row) => row.fault),
    world: Int32Array.from(rows, (row) => row.world),
    severity: Float64Array.from(rows, (row) => row.severity.value),
    severitySpread: Float64Array.from(rows, (row) => row.severity.spread),
    variant: rows.map((row) => row.variant),
    prior: Float64Array.from(rows, (row) => row.weight / total),
    logPrior: Float64Array.from(rows, (row) => Math.log(row.weight / total)),
    worlds,
  };
}
