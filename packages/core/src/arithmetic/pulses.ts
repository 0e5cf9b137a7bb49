/** What an averaging DC meter shows on a rectangular wave: low + duty (high - low). @param dutyPercent share of the time high */
export function averageVolts(lowVolts: number, highVolts: number, dutyPercent: number): number {
  return lowVolts + (dutyPercent / 100) * (highVolts - lowVolts);
}

/** Duty in percent from an averaging meter's reading between two known levels. */
export function dutyOfAverage(lowVolts: number, highVolts: number, averageVolts: number): number {
  if (highVolts === lowVolts) throw new RangeError("the two levels are the same; a duty cannot be told");
  return (100 * (averageVolts - lowVolts)) / (highVolts - lowVolts);
}

/** Turns of a wheel per turn of the crank. */
export const TURNS_PER_CRANK = { crank: 1, cam: 0.5 } as const;

/**
 * Mean rate of a toothed wheel's signal, Hz: (teeth - missing) x rpm / 60, half of it on a cam. The rate within the row of teeth,
 * as a counter set to single periods shows, uses all teeth.
 */
export function toothHertz(teeth: number, missing: number, crankRpm: number, on: keyof typeof TURNS_PER_CRANK = "crank"): { mean: number; withinRow: number } {
  if (missing >= teeth) throw new RangeError("a wheel cannot miss all its teeth");
  const turns = (crankRpm / 60) * TURNS_PER_CRANK[on];
  return { mean: (teeth - missing) * turns, withinRow: teeth * turns };
}

/** Crank speed in rpm from a wheel's mean rate. */
export function rpmOfHertz(hertz: number, teeth: number, missing: number, on: keyof typeof TURNS_PER_CRANK = "crank"): number {
  if (missing >= teeth) throw new RangeError("a wheel cannot miss all its teeth");
  return (60 * hertz) / ((teeth - missing) * TURNS_PER_CRANK[on]);
}

/** Changes of level per turn of the crank: two for every tooth that is there. */
export function transitionsPerTurn(teeth: number, missing: number, on: keyof typeof TURNS_PER_CRANK = "crank"): number {
  return 2 * (teeth - missing) * TURNS_PER_CRANK[on];
}
