/** What is known of a car's life that makes some damage likelier. */
export const HINTS = ["recent-work", "water", "heat", "high-mileage", "repaired-loom"] as const;
export type Hint = (typeof HINTS)[number];

/**
 * How much likelier each hint makes a kind of damage, by part and kind as in the table of priors; a part alone (`contact`)
 * counts for all its kinds. Judgement, documented in docs/priors.md; factors of several hints multiply.
 */
const MULTIPLIERS: Readonly<Record<Hint, Readonly<Record<string, number>>>> = {
  "recent-work": { "contact/open": 3, "contact/loose": 3, "contact/swapped": 5, "sensor/wrong-variant": 4, "wire/short-ground": 1.5, "outside/no-target": 2 },
  water: { "contact/corroded": 4, "contact/bridged": 8, "wire/resistance": 2.5, "wire/short-to": 2, "ground/dirty": 2, "heater/open": 1.5 },
  heat: { "wire/short-ground": 2, "wire/short-to": 2.5, "wire/open": 1.5, "sensor/hot": 4, "sensor/open": 1.5, "heater/open": 1.5 },
  "high-mileage": { "sensor/noisy": 2, "sensor/skewed": 1.5, "sensor/weak": 2, "sensor/slow": 2.5, "battery/weak": 1.5, "ground/dirty": 1.5 },
  "repaired-loom": { "wire/open": 2.5, "wire/resistance": 3, "contact/open": 2, "contact/swapped": 6, "wire/short-to": 2 },
};

/** The factor that hints put on a fault's prior. @param part and `kind` as in the table of priors, e.g. `contact`, `corroded` */
export function hintFactor(hints: readonly Hint[], part: string, kind: string): number {
  return hints.reduce((factor, hint) => factor * (MULTIPLIERS[hint][`${part}/${kind}`] ?? MULTIPLIERS[hint][part] ?? 1), 1);
}

/** The hints among a file's words; others are kept in the file and weigh nothing. */
export function hintsAmong(words: readonly string[]): Hint[] {
  return HINTS.filter((hint) => words.includes(hint));
}
