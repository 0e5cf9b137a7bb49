import { QUIET_SHARE } from "../faults";
import { scaleOf } from "../instruments";
import { logSumExp } from "../numeric";
import { type PredictionTable, priorVariance } from "./tables";

// Taken out of Math once: these run millions of times.
const { exp, log, log1p, max, min, sqrt } = Math;

/** How often a reading is slipped, before anything is known about it. */
export const BLUNDER_SHARE = 0.03;
const LOG_TWO_PI = log(2 * Math.PI);
const LEAST_LOG = -60;
/** Pairs of slips are weighed among this many most doubtful readings. */
const PAIRED = 5;

/** A reading ready to be weighed: its table and what was observed. */
export interface Observation {
  readonly id: string;
  readonly table: PredictionTable;
  /** Volts or log ohms; null when a word was read. */
  readonly number: number | null;
  /** Index into the table's words; -1 when a number was read. */
  readonly word: number;
}

/** How the observations fit every point. */
export interface Evidence {
  /** log P(all observations | point), slips allowed for. */
  readonly logLikelihood: Float64Array;
  /** P(observation slipped | point), row-major by point. */
  readonly slipped: Float64Array;
  /** log P(one observation alone | point), slips allowed for, row-major by point. */
  readonly single: Float64Array;
}

/** Log density of a slipped reading: uniform over what the meter can show. */
export function logBroad(observation: Observation): number {
  const { table } = observation;
  if (observation.number === null) return -log(max(2, table.wordNames.length));
  return log(scaleOf(table.probe).broad);
}

function logWord(table: PredictionTable, point: number, word: number): number {
  return max(LEAST_LOG, log((table.words[(table.slot[point] as number) * table.wordNames.length + word] as number) + 1e-30));
}

/** Log probability that a number (any number) is shown rather than a word. */
function logNumeric(table: PredictionTable, point: number): number {
  const words = table.wordNames.length;
  const at = (table.slot[point] as number) * words;
  let sum = 0;
  for (let word = 0; word < words; word += 1) sum += table.words[at + word] as number;
  return max(LEAST_LOG, log(max(1e-30, 1 - sum)));
}

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
function logAdd(a: number, b: number): number {
  const high = max(a, b);
  return high + log1p(exp(min(a, b) - high));
}

const LOG_QUIET = log(QUIET_SHARE / (1 - QUIET_SHARE));

/** Log weight of "an intermittent fault stayed quiet for this number", against showing; minus infinity elsewhere. */
function logStayedQuiet(observation: Observation, point: number, d: number): number {
  const { table, number } = observation;
  const twin = table.quiet[point] as number;
  if (twin < 0 || number === null) return Number.NEGATIVE_INFINITY;
  const variance = priorVariance(table, twin, d);
  const miss = number - (table.mean[table.slot[twin] as number] as number);
  return LOG_QUIET - 0.5 * (LOG_TWO_PI + log(variance) + (miss * miss) / variance);
}

function noiseAt({ table }: Observation, point: number): number {
  return table.noise[table.slot[point] as number] as number;
}

/**
 * Weighs observations on every point. The numbers are jointly normal through the shared tolerances; patterns of none, one or
 * two slipped readings are summed over, so the order of readings cannot matter. Leave-one-out terms come from the
 * precision matrix (standard Gaussian identities).
 *
 * @param d number of shared variables
 */
