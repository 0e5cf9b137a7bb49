import { logSumExp } from "../../numeric";
import type { HypothesisGrid } from "../hypotheses/grid";
import type { Inference } from "../inference/inference";
import { type Circumstances, type Evidence, type Observation, steadyCircumstances } from "../likelihood/observation";
import { logBroad, SLIP_SHARE } from "../likelihood/slips";
import { faultWeights, unitEvidence, unitWeights } from "./unit-evidence";

/** What the readings say about one circuit, seen beside the others of the job. */
export interface CircuitPosterior {
  readonly inference: Inference;
  readonly observations: readonly Observation[];
  readonly evidence: Evidence;
  /** When faults were there while these were read. */
  readonly known: Circumstances;
  /** Posterior of every cell; the healthy cells carry everything that does not lie in this circuit. Sums to one. */
  readonly weights: Float64Array;
  readonly units: Float64Array;
  readonly faults: Float64Array;
  /** log P(readings | unit) - log P(readings | healthy), comparable between circuits. */
  readonly relative: Float64Array;
  /** Probability that something is wrong here that no fault of the circuits' models explains. */
  readonly unknown: number;
}

/** Joint posterior of independent circuits: each may hold one fault, a second fault elsewhere being rare. */
export interface JointPosterior {
  readonly circuits: readonly CircuitPosterior[];
  /** Probability that nothing is wrong in any circuit. */
  readonly healthy: number;
}

/** How much rarer a further fault in circuits that share nothing is, against the first: somebody brought the car for one. */
const FURTHER_FAULT = 0.04;
/** Probability, before any reading, that something is wrong in a circuit that its model does not know. */
const UNKNOWN_PRIOR = 0.002;
/** Under such a fault a reading is anybody's guess half of the time, and sound the other half. */
const UNKNOWN_SHARE = 0.5;

/** What is weighed of one set of circuits. */
export interface CombinedPart {
  readonly inference: Inference;
  readonly observations: readonly Observation[];
  readonly evidence: Evidence;
  readonly known?: Circumstances;
}

/** Whether an observation is the same under every hypothesis: a finding nobody knows, a rate of a line that never moves. */
function saysNothing(single: Float64Array, index: number, total: number, cells: number): boolean {
  for (let cell = 1; cell < cells; cell += 1) if (Math.abs(single[cell * total + index] - single[index]) > 1e-9) return false;
  return true;
}

/**
 * log P(observations, a fault nobody knows): every reading is sound or anything at all, each for itself.
 * @param soundCells the cells of "nothing wrong here", `soundPrior` the log of their prior
 */
function unknownLog({ inference: { grid }, observations, evidence }: CombinedPart, soundCells: readonly number[], soundPrior: number): number {
  const total = observations.length;
  let sum = Math.log(UNKNOWN_PRIOR);
  observations.forEach((observation, index) => {
    if (saysNothing(evidence.single, index, total, grid.count)) {
      sum += evidence.single[index];
      return;
    }
    const healthy = logSumExp(soundCells.map((cell) => grid.logPrior[cell] + evidence.single[cell * total + index])) - soundPrior;
    sum += logSumExp([Math.log(1 - UNKNOWN_SHARE) + healthy, Math.log(UNKNOWN_SHARE) + logBroad(observation)]);
  });
  return sum + total * Math.log(1 - SLIP_SHARE);
}

/** A hypothesis about battery or grounds: every set of circuits has it, and sees the same one. */
function carKey({ inference: { model, grid } }: CombinedPart, cell: number): string | null {
  const fault = grid.faults[grid.fault[cell]];
  return fault === null || fault.circuit !== model.carId || fault.kind === "pair" ? null : `${fault.id} ${grid.severity[cell]}`;
}

/** One set's cells seen against its being sound. */
interface AgainstSound {
  readonly part: CombinedPart;
  /** log weight of every cell over that of the sound cells. */
  readonly joint: Float64Array;
  /** For cells about battery and grounds what they are, null for all others. */
  readonly shared: readonly (string | null)[];
  /** log prior of the sound cells. */
  readonly soundPrior: number;
  /** log weight of the faults that are this set's own, and of one that nobody knows. */
  readonly faultPart: number;
  readonly unknown: number;
}

function againstSound(part: CombinedPart, share: number): AgainstSound {
  const { inference, evidence } = part;
  const { grid } = inference;
  const joint = Float64Array.from({ length: grid.count }, (_, cell) => grid.logPrior[cell] + evidence.logLikelihood[cell]);
  const soundCells = [...joint.keys()].filter((cell) => grid.fault[cell] === 0);
  const healthy = logSumExp(soundCells.map((cell) => joint[cell]));
  const soundPrior = logSumExp(soundCells.map((cell) => grid.logPrior[cell]));
  for (let cell = 0; cell < grid.count; cell += 1) joint[cell] = joint[cell] - healthy - (grid.fault[cell] === 0 ? 0 : share);
  const shared = [...joint.keys()].map((cell) => (grid.fault[cell] === 0 ? null : carKey(part, cell)));
  const unknown = evidence.single.length === 0 ? Number.NEGATIVE_INFINITY : unknownLog(part, soundCells, soundPrior) - healthy - share;
  const faultPart = logSumExp([unknown, ...joint.filter((_, cell) => grid.fault[cell] !== 0 && shared[cell] === null)]);
  return { part, joint, shared, soundPrior, faultPart, unknown };
}

/** A hypothesis about battery and grounds as all sets see it, in logarithms. */
interface SharedFault {
  readonly prior: number;
  /** What each set's readings make of it, against its being sound. */
  readonly perSet: number[];
  /** The weight of its cells in each set, against that set's sound ones. */
  readonly inSet: number[];
}

