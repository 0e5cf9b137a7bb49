import type { WorldValue } from "../../circuit";
import type { Fault, FaultVariant } from "../../faults";
import { BEYOND_SHARE, PLAIN_VARIANT } from "../../faults";

/** A value of the sensed quantity of one circuit. */
export interface CircuitWorld extends WorldValue {
  readonly circuit: string;
}

/** What is known of a circuit's sensed quantity: the values it may have, and how likely they speak of trouble outside. */
export interface SensedValues {
  readonly circuit: string;
  readonly normal: readonly WorldValue[];
  readonly abnormal: readonly WorldValue[];
  /** How much likelier "the value is true" is made by what is known. */
  readonly outsideFactor: number;
}

/**
 * The hypotheses of a set of circuits on their grids: every fault at every severity, variant and value of what its circuit
 * senses. Arrays are indexed by cell; cell weights are prior probabilities within the set and sum to one.
 * Fault 0 is "nothing wrong here".
 */
export interface HypothesisGrid {
  readonly count: number;
  readonly faults: readonly (Fault | null)[];
  /** Repair units; index 0 stands for the healthy circuits. */
  readonly units: readonly string[];
  readonly unitOfFault: Int32Array;
  readonly fault: Int32Array;
  /** 1 for cells whose fault shows only under its stimulus. */
  readonly sometimes: Uint8Array;
  /** Index into `worlds` of the value the cell's own circuit has; -1 where it has no circuit of its own. */
  readonly world: Int32Array;
  readonly severity: Float64Array;
  /** Standard deviation of the severity within its grid cell: in ln ohms, or in severity. */
  readonly severitySpread: Float64Array;
  readonly variant: readonly FaultVariant[];
  readonly prior: Float64Array;
  readonly logPrior: Float64Array;
  readonly worlds: readonly CircuitWorld[];
  /** The whole span of each circuit's sensed quantity as one wide value, for cells that belong to another circuit. */
  readonly wide: ReadonlyMap<string, { readonly value: number; readonly spread: number }>;
  /** How many cells share the prior of this cell's fault at this cell's value of the sensed quantity. */
  readonly sharing: Int32Array;
  /** Whether these are the circuits' own single faults, pairs that are looked at closely, or the pool of all pairs. */
  readonly kind: "own" | "pairs" | "pool";
  /** What tells a pair from all other pairs of the same circuits, for each cell; empty for single faults, and where rows are not worth keeping. */
  readonly names: readonly string[];
}

/** Grid cells per fault; the cell's spread covers the gap between them. With the sensed quantity open the grid is halved. */
const SERIES_POINTS = 14;
const SHARE_POINTS = 14;
/** What is less than usual stands for few: a third as many cells to each ln ohm. */
const SLIGHT_DENSITY = 1 / 3;
const MOST_POINTS = 48;
/** Cells overlap a little: spread as a share of the step between cells. */
const CELL_SPREAD = 0.5;

interface Severity {
  readonly value: number;
  readonly spread: number;
  /** How often it is met, against the others. */
  readonly weight: number;
}

function severitiesOf(fault: Fault, coarse: boolean): readonly Severity[] {
  const scale = fault.severity;
  if (scale === null) return [{ value: 1, spread: 0, weight: 1 }];
  if (scale.key === "severity") {
    const grid = coarse ? SHARE_POINTS / 2 : SHARE_POINTS;
    const step = (scale.high - scale.low) / grid;
    return Array.from({ length: grid }, (_, index) => ({ value: scale.low + (index + 0.5) * step, spread: CELL_SPREAD * step, weight: 1 }));
  }
  const { usualFrom = scale.low, usualTo = scale.high } = fault;
  const perLn = ((coarse ? 0.5 : 1) * SERIES_POINTS) / 5;
  return [...ohmsBetween(scale.low, usualFrom, SLIGHT_DENSITY * perLn, 1), ...ohmsBetween(Math.max(scale.low, usualFrom), scale.high, perLn, 4)].map(
    ({ value, step }) => ({ value, spread: CELL_SPREAD * step, weight: step * perLn * (value >= usualFrom && value <= usualTo ? 1 : BEYOND_SHARE) }),
  );
}

/** Resistances that stand for a stretch, so many to each ln ohm. @param least of them */
function ohmsBetween(low: number, high: number, perLn: number, least: number): { readonly value: number; readonly step: number }[] {
  if (high <= low) return [];
  const span = Math.log(high / low);
  const count = Math.min(MOST_POINTS, Math.max(least, Math.round(perLn * span)));
  const step = span / count;
  return Array.from({ length: count }, (_, index) => ({ value: low * Math.exp((index + 0.5) * step), step }));
}

function shareOf(list: readonly WorldValue[]): number {
  return list.reduce((sum, value) => sum + value.weight, 0);
}

