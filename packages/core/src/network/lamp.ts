import type { Lamp } from "./elements";

/** Filament law: tungsten lamps follow I ~ V^0.55 between a tenth of and full rated voltage. */
export const FILAMENT_EXPONENT = 0.55;

type LampRating = Pick<Lamp, "ratedVolts" | "ratedAmps" | "coldOhms">;

/** Current in amps through a lamp with `volts` across it (odd in the voltage). */
export function lampAmps(lamp: LampRating, volts: number): number {
  const size = Math.abs(volts);
  const hot = lamp.ratedAmps * (size / lamp.ratedVolts) ** FILAMENT_EXPONENT;
  return Math.sign(volts) * Math.min(size / lamp.coldOhms, hot);
}

/**
 * Volts across a lamp fed from an open-circuit voltage behind a resistance, by bisection on the load line.
 */
export function lampVolts(lamp: LampRating, openVolts: number, seriesOhms: number): number {
  const target = Math.abs(openVolts);
  let low = 0;
  let high = target;
  for (let step = 0; step < 60; step += 1) {
    const volts = 0.5 * (low + high);
    if (volts + seriesOhms * lampAmps(lamp, volts) > target) high = volts;
    else low = volts;
  }
  return Math.sign(openVolts) * 0.5 * (low + high);
}
