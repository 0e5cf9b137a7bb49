export { type DiagnosedJob, diagnoseJob, EngineCache } from "./diagnose";
export { CircuitEngine } from "./engine";
export { BLUNDER_SHARE } from "./evidence";
export { findingProbabilities } from "./findings";
export { unitTitle } from "./words";
