import { type DiagnosedJob, type Triage, triageJob } from "@fox-lamp/core";
import { BadInput, type Problem } from "@fox-lamp/language";
import { expose } from "comlink";

/** A triage, or why there is none; errors do not cross to the page as exceptions. */
export type Triaged = { readonly ok: true; readonly triage: Triage } | { readonly ok: false; readonly problem: Problem };

const service = {
  triage(job: DiagnosedJob): Triaged {
    try {
      return { ok: true, triage: triageJob(job) };
    } catch (error) {
      if (error instanceof BadInput) return { ok: false, problem: error.problem };
      throw error;
    }
  },
};
export type TriageService = typeof service;

expose(service);
