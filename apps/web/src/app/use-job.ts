import { circuitsOf, decide, foldJob, type JobState, plainRules, problemOfRefusal, titleOfJob } from "@fox-lamp/core";
import type { EntryKind, EntryOf, JobDetail, NewEntry } from "@fox-lamp/language";
import { useCallback, useEffect, useMemo, useRef } from "react";
import { v7 as uuidv7 } from "uuid";
import { entered } from "../outbox";
import { toast } from "../ui/toast";
import { api, useJobQuery } from "./api";
import { knownUpTo } from "./entries";
import { type Changed, useLive } from "./live";
import { usePerson, usePersonId } from "./session";
import { useAppDispatch, useAppSelector } from "./store";

/** An entry of one's own comes back as an event about as fast as its own answer: this much later one knows, milliseconds. */
const OWN_ANSWER_MS = 250;

/** Asks for what somebody else entered, once the server says that there is more than is known here. */
function useOthersEntries(id: string, job: JobDetail | undefined): void {
  const dispatch = useAppDispatch();
  const known = useRef(0);
  known.current = knownUpTo(job?.entries ?? []);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const look = useCallback(
    (changed: Changed) => {
      if (timer.current !== null) clearTimeout(timer.current);
      timer.current = setTimeout(() => {
        if (changed?.seq !== undefined && changed.seq <= known.current) return;
        void dispatch(api.endpoints.entriesSince.initiate({ job: id, after: known.current }));
      }, OWN_ANSWER_MS);
    },
    [dispatch, id],
  );
  useEffect(() => () => (timer.current === null ? undefined : clearTimeout(timer.current)), []);
  useLive(job === undefined ? null : `/api/jobs/${id}/events`, look);
}

/** A job with everything entered so far, entries still waiting on this device included. */
export function useJob(id: string): { job: JobDetail | undefined; state: JobState; missing: boolean; failed: boolean; retry: () => void } {
  const { data, error, refetch } = useJobQuery(id);
  useOthersEntries(id, data);
  const waiting = useAppSelector((state) => state.outbox.waiting);
  const state = useMemo(() => foldJob(allEntries(id, data, waiting)), [data, waiting, id]);
  // Edits of the sheet that still wait on this device count already.
  const job = useMemo(() => {
    if (!data) return data;
    const circuits = circuitsOf(data.startedWith, state);
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

type Stored = Parameters<typeof foldJob>[0];

/** Entries the server has, and those that still wait on this device. */
function allEntries(id: string, job: JobDetail | undefined, waiting: readonly { readonly job: string; readonly entry: NewEntry }[]): Stored {
  const stored = job?.entries ?? [];
  const known = new Set(stored.map((entry) => entry.id));
  return [...stored, ...waiting.filter((item) => item.job === id && !known.has(item.entry.id)).map(({ entry }) => entry)] as Stored;
}

/**
 * Adds entries to a job: shown at once, kept on the device until the server has them. What the rules of the job refuse is said so and
 * not entered; the ids are then none.
 */
export function useEnter(job: string): <K extends EntryKind>(...drafts: { kind: K; body: EntryOf<K>["body"] }[]) => string[] {
  const dispatch = useAppDispatch();
  const by = usePerson();
  const person = usePersonId();
  return useCallback(
    (...drafts) => {
      const entries = drafts.map((draft) => ({ id: uuidv7(), at: new Date().toISOString(), by, ...draft }) as NewEntry);
      return dispatch((now, getState) => {
        const state = getState();
        const { data } = api.endpoints.job.select(job)(state);
        const decision = decide({ started: data?.startedWith ?? [], entries: allEntries(job, data, state.outbox.waiting) }, entries, plainRules);
        if (!decision.ok) {
          toast.error(problemOfRefusal(decision.refusal).message);
          return [];
        }
        now(entered({ job, person, entries }));
        return entries.map(({ id }) => id);
      });
    },
    [dispatch, job, by, person],
  );
}
