export { CalculatorsPage } from "./CalculatorsPage";
