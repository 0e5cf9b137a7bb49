export { checkProof, type FalseSentence } from "./check";
