// Taken out of Math once: these run millions of times.
const { exp, log, log1p, max, min, sqrt } = Math;

/** In-place Cholesky factor (lower) of a d x d matrix; returns its log determinant. */
export function choleskyInPlace(matrix: Float64Array, d: number): number {
  let logDeterminant = 0;
  for (let j = 0; j < d; j += 1) {
    let diagonal = matrix[j * d + j] as number;
    for (let k = 0; k < j; k += 1) diagonal -= (matrix[j * d + k] as number) ** 2;
    const root = sqrt(max(diagonal, 1e-300));
    matrix[j * d + j] = root;
    logDeterminant += 2 * log(root);
    for (let i = j + 1; i < d; i += 1) {
      let sum = matrix[i * d + j] as number;
      for (let k = 0; k < j; k += 1) sum -= (matrix[i * d + k] as number) * (matrix[j * d + k] as number);
      matrix[i * d + j] = sum / root;
    }
  }
  return logDeterminant;
}

/** Solves L z = v in place. */
export function forwardInPlace(lower: Float64Array, d: number, vector: Float64Array): void {
  for (let i = 0; i < d; i += 1) {
    let sum = vector[i] as number;
    for (let k = 0; k < i; k += 1) sum -= (lower[i * d + k] as number) * (vector[k] as number);
    vector[i] = sum / (lower[i * d + i] as number);
  }
}

/** log of a sum of two numbers given by their logarithms. */
export function logAdd(a: number, b: number): number {
  const high = max(a, b);
  return high === Number.NEGATIVE_INFINITY ? high : high + log1p(exp(min(a, b) - high));
}
