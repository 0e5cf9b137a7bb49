export { AccountPage } from "./AccountPage";
export { PeoplePage } from "./PeoplePage";
export { ShopsPage } from "./ShopsPage";
