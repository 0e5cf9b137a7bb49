export { type CodeGroup, type CommonCause, type Triage, type TriagedCode, triageJob } from "./triage";
