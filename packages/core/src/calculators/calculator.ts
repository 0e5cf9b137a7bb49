/** A number of a calculator: what it is, in which base unit, and what it can be. */
export interface CalculatorField {
  readonly id: string;
  readonly title: string;
  /** Base unit its value is kept in; empty for a bare number. */
  readonly unit: string;
  /** What it is unless somebody says otherwise; null for the one that is asked for. */
  readonly usual: number | null;
  /** Limits of what it can be. */
  readonly least?: number;
  readonly most?: number;
  /** Whether a stated tolerance is one of this number: of parts, not of what is read. */
  readonly tolerant?: boolean;
}

/** Values by field, in base units. */
export type CalculatorValues = Readonly<Record<string, number>>;

/** One of the values; every field of a calculator has one by the time it is solved. */
export function at(values: CalculatorValues, id: string): number {
  return values[id] as number;
}

/** Something else that follows from the same numbers. */
export interface AlsoFollows {
  readonly title: string;
  readonly value: number;
  readonly unit: string;
}

/** One piece of the trade's arithmetic: its numbers, and how each of them follows from the others. */
export interface Calculator {
  readonly id: string;
  readonly title: string;
  /** What it is for, in a sentence. */
  readonly about: string;
  readonly formula: string;
  readonly source: string;
  readonly fields: readonly CalculatorField[];
  /** How a field follows from all the others; a field that is not here cannot be asked for. @throws RangeError where it does not */
  readonly solve: Readonly<Record<string, (given: CalculatorValues) => number>>;
  /** What else follows once every number is known. */
  readonly also?: (values: CalculatorValues) => readonly AlsoFollows[];
  /** The number along the foot of its drawing: how the answer changes with it. */
  readonly along: string;
}

/** An answer with its limits within the tolerance. */
export interface Calculated {
  readonly field: string;
  readonly value: number;
  readonly low: number;
  readonly high: number;
  readonly also: readonly AlsoFollows[];
}

/** Why there is no answer: which field, and what was expected. */
export interface CalculatorProblem {
  readonly code: "missing" | "none-left-empty" | "cannot-be-asked" | "limits" | "impossible";
  readonly field: string | null;
  readonly message: string;
}

export type CalculatorAnswer = { readonly ok: true; readonly answer: Calculated } | { readonly ok: false; readonly problem: CalculatorProblem };

/** Numbers whose tolerance is tried at both ends together; more would be too many. */
const MOST_TOLERANT = 6;

function fieldOf({ fields }: Calculator, id: string): CalculatorField {
  const found = fields.find((field) => field.id === id);
  if (found === undefined) throw new RangeError(`there is no field "${id}"`);
  return found;
}

function refused(code: CalculatorProblem["code"], field: string | null, message: string): CalculatorAnswer {
  return { ok: false, problem: { code, field, message } };
}

/** The first number outside its limits; null where all are inside. */
function outside({ fields }: Calculator, given: CalculatorValues): CalculatorAnswer | null {
  for (const { id, title, unit, least = Number.NEGATIVE_INFINITY, most = Number.POSITIVE_INFINITY } of fields) {
    const value = given[id];
    if (value === undefined || (value >= least && value <= most)) continue;
    const ends = most === Number.POSITIVE_INFINITY ? `${least} or more` : least === Number.NEGATIVE_INFINITY ? `${most} or less` : `${least} to ${most}`;
    return refused("limits", id, `${`${title} is ${value} ${unit}`.trimEnd()}; expected ${ends}`);
  }
  return null;
}

/** All answers with the tolerant numbers at either end of their tolerance. */
function corners(solve: (given: CalculatorValues) => number, given: CalculatorValues, tolerant: readonly string[], share: number): number[] {
  if (share === 0 || tolerant.length === 0) return [];
  const varied = tolerant.slice(0, MOST_TOLERANT);
  return Array.from({ length: 2 ** varied.length }, (_, corner) => {
    const moved = Object.fromEntries(varied.map((id, bit) => [id, (given[id] ?? 0) * (1 + ((corner >> bit) & 1 ? share : -share))]));
    return solve({ ...given, ...moved });
  });
}

/**
 * Solves a calculator for the one number that was left empty.
 *
 * @param given numbers in base units; the field that is asked for is left out
 * @param tolerance relative tolerance of the parts among them, e.g. 0.01
 */
export function calculate(calculator: Calculator, given: CalculatorValues, tolerance = 0): CalculatorAnswer {
  const empty = calculator.fields.filter(({ id }) => given[id] === undefined);
  const [asked, more] = empty;
  if (asked === undefined) return refused("none-left-empty", null, "every number is given; leave the one empty that is to be computed");
  if (more !== undefined) return refused("missing", more.id, `${more.title} is missing as well; only one number can be left empty`);
  const solve = calculator.solve[asked.id];
  if (solve === undefined) return refused("cannot-be-asked", asked.id, `${asked.title} cannot be computed from the others`);
  const wrong = outside(calculator, given);
  if (wrong !== null) return wrong;
  try {
    const value = solve(given);
    if (!Number.isFinite(value)) return refused("impossible", asked.id, `no ${asked.title.toLowerCase()} fits these numbers`);
    const beyond = outside(calculator, { [asked.id]: value });
    if (beyond !== null)
      return refused(
        "impossible",
        asked.id,
        `no ${asked.title.toLowerCase()} fits these numbers: it would be ${Number(value.toPrecision(4))} ${asked.unit}`.trimEnd(),
      );
    const tolerant = calculator.fields.flatMap(({ id, tolerant: own }) => (own === true && id !== asked.id ? [id] : []));
    const others = corners(solve, given, tolerant, tolerance).filter(Number.isFinite);
    const values = { ...given, [asked.id]: value };
    return {
      ok: true,
      answer: { field: asked.id, value, low: Math.min(value, ...others), high: Math.max(value, ...others), also: calculator.also?.(values) ?? [] },
    };
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    return refused("impossible", asked.id, error.message);
  }
}

const CURVE_POINTS = 81;

/** How the answer changes with one of the numbers, around the one given: places where there is no answer are left out. */
export function answerAlong(calculator: Calculator, given: CalculatorValues, along: string): { x: number; y: number }[] {
  const { least = Number.NEGATIVE_INFINITY, most = Number.POSITIVE_INFINITY } = fieldOf(calculator, along);
  const here = given[along];
  if (here === undefined) return [];
  const span = Math.abs(here) > 1e-12 ? Math.abs(here) : 1;
  const [from, to] = [Math.max(least, here - span), Math.min(most, here + span)];
  return Array.from({ length: CURVE_POINTS }, (_, index) => from + ((to - from) * index) / (CURVE_POINTS - 1)).flatMap((x) => {
    const found = calculate(calculator, { ...given, [along]: x });
    return found.ok ? [{ x, y: found.answer.value }] : [];
  });
}
