export { type CarLife, drawCar, drawSeverity, type HiddenCar, type HiddenFault, type PlacedCar, placedCar, STEADY } from "./car";
export { HISTORIES, type History } from "./history";
export { compareWithOptimal, type TreeComparison } from "./optimal";
export { replaceFirst } from "./replace";
export { STRATEGIES, type Strategy, solveCar } from "./solve";
export { runTrial, type TrialJob, type TrialOptions, type TrialResult, trialCircuits, WORLDS } from "./trial";
export { type CarBehindJob, driveAt, faultsLeft, mends, readVirtualCar, scanVirtualCar } from "./virtual-car";
export { scopeVirtualCar } from "./virtual-scope";
export { type Demonstration, WRONG_SETUPS, type WrongSetup, wrongSetup } from "./wrong-setups";
