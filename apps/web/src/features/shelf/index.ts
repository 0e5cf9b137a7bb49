export { CalculatorsPage } from "./calculators/CalculatorsPage";
export { CardsPage } from "./cards/CardsPage";
export { ShelfPage } from "./specs/ShelfPage";
