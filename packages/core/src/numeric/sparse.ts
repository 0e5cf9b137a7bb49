/**
 * Where a sparse square matrix has entries, with the order in which its rows are eliminated (fewest neighbours first) and the
 * entries that elimination fills in. Everything is by position in that order; the pattern is symmetric and leaves out the diagonal.
 */
export interface SparsePattern {
  readonly n: number;
  /** Row of the matrix at each position, and the other way round. */
  readonly order: Int32Array;
  readonly place: Int32Array;
  /** Entries of position i are `start[i]` to `start[i + 1]`, by rising column; those from `upper[i]` on lie right of the diagonal. */
  readonly start: Int32Array;
  readonly upper: Int32Array;
  readonly columns: Int32Array;
}

/** Eliminates the row with the fewest neighbours again and again; each elimination makes its neighbours know one another. */
function eliminationOf(neighbours: Set<number>[]): { order: Int32Array; later: number[][] } {
  const n = neighbours.length;
  const order = new Int32Array(n);
  const later: number[][] = [];
  const left = new Set(Array.from({ length: n }, (_, row) => row));
  for (let position = 0; position < n; position += 1) {
    let best = -1;
    for (const row of left) if (best < 0 || neighbours[row].size < neighbours[best].size) best = row;
    left.delete(best);
    order[position] = best;
    const own = [...neighbours[best]];
    later.push(own);
    for (const row of own) {
      const known = neighbours[row];
      known.delete(best);
      for (const other of own) if (other !== row) known.add(other);
    }
  }
  return { order, later };
}

/**
 * Finds the elimination order and fill of a sparse n x n matrix (minimum degree).
 * @param pairs rows and columns that have an entry, in any order; their mirror images are added, the diagonal is ignored
 */
export function analysePattern(n: number, pairs: Iterable<readonly [row: number, column: number]>): SparsePattern {
  const neighbours = Array.from({ length: n }, () => new Set<number>());
  for (const [row, column] of pairs) {
    if (row === column || row < 0 || column < 0) continue;
    neighbours[row].add(column);
    neighbours[column].add(row);
  }
  const { order, later } = eliminationOf(neighbours);
  const place = new Int32Array(n);
  order.forEach((row, position) => {
    place[row] = position;
  });
  const rows: number[][] = Array.from({ length: n }, () => []);
  later.forEach((own, position) => {
    for (const row of own) {
      const at = place[row];
      rows[at].push(position);
      rows[position].push(at);
    }
  });
  const start = new Int32Array(n + 1);
  const upper = new Int32Array(n);
  const columns = new Int32Array(rows.reduce((sum, row) => sum + row.length, 0));
  rows.forEach((row, position) => {
    row.sort((a, b) => a - b);
    const from = start[position];
    columns.set(row, from);
    start[position + 1] = from + row.length;
    upper[position] = from + row.filter((column) => column < position).length;
  });
  return { n, order, place, start, upper, columns };
}

/** Index of an entry among a pattern's values, by rows and columns of the matrix; -1 for the diagonal and for datum rows. */
export function entryOf({ place, start, columns }: SparsePattern, row: number, column: number): number {
  if (row < 0 || column < 0 || row === column) return -1;
  const position = place[row];
  const wanted = place[column];
  for (let at = start[position]; at < start[position + 1]; at += 1) if (columns[at] === wanted) return at;
  return -1;
}

/** A pivot that is this small a part of what was added up to it is rounding error. */
const LEAST_PIVOT_SHARE = 1e-9;

/**
 * LU factors of a sparse matrix given by its off-diagonal entries and its row sums. The diagonal is never subtracted from: each
 * pivot is added up from the row's sum and entries (Grassmann, Taksar and Heyman 1985), so in a network of conductances not a digit
 * is lost, however faintly a node hangs on the rest.
 */
export class SparseFactor {
  /** Off-diagonal entries in, factors out; index as in the pattern. */
  readonly values: Float64Array;
  /** Row sums in (by matrix row). */
  readonly sums: Float64Array;
  private readonly excess: Float64Array;
  private readonly pivots: Float64Array;
  private readonly row: Float64Array;