/** One wide value in place of a list: its weighted mean and standard deviation. */
export function wideOf({ normal }: SensedValues): { value: number; spread: number } {
  const total = shareOf(normal);
  const mean = normal.reduce((sum, { value, weight }) => sum + (weight * value) / total, 0);
  const variance = normal.reduce((sum, { value, weight, spread }) => sum + (weight * ((value - mean) ** 2 + spread ** 2)) / total, 0);
  return { value: mean, spread: Math.sqrt(variance) };
}

/**
 * Lays out the grid.
 *
 * @param healthyPrior probability that nothing is wrong; the faults share the rest by their priors
 * @param grids what each circuit's sensed quantity may be
 */
export function layGrid(faults: readonly Fault[], healthyPrior: number, grids: readonly SensedValues[]): HypothesisGrid {
  const worlds: CircuitWorld[] = [];
  const first = new Map<string, number>();
  for (const { circuit, normal, abnormal } of grids) {
    first.set(circuit, worlds.length);
    worlds.push(...[...normal, ...abnormal].map((value) => ({ ...value, circuit })));
  }
  const only = grids.length === 1 ? grids[0] : undefined;
  const rows: { fault: number; world: number; severity: Severity; variant: FaultVariant; weight: number }[] = [];
  for (const { circuit, normal } of grids) {
    const total = shareOf(normal) * grids.length;
    const start = first.get(circuit) ?? 0;
    normal.forEach((value, world) => {
      rows.push({
        fault: 0,
        world: start + world,
        severity: { value: 0, spread: 0, weight: 1 },
        variant: PLAIN_VARIANT,
        weight: (healthyPrior * value.weight) / total,
      });
    });
  }
  const gridOf = (fault: Fault): SensedValues | undefined => grids.find(({ circuit }) => circuit === fault.circuit) ?? only;
  const kept = faults.filter((fault) => {
    if (!fault.matters) return false;
    if (fault.kind !== "true-value" || fault.variants.length > 1) return true;
    const grid = gridOf(fault);
    return grid !== undefined && grid.abnormal.length > 0 && grid.outsideFactor > 0;
  });
  const units = [""];
  const unitOfFault = new Int32Array(kept.length + 1);
  kept.forEach((fault, index) => {
    let unit = units.indexOf(fault.unit);
    if (unit < 0) unit = units.push(fault.unit) - 1;
    unitOfFault[index + 1] = unit;
    const grid = gridOf(fault);
    const coarse = (grid?.normal.length ?? 0) + (grid?.abnormal.length ?? 0) > 2;
    // Battery and grounds stand in the grids of all circuits of a job, and must have the same severities in each.
    const ofCar = grids.every(({ circuit }) => circuit !== fault.circuit);
    const severities = severitiesOf(fault, !ofCar && (coarse || grids.length > 2));
    const outside = fault.kind === "true-value" && grid !== undefined && grid.abnormal.length > 0;
    const list: readonly WorldValue[] = grid === undefined ? [{ value: 0, weight: 1, spread: 0 }] : outside ? grid.abnormal : grid.normal;
    const total = shareOf(list);
    const start = grid === undefined ? -1 : (first.get(grid.circuit) ?? 0) + (outside ? grid.normal.length : 0);
    const prior = (1 - healthyPrior) * fault.prior * (outside ? (grid?.outsideFactor ?? 1) : 1);
    const severe = severities.reduce((sum, severity) => sum + severity.weight, 0);
    for (const variant of fault.variants) {
      for (const severity of severities) {
        list.forEach((value, position) => {
          const weight = (prior * variant.weight * value.weight * severity.weight) / (severe * total);
          rows.push({ fault: index + 1, world: start < 0 ? -1 : start + position, severity, variant, weight });
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
    sometimes: Uint8Array.from(rows, (row) => ((kept[row.fault - 1]?.during ?? null) === null ? 0 : 1)),
    world: Int32Array.from(rows, (row) => row.world),
    severity: Float64Array.from(rows, (row) => row.severity.value),
    severitySpread: Float64Array.from(rows, (row) => row.severity.spread),
    variant: rows.map((row) => row.variant),
    prior: Float64Array.from(rows, (row) => row.weight / total),
    logPrior: Float64Array.from(rows, (row) => Math.log(row.weight / total)),
    worlds,
    wide: new Map(grids.map((grid) => [grid.circuit, wideOf(grid)])),
    sharing: sharingOf(rows),
    kind: "own",
    names: [],
  };
}

/** For every cell how many have its fault and its value of the sensed quantity. */
function sharingOf(cells: readonly { readonly fault: number; readonly world: number }[]): Int32Array {
  const counts = new Map<string, number>();
  const keyOf = ({ fault, world }: (typeof cells)[number]): string => `${fault} ${world}`;
  for (const cell of cells) counts.set(keyOf(cell), (counts.get(keyOf(cell)) ?? 0) + 1);
  return Int32Array.from(cells, (cell) => counts.get(keyOf(cell)) ?? 1);
}
