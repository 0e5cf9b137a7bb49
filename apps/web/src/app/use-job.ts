import { circuitsOf, foldJob, type JobState, titleOfJob } from "@fox-lamp/core/job";
import type { EntryKind, EntryOf, JobDetail, NewEntry } from "@fox-lamp/language";
import { useCallback, useMemo } from "react";
import { v7 as uuidv7 } from "uuid";
import { useJobQuery } from "./api";
import { useLive } from "./live";
import { entered } from "./outbox";
import { usePerson } from "./session";
import { useAppDispatch, useAppSelector } from "./store";

/** A job with everything entered so far, entries still waiting on this device included. */
export function useJob(id: string): { job: JobDetail | undefined; state: JobState; missing: boolean; failed: boolean; retry: () => void } {
  const { data, error, refetch } = useJobQuery(id);
  useLive(data === undefined ? null : `/api/jobs/${id}/events`, () => void refetch());
  const waiting = useAppSelector((state) => state.outbox.waiting);
  const state = useMemo(() => {
    const stored = data?.entries ?? [];
    const known = new Set(stored.map((entry) => entry.id));
    const own = waiting.filter((item) => item.job === id && !known.has(item.entry.id)).map(({ entry }) => entry);
    return foldJob([...stored, ...own] as Parameters<typeof foldJob>[0]);
  }, [data, waiting, id]);
  // Edits of the sheet that still wait on this device count already.
  const job = useMemo(() => {
    if (!data) return data;
    const circuits = circuitsOf(data.circuits, state);
    return { ...data, circuits, title: titleOfJob(circuits) };
  }, [data, state]);
  const status = error && "status" in error ? error.status : null;
  return {
    job,
    state,
    missing: status === 404 || status === 400,
    failed: status !== null && status !== 404 && status !== 400,
    retry: () => void refetch(),
  };
}

/** Adds entries to a job: shown at once, kept on the device until the server has them. */
export function useEnter(job: string): <K extends EntryKind>(...drafts: { kind: K; body: EntryOf<K>["body"] }[]) => string[] {
  const dispatch = useAppDispatch();
  const by = usePerson();
  return useCallback(
    (...drafts) => {
      const entries = drafts.map((draft) => ({ id: uuidv7(), at: new Date().toISOString(), by, ...draft }) as NewEntry);
      dispatch(entered({ job, entries }));
      return entries.map(({ id }) => id);
    },
    [dispatch, job, by],
  );
}

/** The next free name r1, r2 ... that no reading of the job has had. */
export function nextName(readings: readonly { reading: { id: string } }[]): string {
  const used = readings.map(({ reading }) => Number(/^r(\d+)$/u.exec(reading.id)?.[1] ?? 0));
  return `r${Math.max(0, ...used) + 1}`;
}
