import type { DiagnosedJob, WhyNot } from "@fox-lamp/core/diagnosis";
import { proxy, type Remote, wrap } from "comlink";
import { useEffect, useMemo, useRef, useState } from "react";
import type { Analysis } from "./analysis";
import type { Analysed, AnalysisService, Proven, Told } from "./analysis.worker";

let service: Remote<AnalysisService> | null = null;
let worker: Worker | null = null;

/** The one worker of the page; made when first needed. */
function analysisService(): Remote<AnalysisService> {
  worker ??= new Worker(new URL("./analysis.worker.ts", import.meta.url), { type: "module" });
  service ??= wrap<AnalysisService>(worker);
  return service;
}

/** Stops whatever the worker computes; the next question gets a new one. */
function stopService(): void {
  worker?.terminate();
  worker = null;
  service = null;
}

/** How far a computation has come. */
export interface Computing {
  readonly done: number;
  readonly total: number;
  readonly what: string;
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

/** The proof of where a job stands; null while it is written. */
export function useProof(job: DiagnosedJob | null): Proven | null {
  const [proven, setProven] = useState<{ key: string; proven: Proven } | null>(null);
  const key = useMemo(() => JSON.stringify(job), [job]);
  useEffect(() => {
    const asked: DiagnosedJob | null = JSON.parse(key);
    if (asked === null) return;
    let current = true;
    analysisService()
      .prove(asked)
      .then((answer) => current && setProven({ key, proven: answer }))
      .catch(() => undefined);
    return () => {
      current = false;
    };
  }, [key]);
  return proven?.key === key ? proven.proven : null;
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

/** Work that takes less than this is not worth a progress line, milliseconds. */
const QUICK_MS = 500;

interface AnalysisState {
  readonly analysis: Analysis | null;
  readonly computing: boolean;
  readonly failure: string | null;
  /** What is being computed, once it takes longer than a moment. */
  readonly progress: Computing | null;
  readonly cancelled: boolean;
  readonly cancel: () => void;
  readonly again: () => void;
}

/** The analysis of a job as it changes; the last one stays on screen while the next is computed. It can be cancelled and asked again. */
export function useAnalysis(job: DiagnosedJob | null): AnalysisState {
  const [result, setResult] = useState<{ key: string; answer: Analysed } | null>(null);
  const [progress, setProgress] = useState<Computing | null>(null);
  const [cancelled, setCancelled] = useState<string | null>(null);
  const [round, setRound] = useState(0);
  const wanted = useRef("");
  const key = useMemo(() => JSON.stringify(job), [job]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new round asks the same again
  useEffect(() => {
    const asked: DiagnosedJob | null = JSON.parse(key);
    wanted.current = key;
    if (asked === null) return;
    setCancelled(null);
    const started = performance.now();
    const report = (done: number, total: number, what: string): void => {
      if (wanted.current === key && performance.now() - started > QUICK_MS) setProgress({ done, total, what });
    };
    analysisService()
      .analyse(asked, proxy(report))
      .catch((error: Error): Analysed => ({ ok: false, problem: { code: "analysis:failed", where: "", message: error.message } }))
      .then((answer) => {
        if (wanted.current !== key) return;
        setProgress(null);
        setResult({ key, answer });
      });
  }, [key, round]);
  const answer = result?.answer;
  return {
    analysis: answer?.ok ? answer.analysis : null,
    computing: result?.key !== key && cancelled !== key,
    failure: answer && !answer.ok ? answer.problem.message : null,
    progress,
    cancelled: cancelled === key,
    cancel: () => {
      stopService();
      setProgress(null);
      setCancelled(key);
    },
    again: () => setRound((before) => before + 1),
  };
}
