import type { UnsaidColumn } from "../../instruments";
import { normalCdf } from "../../numeric";
import { learn } from "../likelihood/learn";
import type { Observation } from "../likelihood/observation";
import type { Belief } from "./belief";
import { informationBits, type Outcomes } from "./outcomes";

/** Minutes to look a figure up, or to read it off a sister vehicle. */
export const ASK_MINUTES = 4;
/** Under this nobody is asked, bits. */
const LEAST_BITS = 0.08;
/** A figure that was looked up is known to this share of what was left open before. */
const STATED_SHARE = 0.15;
const REACH = 4;
const STEPS = 64;

/** A parameter the sheet leaves out, with what knowing it would tell. */
export interface Question extends UnsaidColumn {
  readonly gainBits: number;
}

/** P(what the figure is and unit): the unsaid variable cut into steps of its own standard deviation, under every unit that still counts. */
function outcomesOf({ active, members, rowOf, columns: { count } }: Belief, column: number): Outcomes {
  const mass = new Float64Array(members.length * STEPS);
  const edge = (bin: number): number => REACH * ((2 * bin) / STEPS - 1);
  for (const { unit, weight, learned } of active) {
    let variance = 1;
    for (let i = 0; i < (learned?.count ?? 0); i += 1) variance -= (learned?.read[i * count + column] ?? 0) ** 2;
    const sigma = Math.hypot(Math.sqrt(Math.max(0, variance)), STATED_SHARE);
    const mean = learned?.mean[column] ?? 0;
    const row = rowOf[unit] * STEPS;
    let below = 0;
    for (let bin = 0; bin < STEPS; bin += 1) {
      const upTo = bin === STEPS - 1 ? 1 : normalCdf((edge(bin + 1) - mean) / sigma);
      mass[row + bin] = mass[row + bin] + weight * (upTo - below);
      below = upTo;
    }
  }
  return { axis: { bins: STEPS, edge }, width: STEPS, members, mass };
}

/**
 * What the sheets leave out and would tell something if it were known, the most telling first: the expected information about the unit from
 * learning the figure itself (mutual information of the unsaid variable and the unit, given the readings).
 */
export function questionsUnder(belief: Belief): readonly Question[] {
  const scale = new Float64Array(belief.grid.units.length).fill(1);
  return belief.columns.unsaid
    .map((unsaid) => ({ ...unsaid, gainBits: informationBits(outcomesOf(belief, unsaid.column), scale) }))
    .filter(({ gainBits }) => gainBits >= LEAST_BITS)
    .sort((a, b) => b.gainBits - a.gainBits);
}

/** A figure nobody stated that would have to lie this far from the usual, in standard deviations, is too far to be taken for granted. */
const STRAINED_SIGMAS = 2.8;

/** A level behind an unplugged line that is no battery's, volts: nothing but the module's own supply makes it. */
const REGULATED_VOLTS = 6;

/**
 * Whether a reading measures what a sheet leaves out, whoever is it: the part's own resistance, by itself on its pins, or what the module holds a line
 * at whose sensor is unplugged.
 */
function measuresBare({ table: { probe }, number }: Observation): boolean {
  if (probe.kind !== "electrical") return false;
  const { open = [], add = [] } = probe.setup;
  switch (probe.meter) {
    case "ohms":
      return probe.red.endsWith("@part") && probe.black.endsWith("@part");
    case "volts-dc":
    case "scan":
      return open.includes("sensor") && add.length === 0 && number !== null && Math.abs(number) < REGULATED_VOLTS;
    default:
      return false;
  }
}

/** A figure is measured where such readings alone bring it so much of the way. */
const MEASURED_SHARE = 0.7;

/**
 * Figures the sheet leaves out that would have to lie far from the usual if a unit were it: the unit explains the readings only with a circuit
 * hardly anybody builds. What was measured bare is no strain. The farthest first.
 *
 * @param usedAt the readings that count at a cell
 */
export function strainedUnder({ active, columns }: Belief, unit: number, usedAt: (cell: number) => readonly Observation[]): readonly UnsaidColumn[] {
  const own = active.filter((cell) => cell.unit === unit);
  const total = own.reduce((sum, { weight }) => sum + weight, 0);
  if (total === 0) return [];
  const far = (column: number): number => Math.abs(own.reduce((sum, { weight, learned }) => sum + weight * (learned?.mean[column] ?? 0), 0) / total);
  const strained = columns.unsaid.filter(({ column }) => far(column) > STRAINED_SIGMAS).sort((a, b) => far(b.column) - far(a.column));
  if (strained.length === 0) return strained;
  const { cell } = own.reduce((best, one) => (one.weight > best.weight ? one : best));
  const measured = learn(usedAt(cell).filter(measuresBare), cell, columns.count).mean;
  return strained.filter(({ column }) => Math.abs(measured[column] ?? 0) < MEASURED_SHARE * far(column));
}
