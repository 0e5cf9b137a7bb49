export { faultsOf } from "./catalogue";
export { effectIn, type Fault, type FaultEffect, type FaultVariant, middleSeverity, QUIET_SHARE, showsIn } from "./fault";
export { combineEffects, type PlacedFault, placeFault } from "./lookup";
export { moduleVolts } from "./material";
export { HEALTHY_PRIOR, PRIOR_WEIGHTS, priorWeight } from "./priors";
