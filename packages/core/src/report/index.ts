export { type CustomerReport, customerReport } from "./customer";
export { readingRows } from "./readings-csv";
