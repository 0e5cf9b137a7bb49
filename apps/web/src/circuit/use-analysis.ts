import type { Analysis, DiagnosedJob, WhyNot } from "@fox-lamp/core";
import type { Expect, Measurement } from "@fox-lamp/language";
import { proxy, type Remote, wrap } from "comlink";
import { useEffect, useMemo, useRef, useState } from "react";
import type { Analysed, AnalysisService, OwnAnswer, Proven, Told } from "./analysis.worker";

export type { OwnAnswer };

let service: Remote<AnalysisService> | null = null;
let worker: Worker | null = null;

/** The one worker of the page; made when first needed. */
function analysisService(): Remote<AnalysisService> {
  worker ??= new Worker(new URL("./analysis.worker.ts", import.meta.url), { type: "module" });
  service ??= wrap<AnalysisService>(worker);
  return service;
}

/** Loads the worker before anything is asked of it. */
export function startAnalysis(): void {
  analysisService();
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

/** A question to the worker: all that it is about, and how it is asked. */
interface Question<T> {
  readonly about: readonly unknown[];
  readonly ask: (service: Remote<AnalysisService>) => Promise<T>;
}

/** An answer of the worker to a question about a job; null until it is there, or while nothing is asked. The key is what it is about. */
function useAnswer<T>(question: Question<T> | null): T | null {
  const [answer, setAnswer] = useState<{ key: string; given: T } | null>(null);
  const key = JSON.stringify(question?.about ?? null);
  const asked = useRef(question);
  asked.current = question;
  useEffect(() => {
    let current = true;
    asked.current
      ?.ask(analysisService())
      .then((given) => current && setAnswer({ key, given }))
      // The worker was stopped: the next question is asked of a new one.
      .catch(() => undefined);
    return () => {
      current = false;
    };
  }, [key]);
  return answer?.key === key ? answer.given : null;
}

/** What the last reading changed and what would follow the next test, once the analysis itself is there; null until then. */
export function useTold(job: DiagnosedJob | null, ready: boolean): Told | null {
  return useAnswer(ready && job !== null ? { about: ["told", job], ask: (service) => service.tell(job) } : null);
}

/** The proof of where a job stands; null while it is written. */
export function useProof(job: DiagnosedJob | null): Proven | null {
  return useAnswer(job === null ? null : { about: ["proof", job], ask: (service) => service.prove(job) });
}

/** Why a chosen unit is not the culprit, or still may be; null while nothing is chosen. */
export function useWhyNot(job: DiagnosedJob | null, unit: string | null): WhyNot | null {
  return useAnswer(job === null || unit === null || unit === "" ? null : { about: ["why", unit, job], ask: (service) => service.whyNot(job, unit) });
}

/** What a test would show that somebody puts together himself; null while it is not complete. */
export function useOwnTest(job: DiagnosedJob | null, measurement: Measurement | null): OwnAnswer | null {
  return useAnswer<OwnAnswer>(
    job === null || measurement === null ? null : { about: ["own", measurement, job], ask: (service) => service.own(job, measurement) },
  );
}

/** Healthy windows of measurements on a job's circuits; null until they are there. */
export function useWindows(job: DiagnosedJob | null, measurements: readonly Measurement[]): (Expect | null)[] | null {
  return useAnswer(job === null ? null : { about: ["windows", job.circuits, measurements], ask: (service) => service.windows(job.circuits, measurements) });
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
