/** Why a matrix could not be factored: the row where every pivot vanished. */
export interface Singular {
  readonly row: number;
}

function size(value: number): number {
  return value < 0 ? -value : value;
}

function largestOf(matrix: Float64Array, count: number): number {
  let largest = 0;
  for (let index = 0; index < count; index += 1) {
    const candidate = size(matrix[index]);
    if (candidate > largest) largest = candidate;
  }
  return largest;
}

/**
 * Inverts a dense n x n matrix (row-major) in place by Gauss-Jordan elimination with partial pivoting.
 * Pivots are judged against the largest entry of the matrix, never against exact zero.
 *
 * @returns null when done, or the row that is undetermined
 */
export function invertInPlace(matrix: Float64Array, n: number): Singular | null {
  const tiny = 1e-17 * largestOf(matrix, n * n);
  const swaps = new Int32Array(n);
  for (let column = 0; column < n; column += 1) {
    let pivotRow = column;
    let pivotSize = size(matrix[column * n + column]);
    for (let row = column + 1; row < n; row += 1) {
      const candidate = size(matrix[row * n + column]);
      if (candidate > pivotSize) {
        pivotSize = candidate;
        pivotRow = row;
      }
    }
    if (!(pivotSize > tiny)) return { row: column };
    swaps[column] = pivotRow;
    const base = column * n;
    if (pivotRow !== column) {
      const other = pivotRow * n;
      for (let k = 0; k < n; k += 1) {
        const kept = matrix[base + k];
        matrix[base + k] = matrix[other + k];
        matrix[other + k] = kept;
      }
    }
    const scale = 1 / matrix[base + column];
    matrix[base + column] = 1;
    for (let k = 0; k < n; k += 1) matrix[base + k] = matrix[base + k] * scale;
    for (let row = 0; row < n; row += 1) {
      if (row === column) continue;
      const at = row * n;
      const factor = matrix[at + column];
      if (factor === 0) continue;
      matrix[at + column] = 0;
      const end = at + n;
      for (let target = at, from = base; target < end; target += 1, from += 1) {
        matrix[target] = matrix[target] - factor * matrix[from];
      }
    }
  }
  for (let column = n - 1; column >= 0; column -= 1) {
    const other = swaps[column];
    if (other === column) continue;
    for (let row = 0; row < n; row += 1) {
      const at = row * n;
      const kept = matrix[at + column];
      matrix[at + column] = matrix[at + other];
      matrix[at + other] = kept;
    }
  }
  return null;
}