  constructor(readonly pattern: SparsePattern) {
    const { n, columns } = pattern;
    this.values = new Float64Array(columns.length);
    this.sums = new Float64Array(n);
    this.excess = new Float64Array(n);
    this.pivots = new Float64Array(n);
    this.row = new Float64Array(n);
  }

  /** Factors what `values` and `sums` hold, in place. @returns false when a pivot cannot be trusted */
  factor(): boolean {
    const { values, sums, excess, pivots, row } = this;
    const { n, order, start, upper, columns } = this.pattern;
    for (let i = 0; i < n; i += 1) {
      const [from, middle, to] = [start[i], upper[i], start[i + 1]];
      for (let at = from; at < to; at += 1) row[columns[at]] = values[at];
      let sum = sums[order[i]];
      for (let at = from; at < middle; at += 1) {
        const k = columns[at];
        const factor = row[k] / pivots[k];
        values[at] = factor;
        if (factor === 0) continue;
        sum -= factor * excess[k];
        const end = start[k + 1];
        for (let other = upper[k]; other < end; other += 1) {
          const column = columns[other];
          row[column] = row[column] - factor * values[other];
        }
      }
      let pivot = sum;
      let size = sum < 0 ? -sum : sum;
      for (let at = middle; at < to; at += 1) {
        const value = row[columns[at]];
        values[at] = value;
        pivot -= value;
        size += value < 0 ? -value : value;
      }
      if (!(pivot > LEAST_PIVOT_SHARE * size)) return false;
      excess[i] = sum;
      pivots[i] = pivot;
    }
    return true;
  }

  /** Solves for one right side (by matrix row), written to `out`; they may be the same array. */
  solve(right: Float64Array, out: Float64Array): void {
    const { n, order } = this.pattern;
    const { row } = this;
    for (let i = 0; i < n; i += 1) row[i] = right[order[i]];
    this.substitute(0);
    for (let i = 0; i < n; i += 1) out[order[i]] = row[i];
  }

  /** Writes one column of the inverse, by matrix row. */
  inverseColumn(at: number, out: Float64Array): void {
    const { n, order, place } = this.pattern;
    const { row } = this;
    const position = place[at];
    row.fill(0);
    row[position] = 1;
    this.substitute(position);
    for (let i = 0; i < n; i += 1) out[order[i]] = row[i];
  }

  /** Writes one row of the inverse, by matrix row: a column of the transposed one. */
  inverseRow(at: number, out: Float64Array): void {
    const { values, pivots, row } = this;
    const { n, order, place, start, upper, columns } = this.pattern;
    row.fill(0);
    row[place[at]] = 1;
    for (let i = place[at]; i < n; i += 1) {
      const own = row[i] / pivots[i];
      row[i] = own;
      const to = start[i + 1];
      for (let entry = upper[i]; entry < to; entry += 1) {
        const column = columns[entry];
        row[column] = row[column] - values[entry] * own;
      }
    }
    for (let i = n - 1; i >= 0; i -= 1) {
      const own = row[i];
      const middle = upper[i];
      for (let entry = start[i]; entry < middle; entry += 1) {
        const column = columns[entry];
        row[column] = row[column] - values[entry] * own;
      }
    }
    for (let i = 0; i < n; i += 1) out[order[i]] = row[i];
  }

  /** Forward and back substitution of the right side in `row`, which is zero before a position. */
  private substitute(first: number): void {
    const { values, pivots, row } = this;
    const { n, start, upper, columns } = this.pattern;
    for (let i = first + 1; i < n; i += 1) {
      let sum = row[i];
      const middle = upper[i];
      for (let at = start[i]; at < middle; at += 1) sum -= values[at] * row[columns[at]];
      row[i] = sum;
    }
    for (let i = n - 1; i >= 0; i -= 1) {
      let sum = row[i];
      const to = start[i + 1];
      for (let at = upper[i]; at < to; at += 1) sum -= values[at] * row[columns[at]];
      row[i] = sum / pivots[i];
    }
  }
}
