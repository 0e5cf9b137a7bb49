export { type Analysis, analyse, type Opening, openingOf, type SceneVolts, sceneOf, windowsOf } from "./analysis";
export { type CircuitView, type PinView, viewsOf } from "./circuit-view";
