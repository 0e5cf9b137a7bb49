export { CONTACT_OHMS, elementName, MODULE_GROUND, type PathStep, type PinPath, pinNode, WIRE_OHMS } from "./builder";
export { BATTERY_VOLTS } from "./car";
export { type Curve, interpolate, inverseCurve, thermistorCelsius, thermistorOhms } from "./curve";
export { FAMILIES, familyById } from "./families";
export {
  type Assignment,
  type BuiltFamily,
  type Family,
  type FamilyFault,
  type SeverityScale,
  statedWorld,
  type Tolerance,
  type World,
  type WorldValue,
} from "./family";
export { buildModel, type CircuitModel, circuitOf, type Model, pathOf } from "./model";
export { applySetup, editsOf, isOpen, resolvePoint, type SetupNetwork, TEST_LAMP } from "./setup";
