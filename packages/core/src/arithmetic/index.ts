export { altitudeOf, barometricKPa } from "./air";
export { type BatteryVerdict, batteryVerdict, chargePercent, innerOhms, leastCrankingVolts } from "./battery";
export { type Banded, bypassVolts, dividerLowerOhms, dividerVolts, hiddenResistance, ohmsOfDrop, ratiometricVolts } from "./divider";
export { averageVolts, dutyOfAverage, rpmOfHertz, TURNS_PER_CRANK, toothHertz, transitionsPerTurn } from "./pulses";
export {
  betaCelsius,
  betaOf,
  betaOhms,
  COPPER_PER_KELVIN,
  loadAt,
  type SteinhartHart,
  steinhartHartCelsius,
  steinhartHartOf,
  steinhartHartOhms,
  type ThermistorPoint,
  windingOhmsAt,
} from "./temperature";
