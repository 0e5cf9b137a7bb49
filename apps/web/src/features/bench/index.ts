export { BenchPage } from "./BenchPage";
export { ProofPage } from "./ProofPage";
