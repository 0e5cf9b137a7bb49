export { listFaults, type Measured, measureFile, netlistOf } from "./measure";
export { leadsOf, traceFile } from "./trace";
