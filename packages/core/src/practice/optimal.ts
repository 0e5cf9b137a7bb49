import type { Circuit } from "@fox-lamp/language";
import { DEFAULT_ACCESS, INLINE_ACCESS, type Inference, inferenceOf } from "../diagnosis";
import { middleSeverity, PLAIN_VARIANT, type PlacedFault, showsIn } from "../faults";
import { probeOf, scaleOf, shownValue, solveSetup } from "../instruments";
import { measurementOf } from "../procedures";

/** A hypothesis of the small problem: one fault of one unit, or nothing wrong. */
interface Guess {
  readonly unit: string;
  readonly prior: number;
  readonly placed: readonly PlacedFault[];
}

/** A test of the small problem: which outcome each hypothesis gives, and what it costs. */
interface SmallTest {
  readonly outcomes: readonly string[];
  readonly minutes: number;
  readonly reach: readonly { readonly place: string; readonly minutes: number }[];
}

/** Expected minutes until the unit is known, by three ways of choosing the next test. */
export interface TreeComparison {
  readonly hypotheses: number;
  readonly tests: number;
  readonly optimalMinutes: number;
  /** The advice's rule: most information about the unit per minute. */
  readonly adviceMinutes: number;
  /** A fixed order, shortest test first. */
  readonly fixedMinutes: number;
}

/** Faults of one unit that take part: more of the same would crowd out the others. */
const MOST_PER_UNIT = 2;
/** Two numbers closer than this share of the larger (and this many volts) count as the same outcome. */
const SAME_SHARE = 0.12;
const SAME_LEAST = 0.12;

function outcomesOf(inference: Inference, index: number, guesses: readonly Guess[]): string[] | null {
  const test = inference.tests()[index];
  const probe = probeOf(inference.model, measurementOf(test.procedure), "test");
  if (probe === null || probe.kind !== "electrical") return null;
  const shown = guesses.map(({ placed }) => {
    const seen = solveSetup(
      inference.model,
      probe,
      placed.filter(({ fault }) => showsIn(fault, probe.setup)),
    );
    return shownValue(seen, { ...probe, statistic: "mean" });
  });
  const { toScale, axis } = scaleOf(probe);
  const numbers = shown.flatMap((value) => (typeof value === "number" ? [toScale(value)] : [])).sort((a, b) => a - b);
  const classes: number[] = [];
  for (const number of numbers) {
    const last = classes.at(-1);
    const room = axis === "log-ohms" || axis === "log-hertz" ? SAME_SHARE : Math.max(SAME_LEAST, SAME_SHARE * Math.abs(number));
    if (last === undefined || number - last > room) classes.push(number);
  }
  return shown.map((value) => {
    if (typeof value !== "number") return String(value);
    const number = toScale(value);
    return String(classes.filter((start) => start <= number).length);
  });
}

/**
 * Compares the advice's rule with the optimal decision tree on a small circuit: every fault at the middle of its range, every
 * test with its exact outcome, access charged once. The tree is found by dynamic programming over what is left and reached.
 *
 * @param most hypotheses kept, the likeliest first (the tree's cost doubles with each)
 */
