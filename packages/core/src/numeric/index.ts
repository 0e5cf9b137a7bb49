export { invertInPlace, luInPlace, luSolveInPlace, type Singular } from "./dense";
export { type Random, seededRandom } from "./random";
export { logistic, logNormalDensity, logSumExp, normalCdf, percentile } from "./statistics";
