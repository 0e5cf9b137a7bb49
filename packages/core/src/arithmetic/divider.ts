/** What a calculation gives: the value, and the least and greatest it can be within the stated tolerances. */
export interface Banded {
  readonly value: number;
  readonly low: number;
  readonly high: number;
}

function bandOf(value: number, others: readonly number[]): Banded {
  return { value, low: Math.min(value, ...others), high: Math.max(value, ...others) };
}

/**
 * Volts of a divider: Vsig = Vsupply Rlower / (Rlower + Rupper).
 *
 * @param tolerance relative tolerance of both resistors, e.g. 0.02
 * @throws RangeError for negative resistances, or two that are both zero
 */
export function dividerVolts(supplyVolts: number, upperOhms: number, lowerOhms: number, tolerance = 0): Banded {
  if (upperOhms < 0 || lowerOhms < 0 || upperOhms + lowerOhms === 0) throw new RangeError("a divider needs resistances of zero or more, not both zero");
  const at = (upper: number, lower: number): number => (supplyVolts * lower) / (lower + upper);
  return bandOf(at(upperOhms, lowerOhms), [
    at(upperOhms * (1 + tolerance), lowerOhms * (1 - tolerance)),
    at(upperOhms * (1 - tolerance), lowerOhms * (1 + tolerance)),
  ]);
}

/**
 * Resistance of the lower part of a divider from its voltage: R = Rupper V / (Vsupply - V).
 *
 * @param voltsTolerance absolute tolerance of the reading, volts
 * @throws RangeError when the voltage is not between nothing and the supply
 */
export function dividerLowerOhms(supplyVolts: number, upperOhms: number, volts: number, voltsTolerance = 0): Banded {
  if (!(volts >= 0 && volts < supplyVolts)) throw new RangeError(`${volts} V is not between 0 and the supply of ${supplyVolts} V`);
  const at = (seen: number): number => (seen >= supplyVolts ? Number.POSITIVE_INFINITY : (upperOhms * Math.max(0, seen)) / (supplyVolts - seen));
  return bandOf(at(volts), [at(volts - voltsTolerance), at(volts + voltsTolerance)]);
}

/**
 * Volts and percent of full scale the module should show with a resistor between its signal and a rail (a bypass test). The
 * module's own pull resistor goes to `pullVolts`, the substitute to `toVolts` (0 for ground).
 */
export function bypassVolts(
  pullVolts: number,
  pullOhms: number,
  toVolts: number,
  substituteOhms: number,
  fullScaleVolts: number,
): { volts: number; percent: number } {
  if (pullOhms <= 0 || substituteOhms < 0) throw new RangeError("a bypass needs a pull resistor over zero and a substitute of zero or more");
  const volts = (pullVolts * substituteOhms + toVolts * pullOhms) / (pullOhms + substituteOhms);
  return { volts, percent: (100 * volts) / fullScaleVolts };
}

/**
 * Ratiometric correction: what a sensor specified at one reference shows at the reference measured, V = Vspec Vref / Vref,spec.
 */
export function ratiometricVolts(specifiedVolts: number, specifiedReferenceVolts: number, referenceVolts: number): number {
  if (specifiedReferenceVolts <= 0) throw new RangeError("the specified reference must be over zero");
  return (specifiedVolts * referenceVolts) / specifiedReferenceVolts;
}

/** Resistance of what drops `volts` at `amps` (Ohm's law): R = V / I. */
export function ohmsOfDrop(volts: number, amps: number): number {
  if (amps === 0) throw new RangeError("without current nothing drops; expected a current other than zero");
  return Math.abs(volts / amps);
}

/**
 * Whether a meter's voltage reading can see a series resistance, and the load that makes it drop a given share of the supply.
 *
 * @returns the share of the supply the meter's own 10 megohm lets drop, and the load in ohms that shows the wanted share
 */
export function hiddenResistance(seriesOhms: number, wantedShare = 0.1, meterOhms = 1e7): { hiddenShare: number; loadOhms: number } {
  if (!(wantedShare > 0 && wantedShare < 1)) throw new RangeError("the wanted share lies between 0 and 1");
  return { hiddenShare: seriesOhms / (seriesOhms + meterOhms), loadOhms: (seriesOhms * (1 - wantedShare)) / wantedShare };
}
