import { findingsAt, type Measurement, type Meter, meterWords, parseTyped, unitOfReading, type Value } from "@fox-lamp/language";
import { messages } from "../messages";
import { typedValue, unitLabel } from "../ui/display";

/** What is measured where: all that words, units and shape of an entry depend on. */
export type Asked = Pick<Measurement, "meter" | "red" | "record"> & { readonly unit?: string | null | undefined };

/** What was typed for a reading, as it is entered; the unit where it is another than the reading's own. */
export type Entered = { readonly ok: true; readonly value: Value; readonly unit?: string } | { readonly ok: false; readonly message: string };

/** Words a measurement can be answered with, besides or instead of a number. */
export function wordsOf({ meter, red }: Asked): readonly string[] {
  if (meter === "look") return findingsAt(red);
  const { words } = meterWords(meter);
  // OL alone is typed, or on the keypad.
  return words.length === 1 && words[0] === "OL" ? [] : words;
}

const OVERLOADS: readonly Meter[] = ["ohms", "hertz", "duty"];
const RECORDS: readonly Meter[] = ["volts-dc", "volts-ac", "ohms", "scan", "hertz", "duty", "amps-dc", "capture"];

/**
 * Reads what is typed for a measurement, the same wherever it is typed: shorthand, units, a word, lowest and highest.
 * @param also a further unit numbers may be typed in (scan data in degC)
 */
export function valueTyped(text: string, asked: Asked, also?: string): Entered {
  const word = wordsOf(asked).find((candidate) =>
    [candidate, messages.bench.findings[candidate] ?? ""].some((said) => said.toLowerCase() === text.trim().toLowerCase()),
  );
  if (word !== undefined) return { ok: true, value: word };
  const parsed = parseTyped(text);
  if (!parsed.ok) return parsed;
  const own = unitOfReading(asked);
  const { value, unit } = parsed;
  if (value === "OL")
    return OVERLOADS.includes(asked.meter) && asked.record === undefined ? { ok: true, value } : { ok: false, message: messages.bench.noOverload };
  if (typeof value === "number" && asked.record !== undefined) return { ok: false, message: messages.bench.needsSpan(text.trim()) };
  if (typeof value === "object" && !RECORDS.includes(asked.meter)) return { ok: false, message: messages.bench.noSpan(text.trim()) };
  if (unit !== null && unit !== own && unit !== also) {
    const expected = also === undefined ? unitLabel(own) : `${unitLabel(own)} or ${unitLabel(also)}`;
    return { ok: false, message: messages.bench.wrongUnit(expected, unitLabel(unit)) };
  }
  const based = (number: number): number => (unit === null ? typedValue(number, own) : number);
  const shown: Value =
    typeof value === "number" ? based(value) : { min: based(value.min), max: based(value.max), ...(value.avg === undefined ? {} : { avg: based(value.avg) }) };
  return { ok: true, value: shown, ...(unit !== null && unit !== own ? { unit } : {}) };
}
