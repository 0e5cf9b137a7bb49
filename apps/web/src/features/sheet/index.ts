export { SheetPage } from "./SheetPage";
