export { type CustomerReport, customerReport, type ToldReading } from "./customer";
export { provenUnits } from "./proven";
export { readingRows } from "./readings-csv";