/** For each hypothesis about battery and grounds, what every set's own readings make of it: log P(readings | it) - log P(readings | sound). */
function sharedEvidence(sets: readonly AgainstSound[], share: number): Map<string, SharedFault> {
  const found = new Map<string, SharedFault>();
  sets.forEach(({ part, joint, shared, soundPrior }, index) => {
    const { grid } = part.inference;
    const sums = new Map<string, { joint: number[]; prior: number[] }>();
    shared.forEach((key, cell) => {
      if (key === null) return;
      const sum = sums.get(key) ?? { joint: [], prior: [] };
      sum.joint.push(joint[cell]);
      sum.prior.push(grid.logPrior[cell]);
      sums.set(key, sum);
    });
    for (const [key, sum] of sums) {
      const prior = logSumExp(sum.prior) - soundPrior - share;
      const known = found.get(key) ?? { prior, perSet: sets.map(() => 0), inSet: sets.map(() => 0) };
      known.inSet[index] = logSumExp(sum.joint);
      known.perSet[index] = logSumExp(sum.joint) - prior;
      found.set(key, { ...known, prior: Math.max(known.prior, prior) });
    }
  });
  return found;
}

/**
 * Combines the evidence of circuits that share nothing but battery and grounds. With F the weight of all faults of a set against its being
 * sound, the weight of several faulty sets is the product of their F, each after the first made rarer: that sums to a closed form. A fault of
 * battery or grounds is one and the same in all sets: what each reads of it multiplies.
 */
export function combine(parts: readonly CombinedPart[]): JointPosterior {
  const share = Math.log(parts.length);
  const sets = parts.map((part) => againstSound(part, share));
  // log(1 + e F) of every set; their sum is the product of what all sets may be.
  const each = sets.map(({ faultPart }) => logSumExp([0, Math.log(FURTHER_FAULT) + faultPart]));
  const all = each.reduce((sum, value) => sum + value, 0);
  // (product - 1) / e, in logarithms: at least one faulty set.
  const faulty = all > 30 ? all - Math.log(FURTHER_FAULT) : Math.log(Math.expm1(all) / FURTHER_FAULT);
  const car = sharedEvidence(sets, share);
  const together = new Map([...car].map(([key, { prior, perSet }]) => [key, prior + perSet.reduce((sum, value) => sum + value, 0)]));
  const total = logSumExp([0, faulty, ...together.values()]);
  const circuits = sets.map(({ part, joint, shared, faultPart, unknown }, index): CircuitPosterior => {
    const { inference, observations, evidence } = part;
    const { grid } = inference;
    // Whatever lies in the other sets, this one's fault stands beside it.
    const beside = all - (each[index] ?? 0) - total;
    const besideShared = new Map([...car].map(([key, { inSet }]) => [key, (together.get(key) ?? 0) - total - (inSet[index] ?? 0)]));
    const sharedPart = logSumExp([...together.values()].map((value) => value - total).concat(Number.NEGATIVE_INFINITY));
    const elsewhere = Math.max(0, 1 - Math.exp(faultPart + beside) - Math.exp(sharedPart));
    const weights = Float64Array.from(joint, (value, cell) => {
      if (grid.fault[cell] === 0) return Math.exp(value) * elsewhere;
      const key = shared[cell] ?? null;
      return Math.exp(value + (key === null ? beside : (besideShared.get(key) ?? 0)));
    });
    const absolute = unitEvidence(grid, evidence.logLikelihood);
    grid.units.forEach((unit, at) => {
      absolute[at] = absolute[at] + (inference.outsideLog.get(unit) ?? 0);
    });
    const relative = absolute.map((value) => value - absolute[0]);
    if (parts.length > 1) shareRelative(relative, grid, car);
    const known = part.known ?? steadyCircumstances(grid.count);
    const own = { inference, observations, evidence, known, weights, units: unitWeights(grid, weights), faults: faultWeights(grid, weights), relative };
    return { ...own, unknown: Math.exp(unknown + beside) };
  });
  return { circuits, healthy: Math.exp(-total) };
}

/** Units of battery and grounds are as likely as all sets together make them. */
function shareRelative(
  relative: Float64Array,
  grid: HypothesisGrid,
  car: ReadonlyMap<string, { readonly prior: number; readonly perSet: readonly number[] }>,
): void {
  const byFault = new Map<string, { joint: number[]; prior: number[] }>();
  for (const [key, { prior, perSet }] of car) {
    const id = key.slice(0, key.lastIndexOf(" "));
    const sum = byFault.get(id) ?? { joint: [], prior: [] };
    sum.joint.push(prior + perSet.reduce((all, value) => all + value, 0));
    sum.prior.push(prior);
    byFault.set(id, sum);
  }
  const best = new Map<number, number>();
  grid.faults.forEach((fault, index) => {
    const sum = fault === null ? undefined : byFault.get(fault.id);
    if (sum === undefined) return;
    const unit = grid.unitOfFault[index];
    best.set(unit, Math.max(best.get(unit) ?? Number.NEGATIVE_INFINITY, logSumExp(sum.joint) - logSumExp(sum.prior)));
  });
  for (const [unit, value] of best) relative[unit] = value;
}

/** P(this observation slipped), averaged over the posterior. */
export function slipProbability(posterior: CircuitPosterior, index: number): number {
  const { weights, evidence, observations } = posterior;
  let sum = 0;
  for (let cell = 0; cell < weights.length; cell += 1) sum += weights[cell] * evidence.slipped[cell * observations.length + index];
  return sum;
}
