export { type AlikePair, crossElement } from "./alike";
export { alternativesOf, type MeantCircuit } from "./alternatives";
export type { Assignment } from "./assignment";
export {
  type CircuitBuilder,
  CONTACT_OHMS,
  elementName,
  isContact,
  isLowSide,
  isShort,
  isWire,
  ownerOf,
  type PathStep,
  type PinPath,
  pinNode,
  WIRE_OHMS,
} from "./builder";
export { BATTERY_VOLTS, BODY_STRAP_OHMS, carAssignments, MODULE_GROUND, weakBattery } from "./car";
export { type Curve, interpolate, inverseCurve, thermistorCelsius, thermistorOhms } from "./curve";
export { type EngineState, engineOf, HAND_RPM, USUAL_RPM } from "./engine";
export { FAMILIES, familyById } from "./families";
export { FAMILY_NAMES, type FamilyName, familyNamed } from "./families/names";
export {
  type Beside,
  type BuiltFamily,
  type Drive,
  defineFamily,
  type Family,
  type FamilyFault,
  type FamilyKind,
  type FamilyTraits,
  type FaultUse,
  type ModuleReading,
  type Moment,
  type Quantity,
  type SeverityScale,
  type Situation,
  steady,
  switching,
  type Tolerance,
  type Watched,
  type World,
  type WorldValue,
} from "./family";
export { buildModel, type CircuitModel, circuitOf, connectorsOf, type Model, moves, pathOf } from "./model";
export { parameterTitle } from "./parameter-title";
export { ANY_GROUND, type PinSpec } from "./pins";
export { statedParameters } from "./provenance";
export { applySetup, editsOf, isOpen, JUMPER_FUSE_AMPS, resolvePoint, type SetupNetwork, TEST_LAMP, touchedDrive, worldIn } from "./setup";
export { completeSheets } from "./sheet";
export { differing, seenApart, shownParts, tellsApart } from "./shown-by";
export { specifiedOhms, windingOhmsWindow } from "./specified-ohms";
export { inputBlind, moduleGroundFaults, ohmsTolerance, partFault, pullStage, readsVolts, set, supplyTolerance } from "./stages";
export {
  ANYWHERE,
  fixedWorld,
  isBrought,
  isHeld,
  movedThrough,
  movesSensed,
  NO_WORLD,
  shiftAt,
  situationOf,
  statedWorld,
  stretchAt,
  type WorldSource,
  worldSource,
  worldSourcesOf,
} from "./world";