export function compareWithOptimal(circuit: Circuit, most = 11): TreeComparison {
  const inference = inferenceOf([circuit], { conditions: { [circuit.id]: { temperature: 20, pressure: 100 } } });
  const faults = inference.faults.filter(({ matters, during, kind }) => matters && during === null && kind !== "true-value").sort((a, b) => b.prior - a.prior);
  const perUnit = new Map<string, number>();
  const chosen = faults.filter(({ unit }) => {
    const count = perUnit.get(unit) ?? 0;
    perUnit.set(unit, count + 1);
    return count < MOST_PER_UNIT;
  });
  const guesses: Guess[] = chosen.slice(0, most - 1).map((fault) => {
    return { unit: fault.unit, prior: fault.prior, placed: [{ fault, severity: middleSeverity(fault.severity), variant: fault.variants[0] ?? PLAIN_VARIANT }] };
  });
  guesses.push({ unit: "", prior: 0.05, placed: [] });
  const tests = inference.tests().flatMap(({ procedure }, index): SmallTest[] => {
    const outcomes = outcomesOf(inference, index, guesses);
    if (outcomes === null || new Set(outcomes).size < 2) return [];
    const reach = procedure.reach.map((place) => ({ place, minutes: circuit.access?.[place] ?? DEFAULT_ACCESS[place] ?? INLINE_ACCESS }));
    return [{ outcomes, minutes: procedure.minutes, reach }];
  });
  const kept = undominated(tests);
  const places = [...new Set(kept.flatMap(({ reach }) => reach.map(({ place }) => place)))];
  const everything = (1 << guesses.length) - 1;
  const weight = (set: number): number => guesses.reduce((sum, { prior }, at) => (((set >> at) & 1) === 1 ? sum + prior : sum), 0);
  const settled = (set: number): boolean => {
    const units = new Set(guesses.flatMap(({ unit }, at) => (((set >> at) & 1) === 1 ? [unit] : [])));
    return units.size <= 1;
  };
  const split = (set: number, test: SmallTest): number[] => {
    const parts = new Map<string, number>();
    test.outcomes.forEach((outcome, at) => {
      if (((set >> at) & 1) === 1) parts.set(outcome, (parts.get(outcome) ?? 0) | (1 << at));
    });
    return [...parts.values()];
  };
  const cost = (test: SmallTest, reached: number): { minutes: number; reached: number } => {
    let minutes = test.minutes;
    let now = reached;
    for (const { place, minutes: access } of test.reach) {
      const bit = 1 << places.indexOf(place);
      if ((now & bit) === 0) minutes += access;
      now |= bit;
    }
    return { minutes, reached: now };
  };
  const unitEntropy = (set: number): number => {
    const sums = new Map<string, number>();
    guesses.forEach(({ unit, prior }, at) => {
      if (((set >> at) & 1) === 1) sums.set(unit, (sums.get(unit) ?? 0) + prior);
    });
    const total = weight(set);
    return [...sums.values()].reduce((sum, own) => sum - (own / total) * Math.log2(own / total), 0);
  };
  /** Expected minutes under a way of choosing among the tests that split what is left. */
  const walk = (
    choose: (set: number, reached: number, useful: readonly SmallTest[], recurse: (set: number, reached: number) => number) => SmallTest,
  ): number => {
    const memo = new Map<number, number>();
    const recurse = (set: number, reached: number): number => {
      if (settled(set)) return 0;
      const key = set * (1 << places.length) + reached;
      const known = memo.get(key);
      if (known !== undefined) return known;
      const useful = kept.filter((test) => split(set, test).length > 1);
      let best = 0;
      if (useful.length > 0) best = after(set, reached, choose(set, reached, useful, recurse), recurse);
      memo.set(key, best);
      return best;
    };
    return recurse(everything, 0);
  };
  const after = (set: number, reached: number, test: SmallTest, recurse: (set: number, reached: number) => number): number => {
    const { minutes, reached: now } = cost(test, reached);
    const total = weight(set);
    return split(set, test).reduce((sum, part) => sum + (weight(part) / total) * recurse(part, now), minutes);
  };
  const least = <T>(items: readonly T[], of: (item: T) => number): T => items.reduce((best, item) => (of(item) < of(best) ? item : best));
  const gain = (set: number, test: SmallTest): number => {
    const total = weight(set);
    return unitEntropy(set) - split(set, test).reduce((sum, part) => sum + (weight(part) / total) * unitEntropy(part), 0);
  };
  return {
    hypotheses: guesses.length,
    tests: kept.length,
    optimalMinutes: walk((set, reached, useful, recurse) => least(useful, (test) => after(set, reached, test, recurse))),
    adviceMinutes: walk((set, reached, useful) => least(useful, (test) => -gain(set, test) / cost(test, reached).minutes)),
    fixedMinutes: walk((_set, _reached, useful) => useful[0]),
  };
}

/** Tests of which no other one splits the same way for less. */
function undominated(tests: readonly SmallTest[]): SmallTest[] {
  const signature = ({ outcomes }: SmallTest): string => {
    const names = [...new Set(outcomes)];
    return outcomes.map((outcome) => names.indexOf(outcome)).join("");
  };
  const full = ({ minutes, reach }: SmallTest): number => minutes + reach.reduce((sum, place) => sum + place.minutes, 0);
  const best = new Map<string, SmallTest>();
  for (const test of tests) {
    const key = signature(test);
    const known = best.get(key);
    if (known === undefined || full(test) < full(known)) best.set(key, test);
  }
  return [...best.values()].sort((a, b) => full(a) - full(b));
}
