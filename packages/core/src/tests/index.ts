export { type Columns, columnsOf } from "./columns";
export { type Conditions, type Policy, USUAL_POLICY } from "./drafts";
export { expectHealthy, expectOf, predictHealthy } from "./expect";
export { generateTests } from "./generate";
export {
  emptyPrediction,
  LOOK_WORDS,
  type Motion,
  type MovingCircuit,
  type MovingMoment,
  type Prediction,
  predictClick,
  predictionSigma,
  predictProbe,
  wordsOf,
} from "./predict";
export { measurementId, measurementOf, type Procedure, procedureId } from "./procedure";
export { pinWord, placeWord } from "./wording";
