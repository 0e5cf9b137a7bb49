export { type Columns, columnsOf } from "./columns";
export { expectHealthy, expectProbe, predictHealthy } from "./expect";
export { type Conditions, generateTests } from "./generate";
export { emptyPrediction, type Motion, type Prediction, predictionSigma, predictProbe, wordsOf } from "./predict";
export { measurementOf, type Procedure, procedureId } from "./procedure";
export { pinWord, placeWord } from "./wording";
