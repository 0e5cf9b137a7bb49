export { assignValues, type CompiledNetwork, compileNetwork, copyValues, type Values } from "./compile";
export { type EditSolver, prepareEdits } from "./edit";
export {
  type Amplifier,
  DATUM,
  type Edit,
  type EditField,
  type Element,
  type Fuse,
  isPowered,
  KIND,
  type Lamp,
  LEAK_SIEMENS,
  mayStarve,
  type Netlist,
  nodesOf,
  OPEN_OHMS,
  type Powered,
  type Regulator,
  type Resistor,
  SHORT_OHMS,
  type Source,
  unaidedShare,
} from "./elements";
export { lampAmps, lampVolts } from "./lamp";
export { adjointOf, portSensitivity, voltsSensitivity } from "./sensitivity";
export { type Corrections, nodeVolts, portOhms, type Solution, solveNetwork, UndeterminedNode, voltsBetween, withEdits } from "./solve";
export { spiceDeck, spiceNode } from "./spice";
export { CURRENT_LIMIT, OFF } from "./stamp";
