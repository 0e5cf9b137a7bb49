export { type Analysis, analyse, type SceneVolts, sceneOf, windowsOf } from "./analysis";
export { type CircuitView, type PinView, viewsOf } from "./circuit-view";
