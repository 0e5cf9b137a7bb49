export { type Analysis, analyse, analysing, type Opening, openingOf, sceneOf, windowsOf } from "./analysis";
export { type CircuitView, type PinView, viewsOf } from "./circuit-view";
export type { SceneVolts } from "./sound-circuits";
