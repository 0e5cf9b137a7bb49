export { measurementDeck } from "./deck";
export {
  beepProbability,
  BEEP_OHMS,
  lampProbabilities,
  lampShare,
  lampWord,
  LIVE_VOLTS,
  logOhms,
  logOhmsSigma,
  logOhmsSlope,
  METER_OHMS,
  ohmsFromLog,
  OVERLOAD_OHMS,
  type Port,
  portOf,
  SCAN_SIGMA_VOLTS,
  shownContinuity,
  shownOhms,
  shownVolts,
  voltsSigma,
} from "./meters";
export { type ElectricalMeter, isElectrical, type Probe, probeOf } from "./probe";
export { portOfProbe, scanValue, simulateReading, solveSetup } from "./simulate";
