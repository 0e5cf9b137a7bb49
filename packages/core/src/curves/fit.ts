import type { SpecCurve } from "@fox-lamp/language";
import { Matrix, solve } from "ml-matrix";
import { type SteinhartHart, steinhartHartOhms } from "../arithmetic";
import { kelvinFromCelsius } from "../units";
import { monotoneSpline } from "./spline";

type Points = SpecCurve["points"];
type Kind = SpecCurve["kind"];

/** The laws a curve can be laid through. */
export const FIT_LAWS = ["linear", "beta", "steinhart-hart", "spline"] as const;
export type FitLaw = (typeof FIT_LAWS)[number];

/** A curve laid through points. */
export interface Fit {
  readonly law: FitLaw;
  /** What is shown at a value of what is sensed, base units. */
  readonly at: (x: number) => number;
  /** What is sensed where this is shown; null outside the points. */
  readonly from: (y: number) => number | null;
  /** Per point, in the order given: how far it lies from the curve, as a share (of itself, or of the whole span where volts are shown). */
  readonly errors: readonly number[];
  /** Places of the points that do not fit the others; the curve is laid without them. */
  readonly off: readonly number[];
  /** Root of the mean square of the errors of points that fit, and the greatest of them, as shares. */
  readonly rms: number;
  readonly worst: number;
  /** Numbers of the law by name; none for a spline. */
  readonly numbers: Readonly<Record<string, number>>;
}

/** A point that does not fit lies at least this far out, as a share, and this many times as far as the others usually do. */
const LEAST_OFF: Readonly<Record<FitLaw, number>> = { linear: 0.04, beta: 0.15, "steinhart-hart": 0.08, spline: 0.15 };
const TIMES_USUAL = 4;
/** No more of the points than this share are called wrong: beyond that the law is. */
const MOST_OFF = 0.25;
const ROOM_KELVIN = kelvinFromCelsius(25);

interface Law {
  readonly at: (x: number) => number;
  readonly numbers: Readonly<Record<string, number>>;
}

/** Points each law needs. */
const LEAST_POINTS: Readonly<Record<FitLaw, number>> = { linear: 2, beta: 2, "steinhart-hart": 3, spline: 2 };

/** The laws that mean something for a kind of curve. */
export function lawsOf(kind: Kind): readonly FitLaw[] {
  return kind === "temperature-ohms" ? ["beta", "steinhart-hart", "spline"] : ["linear", "spline"];
}

/** A law that says what the points say lies this near to them in the usual case, as a share; the first one that does is offered. */
const NEAR: readonly (readonly [FitLaw, number])[] = [
  ["linear", 0.02],
  ["steinhart-hart", 0.03],
];

/** The law that describes points best without following every one of them; the spline where none does. */
export function bestLaw(kind: Kind, points: Points): FitLaw {
  const laws = lawsOf(kind);
  const found = NEAR.find(([law, share]) => {
    // As many points as numbers are met by any law.
    if (!laws.includes(law) || points.length <= LEAST_POINTS[law]) return false;
    const fit = fitCurve(kind, law, points);
    return fit !== null && fit.rms <= share;
  });
  return found?.[0] ?? "spline";
}

function isRelative(kind: Kind): boolean {
  return !kind.endsWith("-volts");
}

/** Least squares of rows against values. */
function leastSquares(rows: readonly (readonly number[])[], values: readonly number[]): number[] {
  return solve(new Matrix(rows.map((row) => [...row])), Matrix.columnVector([...values])).to1DArray();
}

function through(law: FitLaw, points: Points, relative: boolean): Law {
  const shown = points.map(([, y]) => y);
  switch (law) {
    case "linear": {
      const [offset = 0, slope = 0] = leastSquares(
        points.map(([x]) => [1, x]),
        shown,
      );
      return { at: (x) => offset + slope * x, numbers: { offset, slope } };
    }
    case "beta": {
      const inverse = (x: number): number => 1 / kelvinFromCelsius(x) - 1 / ROOM_KELVIN;
      const [log = 0, beta = 0] = leastSquares(
        points.map(([x]) => [1, inverse(x)]),
        shown.map(Math.log),
      );
      return { at: (x) => Math.exp(log + beta * inverse(x)), numbers: { ohmsAt25: Math.exp(log), beta } };
    }
    case "steinhart-hart": {
      const logs = shown.map(Math.log);
      const [a = 0, b = 0, c = 0] = leastSquares(
        logs.map((log) => [1, log, log ** 3]),
        points.map(([x]) => 1 / kelvinFromCelsius(x)),
      );
      const numbers: SteinhartHart = { a, b, c };
      return { at: (x) => steinhartHartOhms(numbers, x), numbers: { ...numbers } };
    }
    case "spline": {
      const spline = monotoneSpline(relative ? points.map(([x, y]) => [x, Math.log(Math.max(y, Number.MIN_VALUE))] as const) : points);
      return { at: relative ? (x) => Math.exp(spline(x)) : spline, numbers: {} };
    }
  }
}

