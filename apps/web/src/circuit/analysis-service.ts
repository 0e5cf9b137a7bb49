import { type Remote, wrap } from "comlink";
import type { Analysed, AnalysisService, Triaged } from "./analysis.worker";

let service: Remote<AnalysisService> | null = null;
let worker: Worker | null = null;

/** The one worker of the page; made when first needed. */
export function analysisService(): Remote<AnalysisService> {
  worker ??= new Worker(new URL("./analysis.worker.ts", import.meta.url), { type: "module" });
  service ??= wrap<AnalysisService>(worker);
  return service;
}

/** Loads the worker before anything is asked of it. */
export function startAnalysis(): void {
  analysisService();
}

/** Stops whatever the worker computes; the next question gets a new one. */
export function stopService(): void {
  worker?.terminate();
  worker = null;
  service = null;
}

/** Answers that are kept of a kind: whoever goes back to a page finds them there. */
const KEPT = 24;
export const kept = new Map<number, Analysed>();
export const triaged = new Map<number, Triaged>();

/** Keeps an answer; the one kept longest goes. @param key the number of the job it is about */
export function keep<T>(answers: Map<number, T>, key: number, answer: T): void {
  answers.delete(key);
  answers.set(key, answer);
  const [oldest] = answers.keys();
  if (answers.size > KEPT && oldest !== undefined) answers.delete(oldest);
}
