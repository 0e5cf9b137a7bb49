export { EngineCache } from "./cache";
export { diagnoseJob, type PossibleMeasurement, possibleMeasurements } from "./diagnose";
export { CircuitEngine } from "./engine";
export { BLUNDER_SHARE } from "./evidence";
export { findingProbabilities } from "./findings";
export type { DiagnosedJob } from "./job-part";
export { unitTitle } from "./words";
