export { startAnalysis } from "../../circuit/use-analysis";
export { BenchPage } from "./page/BenchPage";
export { PaperPage } from "./proof/PaperPage";
export { ProofPage } from "./proof/ProofPage";
