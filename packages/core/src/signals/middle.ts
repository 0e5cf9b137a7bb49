/** The middle one of some values, of two the upper; null for none. */
export function middleOf(values: readonly number[]): number | null {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[sorted.length >> 1] ?? null;
}
