/** A number as a technician types it, or the reason why it is none. */
export type ShorthandResult =
  | { readonly ok: true; readonly value: number | "OL"; readonly unit: string | null }
  | { readonly ok: false; readonly message: string };

const MULTIPLIERS: Readonly<Record<string, number>> = {
  u: 1e-6,
  µ: 1e-6,
  μ: 1e-6,
  m: 1e-3,
  k: 1e3,
  K: 1e3,
  M: 1e6,
  G: 1e9,
};

const UNITS: Readonly<Record<string, string>> = {
  v: "V",
  volt: "V",
  volts: "V",
  a: "A",
  amp: "A",
  amps: "A",
  ohm: "ohm",
  ohms: "ohm",
  Ω: "ohm",
  ω: "ohm",
  hz: "Hz",
  "%": "%",
  degc: "degC",
  "°c": "degC",
  c: "degC",
  kpa: "kPa",
  rpm: "rpm",
};

/** Units that are kept in another one: how to get there. Pounds and inches of mercury: NIST SP 811. */
const CONVERTED: Readonly<Record<string, { readonly unit: string; readonly convert: (value: number) => number }>> = {
  degf: { unit: "degC", convert: (value) => (value - 32) / 1.8 },
  "°f": { unit: "degC", convert: (value) => (value - 32) / 1.8 },
  f: { unit: "degC", convert: (value) => (value - 32) / 1.8 },
  psi: { unit: "kPa", convert: (value) => value * 6.894757 },
  inhg: { unit: "kPa", convert: (value) => value * 3.386389 },
  bar: { unit: "kPa", convert: (value) => value * 100 },
};

const SHAPE = /^([+-]?)(\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE]([+-]?\d{1,3}))?\s*(.*)$/u;

/** Splits `kohm` into multiplier and unit; a bare unit wins over a multiplier (`m` alone is milli). */
function readSuffix(suffix: string): { multiplier: number; unit: string | null } | null {
  const text = suffix.trim();
  if (text === "") return { multiplier: 1, unit: null };
  const whole = UNITS[text.toLowerCase()];
  if (whole !== undefined) return { multiplier: 1, unit: whole };
  const multiplier = MULTIPLIERS[text.charAt(0)];
  if (multiplier === undefined) return null;
  const rest = text.slice(1).trim();
  if (rest === "") return { multiplier, unit: null };
  const unit = UNITS[rest.toLowerCase()];
  return unit === undefined ? null : { multiplier, unit };
}

/**
 * Reads engineering shorthand: `4.98`, `180m`, `103k`, `2.7M`, `4k7`, `OL`, a decimal comma, an optional unit.
 *
 * @returns the value in base units (V, ohm, A, Hz, %), the unit when one was typed, or one sentence that says what is wrong.
 */
export function parseShorthand(input: string): ShorthandResult {
  const text = input.trim().replace(/\u2212/gu, "-");
  if (text === "") return { ok: false, message: "Nothing was entered; expected a number such as 4.98, 180m, 103k or OL." };
  if (/^[+-]?o\.?l\.?$/iu.test(text)) return { ok: true, value: "OL", unit: null };
  const infix = /^([+-]?\d+)([kKM])(\d+)\s*(?:ohms?|Ω)?$/u.exec(text);
  if (infix) {
    const [, whole = "0", letter = "k", fraction = "0"] = infix;
    return { ok: true, value: Number(`${whole}.${fraction}`) * (MULTIPLIERS[letter] ?? 1), unit: null };
  }
  const match = SHAPE.exec(text);
  const converted = match ? CONVERTED[(match[4] ?? "").trim().toLowerCase()] : undefined;
  const suffix = converted ? { multiplier: 1, unit: converted.unit } : match ? readSuffix(match[4] ?? "") : null;
  if (!match || !suffix) {
    return { ok: false, message: `"${text}" is not a reading; expected a number such as 4.98, 180m, 103k, 2.7M or OL.` };
  }
  const digits = (match[2] ?? "").replace(",", ".");
  const exponent = match[3] === undefined ? "" : `e${match[3]}`;
  const value = Number(`${match[1] ?? ""}${digits}${exponent}`) * suffix.multiplier;
  if (!Number.isFinite(value)) return { ok: false, message: `"${text}" is too large to be a reading.` };
  return { ok: true, value: tidy(converted ? converted.convert(value) : value), unit: suffix.unit };
}

/** Removes the last binary digits that a multiplication leaves (180 * 1e-3). */
function tidy(value: number): number {
  return Number(value.toPrecision(12));
}

