import { diagnosedPart } from "@fox-lamp/core";
import { useMemo } from "react";
import type { Work } from "./JobFrame";

/** The part of a job its diagnosis is computed from; null without circuits, and where nothing is asked. */
export function useDiagnosed({ job, state, shop }: Pick<Work, "job" | "state" | "shop">, asked = true): ReturnType<typeof diagnosedPart> | null {
  return useMemo(() => (asked && job.circuits.length > 0 ? diagnosedPart(job, state, shop?.settings ?? null, job.found) : null), [asked, job, state, shop]);
}
