import type { SparseFactor } from "../numeric";

/**
 * The inverse of a network's conductance matrix. Columns and rows are computed when somebody asks for them: a reading touches
 * two nodes, a fault two more. What is returned is shared; callers only read it.
 */
export interface Inverse {
  /** Node voltages, volts for one ampere put into a node row. */
  column(row: number): Float64Array;
  /** What one node's voltage gains from one ampere put into each node row. */
  row(row: number): Float64Array;
}

/** The inverse behind a sparse factor, which it keeps. @param symmetric whether no controlled source acts: then rows are columns */
export function factoredInverse(factor: SparseFactor, symmetric: boolean): Inverse {
  const { n } = factor.pattern;
  const columns: (Float64Array | undefined)[] = [];
  const rows: (Float64Array | undefined)[] = symmetric ? columns : [];
  const known = (kept: (Float64Array | undefined)[], at: number, solve: (at: number, out: Float64Array) => void): Float64Array => {
    let found = kept[at];
    if (found === undefined) {
      found = new Float64Array(n);
      solve(at, found);
      kept[at] = found;
    }
    return found;
  };
  const solveColumn = (at: number, out: Float64Array): void => factor.inverseColumn(at, out);
  const solveRow = symmetric ? solveColumn : (at: number, out: Float64Array): void => factor.inverseRow(at, out);
  return { column: (at) => known(columns, at, solveColumn), row: (at) => known(rows, at, solveRow) };
}

/** An inverse that was computed whole, n x n row-major. */
export function denseInverse(matrix: Float64Array, n: number): Inverse {
  return {
    column: (at) => Float64Array.from({ length: n }, (_, row) => matrix[row * n + at]),
    row: (at) => matrix.subarray(at * n, (at + 1) * n),
  };
}