const STEPS: readonly (readonly [number, string])[] = [
  [1e9, "G"],
  [1e6, "M"],
  [1e3, "k"],
  [1, ""],
  [1e-3, "m"],
  [1e-6, "u"],
];

/**
 * Prints a value so that {@link parseShorthand} reads it back: `0.18` as `180m`, `103000` as `103k`.
 *
 * @param digits significant digits kept (default 4)
 */
export function printShorthand(value: number | "OL", digits = 4): string {
  if (value === "OL") return "OL";
  if (value === 0) return "0";
  const rounded = Number(value.toPrecision(digits));
  const size = Math.abs(rounded);
  const step = STEPS.find(([scale]) => size >= scale) ?? ([1e-6, "u"] as const);
  return `${Number((rounded / step[0]).toPrecision(digits))}${step[1]}`;
}

/** Lowest, highest and perhaps average of a recording as a technician types them, or the reason why they are none. */
export type SpanResult =
  | { readonly ok: true; readonly value: { min: number; max: number; avg?: number }; readonly unit: string | null }
  | { readonly ok: false; readonly message: string };

/** What stands between two numbers: a word, signs, or a comma with room behind it; a comma alone is a decimal comma. */
const BETWEEN = /\s+to\s+|\s*(?:\.{2,3}|\/|;|\u2013|,\s)\s*/iu;
const AVERAGE = /(?:[,;]|\s)\s*(?:avg|average|mean)\b\.?\s*[:=]?\s*(\S.*)$/iu;

/** Two numbers with only room between them, each perhaps with its unit: `110m 830m`, `0.1 V 0.8 V`. */
function spaced(text: string): string[] {
  const words = text.split(/\s+/u);
  if (words.length === 2) return words;
  return words.length === 4 ? [`${words[0]} ${words[1]}`, `${words[2]} ${words[3]}`] : [text];
}

/**
 * Reads two numbers in engineering shorthand with "to", "..", a slash, a comma or a space between them, and perhaps their average:
 * `0.11 to 0.83`, `110m 830m`, `90k, 120k`, `0.7 V to 4.1 V avg 2.2`. The order of the two does not matter.
 *
 * @returns the lower and the higher value in base units and the unit when one was typed, or one sentence that says what is wrong.
 */
export function parseSpan(input: string): SpanResult {
  const text = input.trim();
  const average = AVERAGE.exec(text)?.[1];
  const ends = average === undefined ? text : text.replace(AVERAGE, "").trim();
  const split = ends.split(BETWEEN).filter((part) => part !== "");
  const parts = split.length === 1 ? spaced(ends) : split;
  if (parts.length !== 2) return { ok: false, message: `"${text}" is not two numbers; expected the lowest and the highest, such as 0.11 to 0.83.` };
  const values: number[] = [];
  const units = new Set<string>();
  for (const part of average === undefined ? parts : [...parts, average]) {
    const parsed = parseShorthand(part);
    if (!parsed.ok) return parsed;
    if (typeof parsed.value !== "number") return { ok: false, message: "OL cannot be the end of a recording; expected a number." };
    values.push(parsed.value);
    if (parsed.unit !== null) units.add(parsed.unit);
  }
  if (units.size > 1) return { ok: false, message: `"${text}" mixes ${[...units].join(" and ")}; expected one unit.` };
  const [first = 0, second = 0, avg] = values;
  const [min, max] = [Math.min(first, second), Math.max(first, second)];
  if (avg !== undefined && (avg < min || avg > max))
    return { ok: false, message: `The average of "${text}" lies outside its lowest and highest; expected one between them.` };
  const [unit = null] = units;
  return { ok: true, value: { min, max, ...(avg === undefined ? {} : { avg }) }, unit };
}

/** What is typed for a reading: a number, OL, or lowest and highest. */
export type TypedResult =
  | { readonly ok: true; readonly value: number | "OL" | { min: number; max: number; avg?: number }; readonly unit: string | null }
  | { readonly ok: false; readonly message: string };

/** Reads whatever is typed for a reading: {@link parseShorthand} for one value, {@link parseSpan} for lowest and highest. */
export function parseTyped(input: string): TypedResult {
  const single = parseShorthand(input);
  if (single.ok) return single;
  const span = parseSpan(input);
  if (span.ok) return span;
  // Two numbers that go wrong are told as two, one as one.
  return BETWEEN.test(input.trim()) ? span : single;
}
