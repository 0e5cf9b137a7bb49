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

/** Lowest and highest value of a recording as a technician types them, or the reason why they are none. */
export type SpanResult = { readonly ok: true; readonly value: { min: number; max: number } } | { readonly ok: false; readonly message: string };

/**
 * Reads two numbers in engineering shorthand with "to", "..", a slash or a space between them: `0.11 to 0.83`, `110m 830m`. The
 * order does not matter.
 *
 * @returns the lower and the higher value in base units, or one sentence that says what is wrong.
 */
export function parseSpan(input: string): SpanResult {
  const parts = input
    .trim()
    .split(/\s*(?:to|\.{2,3}|\/|\s)\s*/iu)
    .filter((part) => part !== "");
  const [first, second, extra] = parts;
  if (first === undefined || second === undefined || extra !== undefined) {
    return { ok: false, message: `"${input.trim()}" is not two numbers; expected the lowest and the highest, such as 0.11 to 0.83.` };
  }
  const values: number[] = [];
  for (const part of [first, second]) {
    const parsed = parseShorthand(part);
    if (!parsed.ok) return parsed;
    if (typeof parsed.value !== "number") return { ok: false, message: "OL cannot be the end of a recording; expected a number." };
    values.push(parsed.value);
  }
  return { ok: true, value: { min: Math.min(...values), max: Math.max(...values) } };
}
