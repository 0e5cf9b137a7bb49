export { listFaults, type Measured, measureFile, netlistOf } from "./measure";
export { CURRENT, clampedPin, leadsOf, traceFile } from "./trace";
