export { type Meter, type ScanAdapter, type Scope, simulatedMeter, simulatedScan, simulatedScope } from "./adapters";
export { windingCurrent } from "./coil";
export { type Course, courseOf } from "./course";
export { CodeMemory, type Watch } from "./module";
export { type AdapterAnswer, type AdapterRequest, adapterRequestSchema, answerLine, type Devices } from "./protocol";
export { quantise, SCOPE_RANGES, type Trace, type TraceChannel, type TraceRequest, traceOf } from "./trace";
export { type LiveValue, type VehicleOptions, VirtualVehicle } from "./vehicle";
