export { invertInPlace, type Singular } from "./dense";
export { type Random, seededRandom } from "./random";
export { analysePattern, entryOf, SparseFactor, type SparsePattern } from "./sparse";
export { logistic, logNormalDensity, logSumExp, normalCdf, percentile } from "./statistics";
