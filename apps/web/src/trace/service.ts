import type { Problem } from "@fox-lamp/language";
import { proxy, type Remote, wrap } from "comlink";
import type { CaptureService, Told } from "./capture.worker";

let service: Remote<CaptureService> | null = null;

/** The one worker that holds captures; made when first needed. */
export function captureService(): Remote<CaptureService> {
  service ??= wrap<CaptureService>(new Worker(new URL("./capture.worker.ts", import.meta.url), { type: "module" }));
  return service;
}

export { proxy };

/** Why the worker has no answer; to be shown as it is. */
export class NoAnswer extends Error {
  constructor(readonly problem: Problem) {
    super(problem.where === "" ? problem.message : `${problem.where}: ${problem.message}`);
    this.name = "NoAnswer";
  }
}

/** The value of an answer. @throws NoAnswer with its one sentence */
export async function answered<T>(answer: Promise<Told<T>>): Promise<T> {
  const told = await answer;
  if (told.ok) return told.value;
  throw new NoAnswer(told.problem);
}
