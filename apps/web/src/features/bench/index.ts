export { BenchPage } from "./BenchPage";
