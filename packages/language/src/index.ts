export {
  type Append,
  appendSchema,
  type Callout,
  calloutSchema,
  type InstrumentAnswer,
  instrumentAnswerSchema,
  instrumentSchema,
  type JobDetail,
  type JobSummary,
  jobDetailSchema,
  jobSummarySchema,
  type Person,
  personSchema,
  problemSchema,
  type Shop,
  type ShopSettings,
  shopSchema,
  shopSettingsSchema,
} from "./api";
export { type Circuit, circuitSchema, circuitsSchema } from "./circuit";
export {
  type Diagnosis,
  diagnosisSchema,
  doubtfulSchema,
  type Expect,
  expectSchema,
  type NextTest,
  nextTestSchema,
  type Plan,
  type Stake,
  suspectSchema,
  verdictSchema,
} from "./diagnosis";
export { type Entry, type EntryKind, type EntryOf, entrySchema, type NewEntry, newEntrySchema } from "./entry";
export {
  type Code,
  codeSchema,
  type FaultRef,
  faultRefSchema,
  type JobFile,
  jobSchema,
  type MeasureFile,
  measureFileSchema,
  type Simulated,
  simulatedSchema,
  type Vehicle,
  vehicleSchema,
} from "./job";
export { jsonSchemaOf, SCHEMA_NAMES } from "./json-schema";
export { INSTRUMENTS, type Instrument, KEY_STATES, type KeyState, METERS, type Meter, STAGES, type Stage } from "./names";
export { FIXED_POINTS, type FixedPoint, isFixedPoint, isPin, isPlace, PINS, type Pin, type Point, parsePoint, printPoint } from "./points";
export { BadInput, type Problem, parseOrThrow, printPath, problemOf } from "./problems";
export { FINDINGS, type Measurement, measurementSchema, type Reading, readingSchema, type Value, valueSchema } from "./reading";
export { type Added, type Setup, STIMULI, setupSchema, type Truth, truthSchema } from "./setup";
export { parseShorthand, parseSpan, printShorthand, type ShorthandResult } from "./shorthand";
