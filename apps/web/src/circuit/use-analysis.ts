import type { Analysis, DiagnosedJob, Opening, WhyNot } from "@fox-lamp/core";
import type { Expect, Measurement } from "@fox-lamp/language";
import { proxy, type Remote } from "comlink";
import { useEffect, useRef, useState } from "react";
import type { Analysed, AnalysisService, OwnAnswer, Proven, Told, Triaged } from "./analysis.worker";
import { analysisService, keep, kept, stopService, triaged } from "./analysis-service";
import { jobKey } from "./job-key";

export type { OwnAnswer };

/** How far a computation has come. */
export interface Computing {
  readonly done: number;
  readonly total: number;
  readonly what: string;
}

/** A question to the worker: what it is about, in a few letters, and how it is asked. */
interface Question<T> {
  readonly about: string;
  readonly ask: (service: Remote<AnalysisService>) => Promise<T>;
}

/** An answer of the worker to a question about a job; null until it is there, or while nothing is asked. */
function useAnswer<T>(question: Question<T> | null): T | null {
  const [answer, setAnswer] = useState<{ key: string; given: T } | null>(null);
  const key = question?.about ?? "";
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
  return useAnswer(ready && job !== null ? { about: `told ${jobKey(job)}`, ask: (service) => service.tell(job) } : null);
}

/** What the codes and data of a job say before anything is touched; null while it is on its way. @param job null asks nothing */
export function useTriage(job: DiagnosedJob | null): Triaged | null {
  const key = job === null ? 0 : jobKey(job);
  const known = triaged.get(key) ?? null;
  const come = useAnswer<Triaged>(job === null || known !== null ? null : { about: `triage ${key}`, ask: (service) => service.triage(job) });
  useEffect(() => {
    if (come !== null) keep(triaged, key, come);
  }, [key, come]);
  return known ?? come;
}

/** The proof of where a job stands; null while it is written. */
export function useProof(job: DiagnosedJob | null): Proven | null {
  return useAnswer(job === null ? null : { about: `proof ${jobKey(job)}`, ask: (service) => service.prove(job) });
}

/** Why a chosen unit is not the culprit, or still may be; null while nothing is chosen. */
export function useWhyNot(job: DiagnosedJob | null, unit: string | null): WhyNot | null {
  return useAnswer(job === null || unit === null || unit === "" ? null : { about: `why ${unit} ${jobKey(job)}`, ask: (service) => service.whyNot(job, unit) });
}

/** What a test would show that somebody puts together himself; null while it is not complete. */
export function useOwnTest(job: DiagnosedJob | null, measurement: Measurement | null): OwnAnswer | null {
  return useAnswer<OwnAnswer>(
    job === null || measurement === null
      ? null
      : { about: `own ${jobKey(job)} ${JSON.stringify(measurement)}`, ask: (service) => service.own(job, measurement) },
  );
}

/** Healthy windows of measurements on a job's circuits; null until they are there. */
export function useWindows(job: DiagnosedJob | null, measurements: readonly Measurement[]): (Expect | null)[] | null {
  return useAnswer(
    job === null ? null : { about: `windows ${jobKey(job)} ${JSON.stringify(measurements)}`, ask: (service) => service.windows(job.circuits, measurements) },
  );
}

/** What a bench shows before its analysis is there: the circuits, and the window of every reading. Nothing is asked once it is there. */
export function useOpening(job: DiagnosedJob | null, ready: boolean): Opening | null {
  return useAnswer(ready || job === null ? null : { about: `opening ${jobKey(job)}`, ask: (service) => service.open(job) });
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
  const key = job === null ? 0 : jobKey(job);
  const [come, setCome] = useState<{ key: number; answer: Analysed } | null>(null);
  const [progress, setProgress] = useState<Computing | null>(null);
  const [cancelled, setCancelled] = useState(-1);
  const [round, setRound] = useState(0);
  const wanted = useRef({ key, job });
  wanted.current = { key, job };
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new round asks the same again
  useEffect(() => {
    const asked = wanted.current.job;
    if (asked === null) return;
    if (kept.has(key)) {
      // It was known beforehand; what follows it is made ready all the same.
      void analysisService().prepare(asked);
      return;
    }
    setCancelled(-1);
    const started = performance.now();
    const report = (done: number, total: number, what: string): void => {
      if (wanted.current.key === key && performance.now() - started > QUICK_MS) setProgress({ done, total, what });
    };
    // What the page shows until then is asked for in the same moment, and goes first.
    Promise.resolve()
      .then(async (): Promise<Analysed> => analysisService().analyse(asked, proxy(report)))
      .catch((error: Error): Analysed => ({ ok: false, problem: { code: "analysis:failed", where: "", message: error.message } }))
      .then((answer) => {
        if (answer.ok) keep(kept, key, answer);
        if (wanted.current.key !== key) return;
        setProgress(null);
        setCome({ key, answer });
      });
  }, [key, round]);
  const known = kept.get(key) ?? (come?.key === key ? come.answer : null);
  const shown = useRef<Analysed | null>(null);
  if (known !== null) shown.current = known;
  const answer = shown.current;
  return {
    analysis: answer?.ok ? answer.analysis : null,
    computing: job !== null && known === null && cancelled !== key,
    failure: answer?.ok === false ? answer.problem.message : null,
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
