export {
  type AcceptInvitation,
  type Append,
  acceptInvitationSchema,
  appendSchema,
  type Callout,
  calloutSchema,
  changePersonSchema,
  type Figures,
  type FirstForeman,
  type Front,
  figuresSchema,
  firstForemanSchema,
  frontSchema,
  type InstrumentAnswer,
  type Invitation,
  instrumentAnswerSchema,
  instrumentSchema,
  invitationSchema,
  type JobDetail,
  type JobSummary,
  jobDetailSchema,
  jobSummarySchema,
  type Me,
  meSchema,
  type NewJob,
  newInvitationSchema,
  newJobSchema,
  type Person,
  personSchema,
  problemSchema,
  type Recording,
  type RegisteredVehicle,
  recordingSchema,
  registeredVehicleSchema,
  type ScanAnswer,
  type ScanRequest,
  type Shop,
  type ShopSettings,
  scanAnswerSchema,
  scanRequestSchema,
  shopSchema,
  shopSettingsSchema,
  type VehicleFile,
  vehicleFileSchema,
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
  type Question,
  type Stake,
  suspectSchema,
  VERDICT_STATUSES,
  verdictSchema,
} from "./diagnosis";
export {
  type Battery,
  batterySchema,
  ENTRY_KINDS,
  type Entry,
  type EntryKind,
  type EntryOf,
  entrySchema,
  type NewEntry,
  newEntrySchema,
  type Part,
  partSchema,
} from "./entry";
export { FINDINGS, type Finding, findingsAt } from "./findings";
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
export { keysOf } from "./keys";
export { depthOf, MOST_CIRCUITS, MOST_DEPTH } from "./limits";
export { isWordMeter, METER_WORDS, METERS, type Meter, type MeterWords, meterWords, unitOfReading } from "./meters";
export {
  INSTRUMENTS,
  type Instrument,
  KEY_STATES,
  type KeyState,
  OUTCOMES,
  type Outcome,
  ROLES,
  type Role,
  STAGES,
  type Stage,
  WAITS,
  type Wait,
} from "./names";
export { FIXED_POINTS, type FixedPoint, isFixedPoint, isPin, isPlace, PINS, type Pin, type Point, parsePoint, placeIn, printPoint } from "./points";
export { BadInput, type Problem, parseOrThrow, printPath, problemOf } from "./problems";
export { type Measurement, measurementSchema, type Reading, readingSchema, type Value, valueSchema } from "./reading";
export { circuitOfUnit, parseLocalUnit, parseUnit, printLocalUnit, printUnit, type RepairUnit, type UnitKind, unitKindOf, unitOfFault } from "./repair-unit";
export { GROUND_ROLES, isGroundRole, PIN_ROLES, type PinRole, SUPPLY_ROLES } from "./roles";
export { type Added, type Known, knownValue, knownWithin, knownWord, type Setup, STIMULI, setupSchema, type Truth, truthSchema } from "./setup";
export { parseShorthand, parseSpan, printShorthand, type ShorthandResult } from "./shorthand";
export { pinWord, placeWord, pointWord, unitTitle } from "./words";
