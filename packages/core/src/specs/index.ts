export { checkSpecs, type SpecCheck } from "./check";
export { type LimitNote, notesOnLimits } from "./of-reading";
