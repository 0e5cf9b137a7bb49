import { type Calculator, type CalculatorField, fromShownUnit, shownUnits, toShownUnit } from "@fox-lamp/core";

/** What stands in a calculator's fields, as typed, and the unit each is typed in. */
export interface Typed {
  readonly texts: Readonly<Record<string, string>>;
  readonly units: Readonly<Record<string, string>>;
  readonly tolerance: string;
}

/** Units a field can be typed in; none for a bare number. */
export function unitsOf({ unit }: CalculatorField): string[] {
  return unit === "" ? [] : shownUnits(unit);
}

const SYMBOLS: Readonly<Record<string, string>> = {
  degC: "°C",
  degF: "°F",
  ohm: "Ω",
  kohm: "kΩ",
  Mohm: "MΩ",
  mm2: "mm²",
  deg: "°",
  rpm: "rev/min",
  money: "",
};

/** A unit as it is written. */
export function symbolOf(unit: string): string {
  return SYMBOLS[unit] ?? unit;
}

/** A number with as many figures as are worth reading. */
export function figures(value: number): string {
  if (value === 0) return "0";
  const size = Math.abs(value);
  if (size >= 1e7 || size < 1e-4) return value.toExponential(3);
  return `${Number(value.toPrecision(size >= 1000 ? 5 : 4))}`;
}

/** The unit a value is read best in, where nobody has chosen one: small currents and volts in thousandths, large resistances in thousands. */
export function unitFor(value: number, base: string): string {
  const size = Math.abs(value);
  if (base === "A" && size < 0.1) return "mA";
  if (base === "V" && size < 0.1) return "mV";
  return base === "ohm" && size >= 1e4 ? "kohm" : base;
}

/** A value of a base unit as it is shown in a unit. */
export function shownIn(value: number, base: string, unit: string): string {
  const symbol = symbolOf(unit);
  return `${figures(unit === base || base === "" ? value : toShownUnit(value, base, unit))}${symbol === "" ? "" : ` ${symbol}`}`;
}

/** What a calculator begins with: its usual numbers, or those it was opened with; the one that is asked for is empty. */
export function beginning({ fields }: Calculator, given: Readonly<Record<string, number>>): Typed {
  const opened = Object.keys(given).length > 0;
  const asked = opened ? askedBeside(fields, given) : fields.find(({ usual }) => usual === null)?.id;
  const texts = fields.map(({ id, usual }) => {
    const value = given[id] ?? usual;
    return [id, id === asked || value === null ? "" : `${Number(value.toPrecision(10))}`] as const;
  });
  return { texts: Object.fromEntries(texts), units: Object.fromEntries(fields.map(({ id, unit }) => [id, unit])), tolerance: "1" };
}

/** Of the fields an opened calculator was given no number for, the one it asks for: its own answer unless that is given, else the first. */
function askedBeside(fields: readonly CalculatorField[], given: Readonly<Record<string, number>>): string | undefined {
  const open = fields.filter(({ id }) => given[id] === undefined);
  return (open.find(({ usual }) => usual === null) ?? open[0])?.id;
}

/** Numbers in base units of everything that is typed; a field that is no number is named. */
export function valuesOf({ fields }: Calculator, { texts, units }: Typed): { given: Record<string, number>; wrong: string[] } {
  const given: Record<string, number> = {};
  const wrong: string[] = [];
  for (const { id, unit } of fields) {
    const text = (texts[id] ?? "").trim().replace(",", ".");
    if (text === "") continue;
    const value = Number(text);
    if (!Number.isFinite(value)) wrong.push(id);
    else given[id] = unit === "" || units[id] === unit ? value : fromShownUnit(value, unit, units[id] ?? unit);
  }
  return { given, wrong };
}

/** The same number in another unit, so that what was typed stays the same thing. */
export function inUnit(typed: Typed, { id, unit: base }: CalculatorField, unit: string): Typed {
  const units = { ...typed.units, [id]: unit };
  const value = Number((typed.texts[id] ?? "").replace(",", "."));
  if ((typed.texts[id] ?? "").trim() === "" || !Number.isFinite(value)) return { ...typed, units };
  const held = fromShownUnit(value, base, typed.units[id] ?? base);
  return { ...typed, units, texts: { ...typed.texts, [id]: `${Number(toShownUnit(held, base, unit).toPrecision(8))}` } };
}
