export { type Conditions, type Policy, USUAL_POLICY } from "./drafts";
export { expectHealthy, expectOf, predictHealthy } from "./expect";
export { generateTests } from "./generate";
export { askedAt, type CavityQuestion, type CavityReading, cavityWords, type Identification, identifyPins } from "./identify";
export { ownProcedure } from "./own";
export { measurementId, measurementOf, type Procedure, procedureId } from "./procedure";
