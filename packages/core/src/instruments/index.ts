export { measurementDeck } from "./deck";
export {
  BEEP_OHMS,
  beepProbability,
  LIVE_VOLTS,
  lampProbabilities,
  lampShare,
  lampWord,
  logOhms,
  logOhmsSigma,
  logOhmsSlope,
  METER_OHMS,
  OVERLOAD_OHMS,
  ohmsFromLog,
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
