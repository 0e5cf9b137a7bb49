export { CalculatorsPage } from "./calculators/CalculatorsPage";
export { ShelfPage } from "./specs/ShelfPage";
