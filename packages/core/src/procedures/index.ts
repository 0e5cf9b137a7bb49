export { type Conditions, type Policy, USUAL_POLICY } from "./drafts";
export { ACCEPTED_BODY_VOLTS, expectHealthy, expectOf, predictHealthy, windowEnds } from "./expect";
export { generateTests } from "./generate";
export {
  type AskedCavity,
  askedAt,
  type CavityQuestion,
  type CavityReading,
  cavityQuestions,
  cavityWords,
  type Identification,
  identifyPins,
  readingsAtPins,
} from "./identify";
export { ownProcedure } from "./own";
export { measurementId, measurementOf, type Procedure, procedureId } from "./procedure";
export { type ScopeAdvice, scopeAdvice } from "./scope-advice";
export { type BandLeads, type TraceBand, traceBands } from "./trace-bands";
