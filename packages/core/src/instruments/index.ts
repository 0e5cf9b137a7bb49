export { measurementDeck } from "./deck";
export { harmOf } from "./harm";
export {
  AMMETER_OHMS,
  acVoltsSigma,
  ampsSigma,
  BEEP_OHMS,
  beepProbability,
  DUTY_SIGMA_PERCENT,
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
  shownAmps,
  shownContinuity,
  shownOhms,
  shownVolts,
  voltsSigma,
} from "./meters";
export { coilOf, type ElectricalMeter, type ElectricalProbe, isElectrical, type Probe, probeOf, type Statistic } from "./probe";
export { engineeringValue, type Scale, scaleOf, substituteFor } from "./scale";
export {
  blownJumpers,
  CLICK_SHARE,
  coilShare,
  type InstrumentNoise,
  type SimulatedSetup,
  shownSpan,
  shownValue,
  simulateReading,
  solveSetup,
} from "./simulate";
export {
  acFactor,
  averageOf,
  conductorAmps,
  isFollowed,
  type MomentSolution,
  portsOf,
  type Rhythm,
  shareOfFirst,
  swingOf,
  TRIGGER_VOLTS,
} from "./waveform-view";
