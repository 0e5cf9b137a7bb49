export { drawCar, drawSeverity, type HiddenCar, type HiddenFault } from "./car";
export { runTrial, type TrialJob, type TrialOptions, type TrialResult } from "./trial";
