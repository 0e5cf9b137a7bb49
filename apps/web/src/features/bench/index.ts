export { startAnalysis } from "../../circuit/analysis-service";
export { BenchPage } from "./page/BenchPage";
export { PaperPage } from "./proof/PaperPage";
export { ProofPage } from "./proof/ProofPage";
