import type { DiagnosedJob, WhyNot } from "@fox-lamp/core/diagnosis";
import { type Remote, wrap } from "comlink";
import { useEffect, useMemo, useRef, useState } from "react";
import type { Analysis } from "./analysis";
import type { Analysed, AnalysisService, Told } from "./analysis.worker";

let service: Remote<AnalysisService> | null = null;

/** The one worker of the page; made when first needed. */
function analysisService(): Remote<AnalysisService> {
  service ??= wrap<AnalysisService>(new Worker(new URL("./analysis.worker.ts", import.meta.url), { type: "module" }));
  return service;
}

/** Asks the worker for one analysis, outside the current state of the bench. */
export function analyseOnce(job: DiagnosedJob): Promise<Analysed> {
  return analysisService().analyse(job);
}

/** What the last reading changed and what would follow the next test, once the analysis itself is there; null until then. */
export function useTold(job: DiagnosedJob | null, ready: boolean): Told | null {
  const [told, setTold] = useState<{ key: string; told: Told } | null>(null);
  const key = useMemo(() => JSON.stringify(job), [job]);
  useEffect(() => {
    const asked: DiagnosedJob | null = JSON.parse(key);
    if (!ready || asked === null) return;
    let current = true;
    analysisService()
      .tell(asked)
      .then((answer) => current && setTold({ key, told: answer }))
      .catch(() => undefined);
    return () => {
      current = false;
    };
  }, [key, ready]);
  return told?.key === key ? told.told : null;
}

/** Why a chosen unit is not the culprit, or still may be; null while nothing is chosen. */
export function useWhyNot(job: DiagnosedJob | null, unit: string | null): WhyNot | null {
  const [answer, setAnswer] = useState<{ key: string; why: WhyNot } | null>(null);
  const key = useMemo(() => JSON.stringify([job, unit]), [job, unit]);
  useEffect(() => {
    if (job === null || unit === null || unit === "") return;
    let current = true;
    analysisService()
      .whyNot(job, unit)
      .then((why) => current && setAnswer({ key, why }))
      .catch(() => undefined);
    return () => {
      current = false;
    };
  }, [job, unit, key]);
  return answer?.key === key ? answer.why : null;
}

/** The analysis of a job as it changes; the last one stays on screen while the next is computed. */
export function useAnalysis(job: DiagnosedJob | null): { analysis: Analysis | null; computing: boolean; failure: string | null } {
  const [result, setResult] = useState<{ key: string; answer: Analysed } | null>(null);
  const wanted = useRef("");
  const key = useMemo(() => JSON.stringify(job), [job]);
  useEffect(() => {
    const asked: DiagnosedJob | null = JSON.parse(key);
    wanted.current = key;
    if (asked === null) return;
    analyseOnce(asked)
      .catch((error: Error): Analysed => ({ ok: false, problem: { code: "analysis:failed", where: "", message: error.message } }))
      .then((answer) => {
        if (wanted.current === key) setResult({ key, answer });
      });
  }, [key]);
  const answer = result?.answer;
  return { analysis: answer?.ok ? answer.analysis : null, computing: result?.key !== key, failure: answer && !answer.ok ? answer.problem.message : null };
}
