const { log, sqrt } = Math;

/** A pivot this small against its own diagonal entry is rounding error: the matrix has no such factor. */
const LEAST_PIVOT = 1e-14;

/**
 * Cholesky factor L (lower, row-major) of a symmetric d x d matrix A = L L^T, in place of its lower half (Golub and Van Loan, Matrix
 * Computations, section 4.2).
 *
 * @returns log of the determinant of A; null where A is not positive definite, and the matrix is then left half done
 */
export function choleskyInPlace(matrix: Float64Array, d: number): number | null {
  let logDeterminant = 0;
  for (let j = 0; j < d; j += 1) {
    const given = matrix[j * d + j];
    let diagonal = given;
    for (let k = 0; k < j; k += 1) diagonal -= matrix[j * d + k] ** 2;
    if (!(diagonal > LEAST_PIVOT * given)) return null;
    const root = sqrt(diagonal);
    matrix[j * d + j] = root;
    logDeterminant += 2 * log(root);
    for (let i = j + 1; i < d; i += 1) {
      let sum = matrix[i * d + j];
      for (let k = 0; k < j; k += 1) sum -= matrix[i * d + k] * matrix[j * d + k];
      matrix[i * d + j] = sum / root;
    }
  }
  return logDeterminant;
}

/** Solves L z = v in place. @param lower a factor of {@link choleskyInPlace} */
export function forwardInPlace(lower: Float64Array, d: number, vector: Float64Array): void {
  for (let i = 0; i < d; i += 1) {
    let sum = vector[i];
    for (let k = 0; k < i; k += 1) sum -= lower[i * d + k] * vector[k];
    vector[i] = sum / lower[i * d + i];
  }
}

/**
 * The inverse of L L^T, one column after the other.
 * @param lower a factor of {@link choleskyInPlace}; @param out d x d, overwritten; @param column storage for d numbers
 */
export function inverseFromFactor(lower: Float64Array, d: number, out: Float64Array, column: Float64Array): void {
  for (let at = 0; at < d; at += 1) {
    column.fill(0);
    column[at] = 1;
    forwardInPlace(lower, d, column);
    for (let i = d - 1; i >= 0; i -= 1) {
      let sum = column[i];
      for (let k = i + 1; k < d; k += 1) sum -= lower[k * d + i] * column[k];
      column[i] = sum / lower[i * d + i];
    }
    for (let i = 0; i < d; i += 1) out[i * d + at] = column[i];
  }
}
