import {
  type Analysis,
  analyse,
  analysing,
  type DiagnosedJob,
  lastMove,
  type Move,
  movesOf,
  type OnProgress,
  type Opening,
  openingOf,
  ownTest,
  type Proof,
  planJob,
  preparations,
  proofOf,
  type SceneVolts,
  Session,
  sceneOf,
  type Triage,
  triageJob,
  type WhyNot,
  whyNot,
  windowsOf,
} from "@fox-lamp/core";
import { BadInput, type Expect, type Measurement, type NextTest, type Plan, type Problem } from "@fox-lamp/language";
import { expose } from "comlink";

/** An analysis, or why there is none; errors do not cross to the page as exceptions. */
export type Analysed = { readonly ok: true; readonly analysis: Analysis } | { readonly ok: false; readonly problem: Problem };

/** A test somebody put together himself, or why it cannot be. */
export type OwnAnswer =
  | { readonly ok: true; readonly test: NextTest; readonly engineering: Expect | null; readonly volts: SceneVolts }
  | { readonly ok: false; readonly problem: Problem };

/** A triage, or why there is none. */
export type Triaged = { readonly ok: true; readonly triage: Triage } | { readonly ok: false; readonly problem: Problem };

/** What is told besides an analysis: what the last reading changed, and what would follow the next test. */
export interface Told {
  readonly move: Move | null;
  readonly plan: Plan | null;
}

/** A proof with what each reading changed. */
export interface Proven {
  readonly proof: Proof;
  readonly moves: readonly Move[];
}

const cache = new Session();

/** Lets the page ask for what it shows first, milliseconds. */
const PREPARE_AFTER_MS = 120;
let prepared: DiagnosedJob | null = null;

/** A question of the page waits for so long at most, milliseconds. */
const SLICE_MS = 12;
/** The job that is looked at before it is entered; null while none is. */
let foreseen: DiagnosedJob | null = null;
const turns = new MessageChannel();
let work: () => void = () => undefined;
turns.port1.onmessage = () => work();

/** Computes ahead for the next reading of a job between the page's questions, until another job is analysed. */
function prepareNext(job: DiagnosedJob): void {
  prepared = job;
  const steps = preparations(job, cache);
  const slice = (): void => {
    const end = performance.now() + SLICE_MS;
    while (prepared === job && performance.now() < end) if (steps.next().done === true) return;
    // A message takes its turn after the page's own, and is not held back as timers are. What somebody holds in his hand goes first.
    if (prepared === job && foreseen === null) turns.port2.postMessage(null);
  };
  setTimeout(() => {
    if (prepared !== job) return;
    work = slice;
    slice();
  }, PREPARE_AFTER_MS);
}

/** Comes back once the page's own questions have had their turn. */
function turn(): Promise<void> {
  return new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      resolve();
    };
    port2.postMessage(null);
  });
}

const service = {
  analyse(job: DiagnosedJob, progress?: OnProgress): Analysed {
    prepared = null;
    foreseen = null;
    try {
      const analysis = analyse(job, cache, progress);
      prepareNext(job);
      return { ok: true, analysis };
    } catch (error) {
      if (error instanceof BadInput) return { ok: false, problem: error.problem };
      throw error;
    }
  },
  /** Computes ahead for the reading after an analysis that was there already. */
  prepare: prepareNext,
  /**
   * Analyses what a job will be once a reading is entered that somebody holds in his hand, in pieces: a question of the page waits for one of
   * them at most. null where something else was asked meanwhile, or the job cannot be.
   */
  async foresee(job: DiagnosedJob): Promise<Analysed | null> {
    foreseen = job;
    const steps = analysing(job, cache);
    try {
      for (;;) {
        await turn();
        if (foreseen !== job) return null;
        const { done, value } = steps.next();
        if (done === true) return { ok: true, analysis: value };
      }
    } catch (error) {
      // What cannot be is said once it is entered.
      if (error instanceof BadInput) return null;
      throw error;
    } finally {
      if (foreseen === job) {
        foreseen = null;
        work();
      }
    }
  },
  /** What can be shown before anything is diagnosed; null where the job cannot be, which its analysis says. */
  open(job: DiagnosedJob): Opening | null {
    try {
      return openingOf(job, cache);
    } catch (error) {
      if (error instanceof BadInput) return null;
      throw error;
    }
  },
  async triage(job: DiagnosedJob): Promise<Triaged> {
    try {
      return { ok: true, triage: triageJob(job, cache) };
    } catch (error) {
      if (error instanceof BadInput) return { ok: false, problem: error.problem };
      throw error;
    }
  },
  tell(job: DiagnosedJob): Told {
    return { move: lastMove(job, cache), plan: planJob(job, cache) };
  },
  prove(job: DiagnosedJob): Proven {
    return { proof: proofOf(job, cache), moves: movesOf(job, cache) };
  },
  async own(job: DiagnosedJob, measurement: Measurement): Promise<OwnAnswer> {
    try {
      const test = ownTest(job, measurement, cache);
      return { ok: true, test, ...sceneOf(job, test, cache) };
    } catch (error) {
      if (error instanceof BadInput) return { ok: false, problem: error.problem };
      throw error;
    }
  },
  windows(circuits: DiagnosedJob["circuits"], measurements: readonly Measurement[]): (Expect | null)[] {
    return windowsOf(circuits, measurements, cache);
  },
  whyNot(job: DiagnosedJob, unit: string): WhyNot {
    return whyNot(job, unit, cache);
  },
};
export type AnalysisService = typeof service;

expose(service);
