import type { WeighedCluster } from "../inference/cluster";
import { compatible, type Member, orderedPair, type Pair } from "./pair-fault";
import type { Wanted } from "./pair-pool";

/** Every fault stands with so many of its best cells. */
const POINTS_PER_FAULT = 2;
/** A reading that a fault makes this much likelier or less likely than its sound twin is felt by it, logarithm. */
const FELT_LOG = 1e-6;

/** A fault at a cell, with what it alone makes of each observation. */
interface Standing {
  readonly member: Member;
  /** log P(fault) before anything was read. */
  readonly logPrior: number;
  /** log P(observation | cell), each by itself. */
  readonly single: Float64Array;
  /** 1 for observations that the fault moves, 2 for the others of its own circuit: those hang on what the circuit senses there. */
  readonly felt: Uint8Array;
}

/** The circuit each observation was read on. */
function ownersOf({ observations }: WeighedCluster): string[] {
  return observations.map(({ table: { probe } }) => probe.circuit.id);
}

/** The best cells of every fault, by what it moves and what its own circuit shows. */
function standingsOf(cluster: WeighedCluster): Standing[][] {
  const { inference, evidence } = cluster;
  const { grid } = inference;
  const owners = ownersOf(cluster);
  const total = owners.length;
  const sound = Array.from({ length: grid.count }, (_, cell) => cell).filter((cell) => grid.fault[cell] === 0);
  const twins = grid.worlds.map((_, world) => sound.find((cell) => grid.world[cell] === world) ?? sound[0] ?? 0);
  // Of a circuit whose quantity is open, a sound cell in which it is open as well: one of another circuit's.
  const open = owners.map((owner) => sound.find((cell) => grid.worlds[grid.world[cell]]?.circuit !== owner) ?? sound[0] ?? 0);
  const kept: { readonly score: number; readonly standing: Standing }[][] = grid.faults.map(() => []);
  for (let cell = 0; cell < grid.count; cell += 1) {
    const fault = grid.faults[grid.fault[cell]] ?? null;
    if (fault === null || fault.during !== null) continue;
    const twin = twins[grid.world[cell]];
    const single = evidence.single.subarray(cell * total, (cell + 1) * total);
    const felt = new Uint8Array(total);
    let score = grid.logPrior[cell];
    for (let index = 0; index < total; index += 1) {
      const moves = Math.abs(single[index] - evidence.single[(twin ?? open[index] ?? 0) * total + index]) > FELT_LOG;
      felt[index] = moves ? 1 : owners[index] === fault.circuit ? 2 : 0;
      if (felt[index] > 0) score += single[index];
    }
    const best = kept[grid.fault[cell]] ?? [];
    const member = { fault, cell, severity: grid.severity[cell] };
    best.push({ score, standing: { member, logPrior: Math.log(fault.prior), single, felt } });
    best.sort((a, b) => b.score - a.score);
    best.length = Math.min(best.length, POINTS_PER_FAULT);
  }
  return kept.map((best) => best.map(({ standing }) => standing));
}

/**
 * log P(the observations, each alone | both faults), as far as each alone tells: what one of them moves shows that one, what neither moves the one whose
 * circuit it was read on, what both or nobody does the better.
 */
function together(one: Standing, other: Standing): number {
  let sum = 0;
  for (let index = 0; index < one.single.length; index += 1) {
    const [a, b] = [one.felt[index], other.felt[index]];
    const [first, second] = [one.single[index], other.single[index]];
    sum += a === b ? Math.max(first, second) : a === 1 || b === 0 ? first : second;
  }
  return sum;
}

/**
 * Two faults in two circuits that share a reference or a ground, all of them tried coarsely: what each makes of its own circuit's readings is known from
 * the single faults, and nothing is solved. The likeliest of them, each two faults once.
 */
export function acrossCircuits(cluster: WeighedCluster, { most, counts, floor }: Wanted): Pair[] {
  if (cluster.inference.circuits.length < 2) return [];
  const faults = standingsOf(cluster);
  const best: { readonly pair: Pair; readonly score: number }[] = [];
  faults.forEach((first, index) => {
    for (const second of faults.slice(index + 1)) {
      const [one, other] = [first[0]?.member.fault, second[0]?.member.fault];
      if (one === undefined || other === undefined || one.circuit === other.circuit || !compatible(one, other)) continue;
      const found = bestOf(first, second, floor);
      if (found !== null && counts(found.pair)) best.push(found);
    }
  });
  return best
    .sort((a, b) => b.score - a.score)
    .slice(0, most)
    .map(({ pair }) => pair);
}

/** The likeliest of the cells of two faults together; null where none reaches the floor. */
function bestOf(first: readonly Standing[], second: readonly Standing[], floor: number): { pair: Pair; score: number } | null {
  let best: { pair: Pair; score: number } | null = null;
  for (const one of first)
    for (const other of second) {
      const log = together(one, other);
      const score = log + one.logPrior + other.logPrior;
      if (log >= floor && (best === null || score > best.score)) best = { pair: orderedPair(one.member, other.member), score };
    }
  return best;
}
