export { lossOf, type Noticed, type SymptomCauses, symptomCauses } from "./loss";
export { type Branch, type CodeGroup, type CodeRole, type CommonCause, type Look, type Tree, type Triage, type TriagedCode, triageJob } from "./triage";
