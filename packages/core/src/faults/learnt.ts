import type { FoundBefore } from "@fox-lamp/language";

/**
 * How many jobs the documented priors count for against the shop's own, and these together against the jobs on the model at hand.
 * Judgement, measured on the trial with history that fits and history that misleads (decision 32).
 */
const SHOP_CONCENTRATION = 12;
const MODEL_CONCENTRATION = 6;
/** History makes a unit this many times likelier at most: what is measured stays stronger. */
const MOST_FACTOR = 4;
/** And no less likely than this: that something was not found yet says little against it, and rare faults must stay worth their tests. */
const LEAST_FACTOR = 0.75;

/** What earlier jobs made of one unit's prior. */
export interface Learnt {
  readonly factor: number;
  /** Closed and proven jobs that found it, on this model and on all of the shop. */
  readonly model: number;
  readonly shop: number;
}

/**
 * How much likelier each unit of a circuit is made by what was found before: shares of a Dirichlet distribution, shrunk twice,
 * p1 = (a1 p0 + n_others) / (a1 + N_others), p2 = (a2 p1 + n_model) / (a2 + N_model), factor = p2 / p0 within limits, brought back to
 * shares that sum to one. Empirical Bayes: what the shop found elsewhere is the prior of what it finds on the model.
 * @param weights documented weights of the circuit's units by local unit
 * @param found closed and proven jobs on circuits of its family
 */
export function learntOf(weights: ReadonlyMap<string, number>, found: readonly FoundBefore[]): ReadonlyMap<string, Learnt> {
  const total = [...weights.values()].reduce((sum, weight) => sum + weight, 0);
  const known = found.filter(({ unit }) => (weights.get(unit) ?? 0) > 0);
  if (total <= 0 || known.length === 0) return new Map();
  const sum = (of: (one: FoundBefore) => number): number => known.reduce((all, one) => all + of(one), 0);
  const [elsewhere, here] = [sum(({ shop, model }) => Math.max(0, shop - model)), sum(({ model }) => model)];
  const counted = new Map(known.map((one) => [one.unit, one]));
  const factors = [...weights].map(([unit, weight]): readonly [string, number, number] => {
    const { model = 0, shop = 0 } = counted.get(unit) ?? {};
    const documented = weight / total;
    const ofShop = (SHOP_CONCENTRATION * documented + Math.max(0, shop - model)) / (SHOP_CONCENTRATION + elsewhere);
    const ofModel = (MODEL_CONCENTRATION * ofShop + model) / (MODEL_CONCENTRATION + here);
    return [unit, documented, Math.min(MOST_FACTOR, Math.max(LEAST_FACTOR, documented > 0 ? ofModel / documented : 1))];
  });
  const kept = factors.reduce((all, [, documented, factor]) => all + documented * factor, 0);
  return new Map(
    factors.map(([unit, , factor]) => {
      const { model = 0, shop = 0 } = counted.get(unit) ?? {};
      return [unit, { factor: factor / kept, model, shop }];
    }),
  );
}
