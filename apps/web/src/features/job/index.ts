export { CheckPage } from "./check/CheckPage";
export { CodesPage } from "./codes/CodesPage";
export { JobPage } from "./complaint/JobPage";
export { RepairPage } from "./repair/RepairPage";
export { ReportPage } from "./report/ReportPage";
export { TracesPage } from "./traces/TracesPage";
export { TriagePage } from "./triage/TriagePage";