export function weigh(observations: readonly Observation[], points: number, d: number): Evidence {
  const total = observations.length;
  const logLikelihood = new Float64Array(points);
  const slipped = new Float64Array(points * total);
  const single = new Float64Array(points * total);
  const numbers = observations.flatMap((observation, index) => (observation.number === null ? [] : [{ observation, index }]));
  const words = observations.flatMap((observation, index) => (observation.number === null ? [{ observation, index }] : []));
  const n = numbers.length;
  const logSlip = log(BLUNDER_SHARE / (1 - BLUNDER_SHARE));
  const base = total * log(1 - BLUNDER_SHARE);
  const broad = observations.map(logBroad);
  const scaled = new Float64Array(n * d);
  const residual = new Float64Array(n);
  /** Covariance of the scaled numbers, its Cholesky factor, and its inverse; n x n. */
  const spread = new Float64Array(n * n);
  const precision = new Float64Array(n * n);
  const column = new Float64Array(n);
  const gain = new Float64Array(n);
  const weighted = new Float64Array(n);
  const conditional = new Float64Array(n);
  /** Log weight of everything else a number can be: slipped, or taken while the fault stayed quiet. */
  const otherwise = new Float64Array(n);
  const slipPart = new Float64Array(n);
  const patterns: number[] = [];
  const patternMembers: [number, number][] = [];

  for (let point = 0; point < points; point += 1) {
    let wordLog = 0;
    for (const { observation, index } of words) {
      const clean = observation.word < 0 ? 0 : logWord(observation.table, point, observation.word);
      const slip = logSlip + (broad[index] as number);
      const both = observation.word < 0 ? 0 : logSumExp([clean, slip]);
      wordLog += both;
      slipped[point * total + index] = observation.word < 0 ? 0 : exp(slip - both);
      single[point * total + index] = both;
    }
    if (n === 0) {
      logLikelihood[point] = base + wordLog;
      continue;
    }
    let logNoise = 0;
    let showNumber = 0;
    for (let i = 0; i < n; i += 1) {
      const { observation, index } = numbers[i] as (typeof numbers)[number];
      const { table } = observation;
      const slot = table.slot[point] as number;
      const noise = table.noise[slot] as number;
      const scale = 1 / sqrt(noise);
      const r = ((observation.number as number) - (table.mean[slot] as number)) * scale;
      residual[i] = r;
      logNoise += log(noise);
      const shown = table.wordNames.length === 0 ? 0 : logNumeric(table, point);
      showNumber += shown;
      for (let k = 0; k < d; k += 1) scaled[i * d + k] = (table.jacobian[slot * d + k] as number) * scale;
      for (let j = 0; j <= i; j += 1) {
        let product = i === j ? 1 : 0;
        for (let k = 0; k < d; k += 1) product += (scaled[i * d + k] as number) * (scaled[j * d + k] as number);
        spread[i * n + j] = product;
      }
      const variance = spread[i * n + i] as number;
      const alone = shown - 0.5 * (LOG_TWO_PI + log(noise * variance) + (r * r) / variance);
      const slip = logSlip + (broad[index] as number);
      otherwise[i] = logAdd(slip, logStayedQuiet(observation, point, d));
      slipPart[i] = exp(slip - (otherwise[i] as number));
      single[point * total + index] = logAdd(alone, otherwise[i] as number);
    }
    const logDeterminant = choleskyInPlace(spread, n);
    invertFactor();
    let quadratic = 0;
    for (let i = 0; i < n; i += 1) {
      let sum = 0;
      for (let j = 0; j < n; j += 1) sum += (precision[i * n + j] as number) * (residual[j] as number);
      weighted[i] = sum;
      quadratic += sum * (residual[i] as number);
    }
    const joint = showNumber - 0.5 * (n * LOG_TWO_PI + logNoise + logDeterminant + quadratic);
    patterns.length = 0;
    patternMembers.length = 0;
    patterns.push(joint);
    patternMembers.push([-1, -1]);
    for (let i = 0; i < n; i += 1) {
      const own = max(1e-12, precision[i * n + i] as number);
      gain[i] = own;
      const { observation } = numbers[i] as (typeof numbers)[number];
      const shown = observation.table.wordNames.length === 0 ? 0 : logNumeric(observation.table, point);
      const noise = observation.table.noise[observation.table.slot[point] as number] as number;
      const miss = (weighted[i] as number) ** 2 / own;
      conditional[i] = shown - 0.5 * (LOG_TWO_PI + log(noise / own) + miss);
      patterns.push(joint - (conditional[i] as number) + (otherwise[i] as number));
      patternMembers.push([i, -1]);
    }
    if (n >= 2) addPairs(point);
    const sum = logSumExp(patterns);
    logLikelihood[point] = base + wordLog + sum;
    for (let pattern = 1; pattern < patterns.length; pattern += 1) {
      const share = exp((patterns[pattern] as number) - sum);
      if (share < 1e-9) continue;
      for (const member of patternMembers[pattern] as [number, number]) {
        if (member < 0) continue;
        const at = point * total + (numbers[member] as (typeof numbers)[number]).index;
        slipped[at] = (slipped[at] as number) + share * (slipPart[member] as number);
      }
    }
  }

  /** Fills `precision` with the inverse of the matrix whose Cholesky factor is in `spread`. */
  function invertFactor(): void {
    for (let at = 0; at < n; at += 1) {
      column.fill(0);
      column[at] = 1;
      forwardInPlace(spread, n, column);
      for (let i = n - 1; i >= 0; i -= 1) {
        let sum = column[i] as number;
        for (let k = i + 1; k < n; k += 1) sum -= (spread[k * n + i] as number) * (column[k] as number);
        column[i] = sum / (spread[i * n + i] as number);
      }
      for (let i = 0; i < n; i += 1) precision[i * n + at] = column[i] as number;
    }
  }

  /** Adds patterns of two slipped readings among the most doubtful ones. */
  function addPairs(point: number): void {
    const doubtful = Array.from({ length: n }, (_, i) => i);
    if (n > PAIRED) doubtful.sort((a, b) => (conditional[a] as number) - (conditional[b] as number)).length = PAIRED;
    const joint = patterns[0] as number;
    for (let first = 0; first < doubtful.length; first += 1) {
      for (let second = first + 1; second < doubtful.length; second += 1) {
        const [i, j] = [doubtful[first] as number, doubtful[second] as number];
        const cross = precision[i * n + j] as number;
        const [a, b] = [gain[i] as number, gain[j] as number];
        const determinant = max(1e-24, a * b - cross * cross);
        const [u, v] = [weighted[i] as number, weighted[j] as number];
        const miss = (b * u * u - 2 * cross * u * v + a * v * v) / determinant;
        const [left, right] = [numbers[i], numbers[j]] as [(typeof numbers)[number], (typeof numbers)[number]];
        const noise = noiseAt(left.observation, point) * noiseAt(right.observation, point);
        const shown =
          (left.observation.table.wordNames.length === 0 ? 0 : logNumeric(left.observation.table, point)) +
          (right.observation.table.wordNames.length === 0 ? 0 : logNumeric(right.observation.table, point));
        const together = shown - 0.5 * (2 * LOG_TWO_PI + log(noise / determinant) + miss);
        patterns.push(joint - together + (otherwise[i] as number) + (otherwise[j] as number));
        patternMembers.push([i, j]);
      }
    }
  }
  return { logLikelihood, slipped, single };
}
