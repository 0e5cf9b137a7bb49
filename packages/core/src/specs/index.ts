export { checkSpecs, type SpecCheck } from "./check";
