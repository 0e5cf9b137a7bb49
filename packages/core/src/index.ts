// The one door of the core: what applications may use. Inside, rooms have doors of their own.
// To begin with: decide and foldJob (a job and its rules), Session and analyse (what a bench shows), diagnoseJob, movesOf and proofOf (what
// readings say and why), readVirtualCar and scanVirtualCar (practice), measureFile (files).

export { buildModel, type CircuitModel, FAMILIES, type Family, familyById, specifiedOhms, windingOhmsWindow } from "./circuit";
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
export { leadsOf, listFaults, type Measured, measureFile, netlistOf, traceFile } from "./files";
export {
  assertCircuits,
  type ClosingWords,
  type CodesAfter,
  canRepeat,
  circuitRules,
  circuitsOf,
  codesAfter,
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
  judgeBattery,
  lackingFor,
  minutesToVerdict,
  orderOfWork,
  outcomeOf,
  plainRules,
  problemIn,
  problemOfRefusal,
  provenUnits,
  type Refusal,
  type Step,
  type StepCode,
  type StillOutside,
  stillOutside,
  type TakenApart,
  type Task,
  type TaskKind,
  takeApart,
  tasksOf,
  titleOfJob,
  unitKind,
  workedUnits,
} from "./job";
export { type CarBehindJob, readVirtualCar, runTrial, STRATEGIES, scanVirtualCar, WORLDS } from "./practice";
export {
  type AskedCavity,
  type CavityQuestion,
  type CavityReading,
  cavityQuestions,
  cavityWords,
  type Identification,
  identifyPins,
  measurementId,
  measurementOf,
  readingsAtPins,
} from "./procedures";
export { type CustomerReport, customerReport, readingRows, type ToldReading } from "./report";
export {
  analyseCapture,
  assertChannels,
  type Capture,
  type CaptureAnalysis,
  type CapturedChannel,
  type CaptureLayout,
  CaptureReader,
  type ColumnChoice,
  captureCsv,
  captureLayout,
  findingsOf,
  type MeterView,
  meterView,
  type ReadCapture,
  readCaptureCsv,
} from "./signals";
export { type CodeRole, type Look, type Noticed, symptomCauses, type Tree, type Triage, triageJob } from "./triage";
export { formatPercent, formatQuantity, formatWindow, fromShownUnit, toShownUnit, unitSymbol } from "./units";
export { type Analysis, analyse, type CircuitView, type Opening, openingOf, type PinView, type SceneVolts, sceneOf, viewsOf, windowsOf } from "./view";
