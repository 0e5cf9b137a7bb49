import type { Battery } from "@fox-lamp/language";
import { batteryVerdict, chargePercent, leastCrankingVolts } from "../arithmetic";

/** Where nobody measured it, degC. */
const USUAL_CELSIUS = 20;
/** Least state of charge at which cranking and readings can be trusted, percent. */
const LEAST_CHARGE = 50;

/** What a battery's figures mean. */
export interface BatteryJudgement {
  /** Whether anything may be tested on it. */
  readonly fit: boolean;
  /** To be replaced, by its measured amperes. */
  readonly worn: boolean;
  readonly charge: ReturnType<typeof chargePercent>;
  /** The least it may fall to while cranking at its temperature, volts; whether it fell below. */
  readonly leastVolts: number;
  readonly dips: boolean;
  /** Share of its rating that it still delivers, percent; null where that was not measured. */
  readonly ratedPercent: number | null;
}

/** Judges a battery at rest, cranking and against its rating. Volts, amperes of the cold-start rating, degC. */
export function judgeBattery({ restVolts, crankingVolts, measuredAmps, ratedAmps, temperature: degC = USUAL_CELSIUS }: Battery): BatteryJudgement {
  const charge = chargePercent(restVolts, degC);
  const leastVolts = leastCrankingVolts(degC);
  const dips = crankingVolts !== undefined && crankingVolts < leastVolts;
  const rated = measuredAmps === undefined || ratedAmps === undefined ? null : batteryVerdict(measuredAmps, ratedAmps, restVolts, degC);
  return {
    fit: charge.value >= LEAST_CHARGE && !dips && (rated === null || rated.verdict === "fit"),
    worn: rated?.verdict === "replace",
    charge,
    leastVolts,
    dips,
    ratedPercent: rated?.percent ?? null,
  };
}
