import { type DiagnosedJob, EngineCache } from "@fox-lamp/core/diagnosis";
import { BadInput, type Problem } from "@fox-lamp/language";
import { expose } from "comlink";
import { type Analysis, analyse } from "./analysis";

/** An analysis, or why there is none; errors do not cross to the page as exceptions. */
export type Analysed = { readonly ok: true; readonly analysis: Analysis } | { readonly ok: false; readonly problem: Problem };

const cache = new EngineCache();

const service = {
  analyse(job: DiagnosedJob): Analysed {
    try {
      return { ok: true, analysis: analyse(job, cache) };
    } catch (error) {
      if (error instanceof BadInput) return { ok: false, problem: error.problem };
      throw error;
    }
  },
};
export type AnalysisService = typeof service;

expose(service);
