export { CheckPage } from "./CheckPage";
export { CodesPage } from "./CodesPage";
export { JobPage } from "./JobPage";
export { ReportPage } from "./ReportPage";
export { RepairPage } from "./repair/RepairPage";
export { TriagePage } from "./TriagePage";
