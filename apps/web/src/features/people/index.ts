export { AccountPage } from "./AccountPage";
export { FiguresPage } from "./FiguresPage";
export { PeoplePage } from "./PeoplePage";
export { ShopsPage } from "./ShopsPage";
