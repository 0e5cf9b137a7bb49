/** A seeded source of random numbers; the same seed gives the same sequence on every machine. */
export interface Random {
  /** Uniform in [0, 1). */
  uniform(): number;
  /** Normal with mean 0 and standard deviation 1. */
  normal(): number;
  /** Integer in [0, n). */
  below(n: number): number;
  /** Index drawn in proportion to non-negative weights. */
  weighted(weights: readonly number[]): number;
}

/** Seeded generator (32-bit state, splitmix-style output mixing; period 2^32). */
export function seededRandom(seed: number): Random {
  let state = (Math.imul(seed | 0, 0x9e3779b1) ^ 0x5bf03635) >>> 0;
  const uniform = (): number => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = state;
    mixed = Math.imul(mixed ^ (mixed >>> 15), mixed | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
  return {
    uniform,
    normal: () => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform()),
    below: (n) => Math.floor(uniform() * n),
    weighted: (weights) => {
      const total = weights.reduce((sum, weight) => sum + weight, 0);
      let left = uniform() * total;
      for (let index = 0; index < weights.length; index += 1) {
        left -= weights[index] ?? 0;
        if (left < 0) return index;
      }
      return weights.length - 1;
    },
  };
}
