export { type Brink, brinkOf, LEAST_SPREAD } from "./brink";
export { type Columns, columnsOf, withOther } from "./columns";
export { type Conditions, type Policy, USUAL_POLICY } from "./drafts";
export { expectHealthy, expectOf, predictHealthy } from "./expect";
export { generateTests } from "./generate";
export { askedAt, type CavityQuestion, type CavityReading, cavityWords, type Identification, identifyPins } from "./identify";
export { ownProcedure } from "./own";
export {
  emptyPrediction,
  LOOK_WORDS,
  predictClick,
  predictionSigma,
  predictProbe,
  wordsOf,
} from "./predict";
export { measurementId, measurementOf, type Procedure, procedureId } from "./procedure";
export { type Motion, type MovingCircuit, type MovingMoment, type Prediction, PredictionScratch } from "./sensitivities";
