export { FiguresPage } from "./FiguresPage";
