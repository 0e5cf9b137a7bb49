export { listFaults, type Measured, measureFile, netlistOf } from "./measure";