/** Where a monotone curve takes a value between two ends; null where it does not. */
function inverseOf(at: (x: number) => number, least: number, most: number, y: number): number | null {
  let [low, high] = [least, most];
  const rising = at(most) > at(least);
  const above = (x: number): boolean => (rising ? at(x) > y : at(x) < y);
  const [one, other] = [at(least), at(most)];
  if (!(y >= Math.min(one, other) && y <= Math.max(one, other))) return null;
  for (let step = 0; step < 60; step += 1) {
    const middle = 0.5 * (low + high);
    if (above(middle)) high = middle;
    else low = middle;
  }
  return 0.5 * (low + high);
}

/**
 * Lays a law through points. Points that do not fit the others are found one after another: the one without
 * which the others agree best is left out while it is clearly out. @returns null where the law needs more points or cannot be laid
 */
export function fitCurve(kind: Kind, law: FitLaw, points: Points): Fit | null {
  const relative = isRelative(kind);
  if (points.length < LEAST_POINTS[law] || (relative && points.some(([, y]) => y <= 0))) return null;
  if (new Set(points.map(([x]) => x)).size < points.length) return null;
  const order = points.map((_, index) => index).sort((a, b) => (points[a]?.[0] ?? 0) - (points[b]?.[0] ?? 0));
  const shown = points.map(([, y]) => y);
  const span = Math.max(...shown) - Math.min(...shown) || 1;
  const errorAt = (at: (x: number) => number, index: number): number => {
    const [x, y] = points[index] as Points[number];
    return (at(x) - y) / (relative ? y : span);
  };
  const pick = (places: readonly number[]): Points => places.map((index) => points[index] as Points[number]);
  const off: number[] = [];
  let kept = order;
  while (off.length < Math.floor(MOST_OFF * points.length) && kept.length > LEAST_POINTS[law] + 1) {
    // A spline says nothing of its ends: beyond them it knows nothing.
    const judged = law === "spline" ? kept.slice(1, -1) : kept;
    const without = judged.map((index) => {
      const others = kept.filter((other) => other !== index);
      const { at } = through(law, pick(others), relative);
      const rest = Math.hypot(...others.map((other) => errorAt(at, other))) / Math.sqrt(others.length);
      return { index, error: Math.abs(errorAt(at, index)), rest };
    });
    // A spline meets all it is laid through: what is usual shows in how far the middle one of the others lies out.
    const middle = without.map(({ error }) => error).sort((a, b) => a - b)[Math.floor((without.length - 1) / 2)] ?? 0;
    without.sort((a, b) => (law === "spline" ? b.error - a.error : a.rest - b.rest));
    const [worst] = without;
    if (worst === undefined) break;
    const usual = law === "spline" ? middle : worst.rest;
    if (worst.error < Math.max(LEAST_OFF[law], TIMES_USUAL * usual)) break;
    off.push(worst.index);
    kept = kept.filter((index) => index !== worst.index);
  }
  const { at, numbers } = through(law, pick(kept), relative);
  const errors = points.map((_, index) => errorAt(at, index));
  if (!errors.every(Number.isFinite)) return null;
  const inside = kept.map((index) => Math.abs(errors[index] as number));
  const [least, most] = [points[order[0] as number]?.[0] ?? 0, points[order.at(-1) as number]?.[0] ?? 0];
  return {
    law,
    at,
    from: (y) => inverseOf(at, least, most, y),
    errors,
    off: off.sort((a, b) => a - b),
    rms: Math.sqrt(inside.reduce((sum, error) => sum + error ** 2, 0) / inside.length),
    worst: Math.max(...inside),
    numbers,
  };
}
