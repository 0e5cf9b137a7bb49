export { findingsOf, type RecordingFinding } from "./recording";
