// The one door of the core: what applications may use, in the order of a job. Inside, rooms have doors of their own.

// The record, and what is reckoned and shown.
export { batteryVerdict, chargePercent, leastCrankingVolts } from "./arithmetic";
// Circuits, tests and recordings as pages need them.
export { FAMILIES, type Family, familyById } from "./circuit";
export { genericCode } from "./codes";
export {
  type DiagnosedJob,
  diagnoseJob,
  lastMove,
  type Move,
  movesOf,
  type OnProgress,
  ownTest,
  type Proof,
  planJob,
  preparations,
  proofOf,
  Session,
  type WhyNot,
  whyNot,
} from "./diagnosis";
// Virtual cars: practice, demo, trials, and files measured without a car.
export { listFaults, type Measured, measureFile, netlistOf } from "./files";
// A job: entries, their rules, what they fold to, what is left to do.
export {
  assertCircuits,
  circuitRules,
  circuitsOf,
  condemnedUnits,
  type Decision,
  decide,
  diagnosedPart,
  failedReadings,
  fileOfJob,
  foldJob,
  type JobReading,
  type JobRules,
  type JobSoFar,
  type JobState,
  lackingFor,
  orderOfWork,
  outcomeOf,
  plainRules,
  problemIn,
  problemOfRefusal,
  type Refusal,
  type Step,
  type StepCode,
  type TakenApart,
  type Task,
  type TaskKind,
  takeApart,
  tasksOf,
  titleOfJob,
  unitKind,
} from "./job";
export { type CarBehindJob, readVirtualCar, runTrial, STRATEGIES, scanVirtualCar } from "./practice";
export { type CavityReading, cavityWords, type Identification, identifyPins, measurementId, measurementOf } from "./procedures";
export { type CustomerReport, customerReport, readingRows } from "./report";
export { findingsOf } from "./signals";
export { type Triage, triageJob } from "./triage";
export { formatPercent, formatQuantity, formatWindow, fromShownUnit, toShownUnit } from "./units";
// A session, and what it answers about a job.
export { type Analysis, analyse, type CircuitView, type PinView, type SceneVolts, sceneOf, viewsOf, windowsOf } from "./view";
