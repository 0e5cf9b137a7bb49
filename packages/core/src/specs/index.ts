export { checkSpecs, type SpecCheck } from "./check";
export { COLUMNS, type Column } from "./columns";
export { conflictsIn, type NamedLimit } from "./conflicts";
export { type LimitNote, notesOnLimits } from "./of-reading";
export { betweenLimits, fitsVehicle, isOfMeasurement, type JudgedRecord, judgeRecords, knownFor, limitsFor, recordsOfFile, sameness, splitBy } from "./shelf";
export { type RowProblem, readTable, type TableRead, writeTable } from "./table";
export { SPEC_UNITS } from "./units";
export { compareVariants, type PartInHand, type VariantMatch } from "./variants";
export { windowWords } from "./window";
