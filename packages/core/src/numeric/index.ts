export { BoundedCache } from "./bounded-cache";
export { chiSquareTail } from "./chi-square";
export { choleskyInPlace, forwardInPlace } from "./cholesky";
export { invertInPlace, type Singular } from "./dense";
export { lazy } from "./lazy";
export { type Random, seededRandom } from "./random";
export { analysePattern, entryOf, SparseFactor, type SparsePattern } from "./sparse";
export { logAdd, logistic, logNormalDensity, logSumExp, normalCdf, percentile } from "./statistics";
export { normalTail, type Tail } from "./tail";
