export { type EntryMaker, type TakenApart, takeApart } from "./file";
export { diagnosedPart, foldJob, type JobReading, type JobState } from "./fold";
