export { type CodeKind, type GenericCode, genericCode, genericCodes } from "./generic";
export { circuitsOfCode, followsFrom, isSubject, type MatchedCode } from "./match";
export { codeLimits, DRIVEN_GROUNDED_VOLTS, DRIVEN_LEAST_VOLTS, TRACK_PERCENT } from "./rules";
export { SUBJECTS, type Subject, type SubjectKey } from "./subjects";
