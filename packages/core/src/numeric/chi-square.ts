import { normalCdf } from "./statistics";

/**
 * Probability that the sum of `count` squared standard normal numbers is at least `squares`.
 * @see Wilson and Hilferty (1931): its cube root is nearly normal; within a few per cent of the probability from one number on
 */
export function chiSquareTail(squares: number, count: number): number {
  if (count === 0) return 1;
  const variance = 2 / (9 * count);
  return normalCdf((1 - variance - Math.cbrt(squares / count)) / Math.sqrt(variance));
}
