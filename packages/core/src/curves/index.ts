export { bestLaw, FIT_LAWS, type Fit, type FitLaw, fitCurve, lawsOf } from "./fit";
export { type ReadingOnCurve, readingsOnCurve } from "./reading";
export { type SignalCurve, signalCurveOf } from "./signal";
export { type CurveSlot, curveSlotOf, pointsFor, unitsOfCurve } from "./use";
