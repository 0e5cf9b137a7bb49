/** State of charge of a 12 V lead battery at rest at 25 degC: volts to percent, the usual table of makers' data. */
const REST_TABLE = [
  [11.8, 0],
  [12.06, 25],
  [12.24, 50],
  [12.45, 75],
  [12.65, 100],
] as const;
/** Rest voltage of six cells rises with temperature by about this, volts per kelvin. */
const REST_VOLTS_PER_KELVIN = 0.0012;

/**
 * State of charge from the rest voltage (at least an hour after charging), percent, with the band of +-0.03 V that surface charge
 * and meters leave.
 */
export function chargePercent(restVolts: number, degC = 25): { value: number; low: number; high: number } {
  const at = (volts: number): number => {
    const corrected = volts - REST_VOLTS_PER_KELVIN * (degC - 25);
    const upper = REST_TABLE.findIndex(([known]) => corrected <= known);
    if (upper === 0) return 0;
    if (upper < 0) return 100;
    const [v0, p0] = REST_TABLE[upper - 1] as readonly [number, number];
    const [v1, p1] = REST_TABLE[upper] as readonly [number, number];
    return p0 + ((p1 - p0) * (corrected - v0)) / (v1 - v0);
  };
  return { value: at(restVolts), low: at(restVolts - 0.03), high: at(restVolts + 0.03) };
}

/** Inner resistance from the dip while a known current flows: R = (Vrest - Vload) / I, ohms. */
export function innerOhms(restVolts: number, loadedVolts: number, amps: number): number {
  if (amps <= 0) throw new RangeError("expected the current that made the voltage dip");
  return (restVolts - loadedVolts) / amps;
}

/**
 * The least voltage a sound battery keeps while cranking, volts: 9.6 V at 21 degC and above, less when cold (the usual table for a
 * load of half the rated current, about 0.1 V less for every 5.5 K).
 */
export function leastCrankingVolts(degC: number): number {
  if (degC >= 21) return 9.6;
  return Math.max(8.5, 9.6 - (21 - degC) * 0.018);
}

/** What a conductance tester's result says against the battery's rating. */
export type BatteryVerdict = "fit" | "recharge-and-retest" | "replace";

/**
 * Measured against rated cold-cranking current: at least 80 % is fit, under 60 % with a good charge is worn out, between them, or
 * with a low charge, it is charged and tested again.
 */
export function batteryVerdict(measuredAmps: number, ratedAmps: number, restVolts: number, degC = 25): { percent: number; verdict: BatteryVerdict } {
  if (ratedAmps <= 0) throw new RangeError("a rated current is over zero");
  const percent = (100 * measuredAmps) / ratedAmps;
  const charged = chargePercent(restVolts, degC).value >= 65;
  if (percent >= 80 && charged) return { percent, verdict: "fit" };
  return { percent, verdict: percent < 60 && charged ? "replace" : "recharge-and-retest" };
}
