/** Work in steps: between two of them whoever drives it may do something else, or stop. */
export type Steps<T> = Generator<void, T, void>;

/** Does all of the work at once. @returns what it comes to */
export function finished<T>(steps: Steps<T>): T {
  for (;;) {
    const { done, value } = steps.next();
    if (done === true) return value;
  }
}

/** A list in pieces of so many, the last one shorter. */
export function piecesOf<T>(list: readonly T[], most: number): T[][] {
  return Array.from({ length: Math.ceil(list.length / most) }, (_, at) => list.slice(at * most, (at + 1) * most));
}
