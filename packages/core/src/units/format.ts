/** The base units readings are kept in. */
export type BaseUnit = "V" | "ohm" | "A" | "Hz" | "%" | "s" | "degC" | "kPa" | "";

const SYMBOL: Readonly<Record<string, string>> = { ohm: "Ω", degC: "°C", degF: "°F" };

/** A unit of the language as people write it: °C, °F, Ω; files keep their own names. */
export function unitSymbol(unit: string): string {
  return SYMBOL[unit] ?? unit;
}

function trimmed(value: number, digits: number): string {
  if (value === 0) return "0";
  const size = Math.floor(Math.log10(Math.abs(value)));
  return value.toFixed(Math.min(6, Math.max(0, digits - 1 - size)));
}

/**
 * Prints a value in its base unit as a person reads it off a meter: `4.98 V`, `8.0 mV`, `2.50 kΩ`.
 *
 * @param digits significant digits (default 3)
 */
export function formatQuantity(value: number, unit: string, digits = 3): string {
  const name = unitSymbol(unit);
  const size = Math.abs(value);
  if (unit === "V") {
    if (size < 0.0005) return "0 V";
    if (size < 0.1) return `${trimmed(value * 1e3, Math.max(1, digits - 1))} mV`;
    return `${value.toFixed(size >= 100 ? 0 : size >= 10 ? 1 : 2)} V`;
  }
  if (unit === "ohm") {
    if (size >= 1e6) return `${trimmed(value / 1e6, digits)} MΩ`;
    if (size >= 1e3) return `${trimmed(value / 1e3, digits)} kΩ`;
    return `${size < 10 ? value.toFixed(1) : trimmed(value, digits)} Ω`;
  }
  if (unit === "s" && size > 0 && size < 1) return size < 1e-3 ? `${trimmed(value * 1e6, digits)} μs` : `${trimmed(value * 1e3, digits)} ms`;
  if (unit === "A" && size < 1) return `${trimmed(value * 1e3, digits)} mA`;
  if (unit === "degC" || unit === "degF" || unit === "%") return `${value.toFixed(0)} ${name}`;
  if (unit === "taps") return `${value.toFixed(0)} ${value === 1 ? "tap" : name}`;
  return `${trimmed(value, digits)} ${name}`.trimEnd();
}

/** Prints a window: `0.48 to 0.52 V`, both ends in the unit of the larger. */
export function formatWindow(low: number | null, high: number | null, unit: string): string {
  if (low === null && high === null) return "any value";
  if (low === null) return `up to ${formatQuantity(high as number, unit)}`;
  if (high === null) return `over ${formatQuantity(low, unit)}`;
  const upper = formatQuantity(high, unit);
  const lower = formatQuantity(low, unit);
  const upperUnit = upper.split(" ")[1];
  const [number, lowerUnit] = lower.split(" ");
  return lowerUnit === upperUnit ? `${number} to ${upper}` : `${lower} to ${upper}`;
}

/** Prints a probability as whole percents, never 0 or 100 for something still possible. */
export function formatPercent(probability: number): string {
  if (probability > 0.995 && probability < 1) return "over 99 %";
  if (probability > 0 && probability < 0.005) return "under 1 %";
  return `${Math.round(probability * 100)} %`;
}
