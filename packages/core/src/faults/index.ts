export { faultsOf } from "./catalogue";
export {
  BEYOND_SHARE,
  effectIn,
  type Fault,
  type FaultPart,
  type FaultVariant,
  middleSeverity,
  PLAIN_VARIANT,
  type PlacedFault,
  QUIET_SHARE,
  showsIn,
} from "./fault";
export { HINTS, type Hint, hintsAmong } from "./hints";
export type { Learnt } from "./learnt";
export { placeFault } from "./lookup";
export { HEALTHY_PRIOR, PRIOR_WEIGHTS, priorWeight } from "./priors";
