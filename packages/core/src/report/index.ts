export { type CustomerReport, customerReport, type ToldReading } from "./customer";
export { readingRows } from "./readings-csv";
