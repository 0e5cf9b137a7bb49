/** The scale a probe's numbers are weighed on, and how they are shown. */
export interface Scale {
  /** Unit a person reads. */
  readonly unit: string;
  readonly axis: "volts" | "log-volts" | "log-ohms" | "amps" | "log-hertz" | "percent" | "world" | "none";
  readonly toScale: (shown: number) => number;
  readonly fromScale: (value: number) => number;
  /** Density of a slipped reading, per unit of the scale: it may be anything the meter can show. */
  readonly broad: number;
  /** Full scale of the range, volts, where it was chosen for a signal below a volt: what counts as a difference is finer there. */
  readonly smallVolts?: number;
}

/** Resistances are weighed as ln(ohms + this), so that leads and contacts matter little and decades count alike. */
export const LOG_OFFSET_OHMS = 0.5;

/** Ohms on the scale they are weighed on. */
export function logOhms(ohms: number): number {
  return Math.log(Math.max(0, ohms) + LOG_OFFSET_OHMS);
}

/**
 * Ohms on their scale, times a factor of what a meter showed. Near zero the scale no longer counts decades: 0.912 ohm is not a thousandth of 912 ohm there.
 *
 * @param shown on the scale
 * @returns the level, and the logarithm of how much faster it moves than what was shown does
 */
export function timesOhms(shown: number, factor: number): { readonly level: number; readonly logSlope: number } {
  const ohms = Math.max(0, Math.exp(shown) - LOG_OFFSET_OHMS);
  return {
    level: logOhms(factor * ohms),
    logSlope: Math.log((factor * (ohms + LOG_OFFSET_OHMS)) / (factor * ohms + LOG_OFFSET_OHMS)),
  };
}

/** Hertz on the scale they are weighed on. */
export function logHertz(hertz: number): number {
  return Math.log(Math.max(0.05, hertz));
}

const same = (value: number): number => value;

export const VOLTS: Scale = { unit: "V", axis: "volts", toScale: same, fromScale: same, broad: 1 / 24 };

/** Below this a range is chosen for its signal, volts. */
const SMALL_RANGE_VOLTS = 1;

/** The full scale of a range that is finer than what held leads spoil on a usual one; null for a usual range. */
export function smallRange(fullScale: number | null): number | null {
  return fullScale !== null && fullScale < SMALL_RANGE_VOLTS ? fullScale : null;
}

/** Volts on a range; a slip may be anything some ranges wide. @param fullScale volts; null for a meter that finds its own range */
export function voltsScale(usual: Scale, fullScale: number | null): Scale {
  const smallVolts = smallRange(fullScale);
  return smallVolts === null ? usual : { ...usual, broad: 1 / (3 * smallVolts), smallVolts };
}

export const OHMS: Scale = {
  unit: "ohm",
  axis: "log-ohms",
  toScale: logOhms,
  fromScale: (value) => Math.max(0, Math.exp(value) - LOG_OFFSET_OHMS),
  // Most slips of an ohmmeter show a word, or are a thousand times off: any number at all is rare.
  broad: 1 / 600,
};
/** Alternating volts are weighed as ln(volts + this): they differ by factors from part to part, and below it a range shows its own noise. */
export const AC_OFFSET_VOLTS = 0.003;
export const AC_VOLTS: Scale = {
  unit: "V",
  axis: "log-volts",
  toScale: (value) => Math.log(Math.abs(value) + AC_OFFSET_VOLTS),
  fromScale: (value) => Math.max(0, Math.exp(value) - AC_OFFSET_VOLTS),
  broad: 1 / 10,
};
export const AMPS: Scale = { unit: "A", axis: "amps", toScale: same, fromScale: same, broad: 1 / 5 };
export const HERTZ: Scale = { unit: "Hz", axis: "log-hertz", toScale: logHertz, fromScale: Math.exp, broad: 1 / 9 };
/** Counts differ by shares, as rates do. */
export const COUNT: Scale = { ...HERTZ, unit: "", toScale: (counted) => Math.log(Math.max(0.5, counted)), broad: 1 / 6 };
export const PERCENT: Scale = { unit: "%", axis: "percent", toScale: same, fromScale: same, broad: 1 / 100 };
export const WORDS: Scale = { unit: "", axis: "none", toScale: same, fromScale: same, broad: 1 };

/** The scale of a sensed quantity measured without the circuit. */
export function quantityScale({ unit, low, high }: { readonly unit: string; readonly low: number; readonly high: number }): Scale {
  return { unit, axis: "world", toScale: same, fromScale: same, broad: 1 / (high - low) };
}
