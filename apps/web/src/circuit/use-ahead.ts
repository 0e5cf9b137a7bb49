import type { DiagnosedJob } from "@fox-lamp/core";
import { useEffect } from "react";
import { analysisService, keep, kept } from "./analysis-service";
import { jobKey } from "./job-key";

/** A value that stands for so long may be the whole of it, milliseconds. */
const SETTLED_MS = 60;

/** Has jobs analysed that may be what is asked next, one after the other, once they have stood for a moment: whoever asks finds the answer there. */
export function useAhead(jobs: readonly DiagnosedJob[]): void {
  useEffect(() => {
    if (jobs.length === 0) return;
    let wanted = true;
    const look = async (): Promise<void> => {
      for (const job of jobs) {
        const key = jobKey(job);
        if (!wanted || kept.has(key)) continue;
        const answer = await analysisService().foresee(job);
        if (answer?.ok === true) keep(kept, key, answer);
      }
    };
    // A worker that was stopped meanwhile leaves the question to the next one.
    const timer = setTimeout(() => void look().catch(() => undefined), SETTLED_MS);
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [jobs]);
}
