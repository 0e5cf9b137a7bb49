export { CheckPage } from "./CheckPage";
export { CodesPage } from "./CodesPage";
export { JobPage } from "./JobPage";
export { RepairPage } from "./RepairPage";
export { ReportPage } from "./ReportPage";
export { TriagePage } from "./TriagePage";
