import { unitKindOf } from "@fox-lamp/language";
import { placeOfUnit } from "../inference/circumstances";
import type { CircuitPosterior, JointPosterior } from "../posterior/posterior";
import type { WeighedJob } from "../posterior/weighed-job";
import { ALONG_MINUTES } from "../value-of-information/price";
import { type RankedTest, wholeOf } from "../value-of-information/rank";
import { soberUnits } from "./sober";
import type { Standing } from "./standing";

/** What a wrong verdict costs: the part, the time, the comeback, in minutes of work. */
export const WRONG_MINUTES = 50;
/**
 * A proof that was wrong once is not believed again: before one is declared that is hardly sure enough, a test may take so many times what its
 * error would cost.
 */
const BELIEVED = 2.5;
const HARDLY_SURE = 0.97;
/** What it costs to send a car home with its fault unfound, in minutes of work: it comes back, and everything is done again. */
const MISSED_MINUTES = 160;
/** Whether a unit stands for a true value: the circuit itself is sound. */
export function isOutside(unit: string): boolean {
  return unitKindOf(unit) === "outside";
}

/** Probabilities of everything that may be wrong, "nothing" first. */
function sharesOf(joint: JointPosterior): number[] {
  return [joint.healthy, ...joint.circuits.flatMap(({ units }) => [...units.slice(1)])];
}

/** What is still uncertain about the unit, bits (never quite nothing). */
function entropyBits(shares: readonly number[]): number {
  return shares.reduce((sum, share) => (share > 0 ? sum - share * Math.log2(share) : sum), 1e-6);
}

/** Probability that the circuits are sound: nothing is wrong, or the value is true but abnormal. */
export function soundWeight(joint: JointPosterior): number {
  return joint.healthy + outsideWeight(joint);
}

/** Probability that the circuit is sound and the value true but abnormal. */
function outsideWeight(joint: JointPosterior): number {
  return joint.circuits.reduce(
    (sum, { inference, units }) => sum + inference.grid.units.reduce((own, unit, at) => own + (isOutside(unit) ? units[at] : 0), 0),
    0,
  );
}

/** What a verdict now would risk, and whether the next test is worth more than that. */
export interface Stake {
  /** Probability that the verdict is right. */
  readonly sure: number;
  /** Minutes of work lost on average by declaring now. */
  readonly riskMinutes: number;
  /** Whether some test takes fewer minutes than it saves. */
  readonly worthMore: boolean;
  /** Whether some test saves a good deal more minutes than it takes, of a circuit that looks sound; worked out when it is asked for. */
  readonly worthMuch: () => boolean;
}

/** So many times its own minutes, what a test saves is a good deal more. */
const MUCH_TIMES = 1.4;

/** Whether what leads says that the circuits themselves are sound: nothing wrong, or a true value. */
export function isSound({ posterior, group }: Standing): boolean {
  return posterior === null || group.every(isOutside);
}

/** What is mended in one go: the contacts of a plug are cleaned together, everything else is a repair of its own. */
function repairOf(unit: string): string {
  return placeOfUnit(unit) ?? unit;
}

/**
 * Minutes of work that a test saves on average on a circuit that looks sound: after each of its outcomes either the car goes home, or what
 * then leads is mended, whichever risks less.
 */
function savedMinutes({ inference }: CircuitPosterior, { outcomes }: RankedTest): number {
  const { members, mass, width } = outcomes;
  const repairs = members.map((unit) => {
    const name = inference.grid.units[unit] ?? "";
    return unit === 0 || isOutside(name) ? null : repairOf(name);
  });
  const places = [...new Set(repairs)];
  const repairAt = repairs.map((repair) => places.indexOf(repair));
  const [shares, mended] = [new Float64Array(members.length), new Float64Array(places.length)];
  const riskOf = (of: (row: number) => number): number => {
    let [total, sound] = [0, 0];
    mended.fill(0);
    repairs.forEach((repair, row) => {
      const share = of(row);
      total += share;
      if (repair === null) sound += share;
      else mended[repairAt[row]] = mended[repairAt[row]] + share;
    });
    return Math.min((total - sound) * MISSED_MINUTES, (total - Math.max(...mended)) * WRONG_MINUTES);
  };
  let [all, after] = [0, 0];
  for (let column = 0; column < width; column += 1) {
    after += riskOf((row) => mass[row * width + column]);
    members.forEach((_, row) => {
      const share = mass[row * width + column];
      shares[row] = shares[row] + share;
      all += share;
    });
  }
  // Before and after are judged by the same belief: what it leaves out is no gain of the test.
  return all === 0 ? 0 : (riskOf((row) => shares[row]) - after) / all;
}

/** The stake of declaring what leads now. */
export function stakeOf({ joint }: WeighedJob, standing: Standing): Stake {
  const { sober, tests } = standing;
  const soundCircuit = isSound(standing);
  const sure = soundCircuit ? soundWeight(joint) : sober;
  const riskMinutes = (1 - sure) * (soundCircuit ? MISSED_MINUTES : WRONG_MINUTES);
  // What a test in other circuits would tell is no reason to doubt what leads here.
  const leading = standing.posterior;
  const believed = entropyBits(leading === null ? sharesOf(joint) : [joint.healthy, ...leading.units.slice(1)]);
  // Nor is a verdict the readings prove held up by what was found before, which sharpens or blurs the belief a test is weighed in.
  const doubtBits = soundCircuit || leading === null ? believed : Math.max(believed, entropyBits(soberUnits(leading)));
  const saves = (posterior: CircuitPosterior, test: RankedTest, times: number): boolean =>
    [test, ...test.along].reduce((sum, one) => sum + savedMinutes(posterior, one), 0) > times * (test.minutes + test.along.length * ALONG_MINUTES);
  const worthMuch = (): boolean => soundCircuit && tests.some(({ posterior, test }) => saves(posterior, test, MUCH_TIMES));
  const worthMore = tests.some(({ posterior, test }) => {
    if (leading !== null && posterior !== leading) return false;
    const { gainBits, minutes } = wholeOf(test);
    const saved = (soundCircuit || sure >= HARDLY_SURE ? 1 : BELIEVED) * riskMinutes * Math.min(1, gainBits / doubtBits);
    return saved > minutes || (soundCircuit && saves(posterior, test, 1));
  });
  return { sure, riskMinutes, worthMore, worthMuch };
}
