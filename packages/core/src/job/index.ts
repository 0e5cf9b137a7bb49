export { assertCircuits, circuitRules, problemIn } from "./circuit-rules";
export { type Decision, decide, type JobRules, type JobSoFar, plainRules, type Refusal } from "./decide";
export { BATTERY_READINGS, diagnosedPart } from "./diagnosed";
export { type EntryMaker, fileOfJob, type JobHeader, type TakenApart, takeApart } from "./file";
export { foldJob } from "./fold";
export { failedReadings, lackingFor, orderOfWork, type Step, type StepCode } from "./order";
export { problemOfRefusal } from "./refusal-words";
export { type CircuitEdit, circuitsOf, type JobReading, type JobState, outcomeOf, type Said, titleOfJob } from "./state";
export { condemnedUnits, type Task, type TaskKind, tasksOf, unitKind } from "./tasks";
