export { startAnalysis } from "../../circuit/use-analysis";
export { BenchPage } from "./BenchPage";
export { PaperPage } from "./PaperPage";
export { ProofPage } from "./ProofPage";
