import type { Entry, NewEntry } from "@fox-lamp/language";
import { createListenerMiddleware, createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { api } from "./api";

/** Entries made on this device that the server has not confirmed yet. They survive a reload. */
export interface Outbox {
  readonly waiting: readonly { readonly job: string; readonly entry: NewEntry }[];
  readonly failing: boolean;
  /** Why the server refused a waiting entry for good, and which; null while it may still take all. */
  readonly refused: string | null;
  readonly refusedEntry: string | null;
}

const STORAGE_KEY = "fox-lamp/outbox";
const RETRY_MS = 4000;

function restore(): Outbox["waiting"] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(STORAGE_KEY) ?? "[]");
    return Array.isArray(kept) ? (kept as Outbox["waiting"]) : [];
  } catch {
    return [];
  }
}

const outboxSlice = createSlice({
  name: "outbox",
  initialState: (): Outbox => ({ waiting: restore(), failing: false, refused: null, refusedEntry: null }),
  reducers: {
    entered: (state, { payload }: PayloadAction<{ job: string; entries: NewEntry[] }>) => {
      state.waiting.push(...payload.entries.map((entry) => ({ job: payload.job, entry: entry as never })));
    },
    confirmed: (state, { payload }: PayloadAction<readonly string[]>) => {
      state.waiting = state.waiting.filter(({ entry }) => !payload.includes(entry.id));
      state.failing = false;
      state.refused = null;
      state.refusedEntry = null;
    },
    failed: (state, { payload }: PayloadAction<{ reason: string; entry: string } | null>) => {
      state.failing = true;
      state.refused = payload?.reason ?? null;
      state.refusedEntry = payload?.entry ?? null;
    },
    discarded: (state) => {
      state.waiting = state.waiting.filter(({ entry }) => entry.id !== state.refusedEntry);
      state.refused = null;
      state.refusedEntry = null;
      state.failing = false;
    },
    retried: (state) => {
      state.refused = null;
      state.refusedEntry = null;
    },
  },
});

export const { entered, discarded, retried } = outboxSlice.actions;
export const outboxReducer = outboxSlice.reducer;

interface WithOutbox {
  readonly outbox: Outbox;
}

/** Sends waiting entries in order, one job at a time, and tries again until the server has them. */
export const outboxMiddleware = createListenerMiddleware<WithOutbox>();
const { confirmed, failed } = outboxSlice.actions;

outboxMiddleware.startListening({
  predicate: (_action, now, before) => now.outbox.waiting !== before.outbox.waiting,
  effect: (_action, { getState }) => {
    localStorage.setItem(STORAGE_KEY, JSON.stringify(getState().outbox.waiting));
  },
});

interface SendResult {
  readonly data?: readonly Entry[];
  readonly error?: { readonly status?: unknown; readonly data?: { readonly message?: string; readonly where?: string } };
}

/** The entry a refusal speaks of, by its place; the first where it names none. */
function refusedOf(entries: readonly NewEntry[], where = ""): string {
  const place = Number(/^entries\[(\d+)\]/u.exec(where)?.[1] ?? 0);
  return (entries[place] ?? entries[0])?.id ?? "";
}

let sending = false;

outboxMiddleware.startListening({
  predicate: (action) => entered.match(action) || retried.match(action) || discarded.match(action),
  effect: async (_action, { getState, dispatch, delay }) => {
    if (sending) return;
    sending = true;
    try {
      while (getState().outbox.waiting.length > 0) {
        const { waiting } = getState().outbox;
        const job = waiting[0]?.job ?? "";
        const entries = waiting.filter((item) => item.job === job).map(({ entry }) => entry);
        // The listener's dispatch knows only its own slice; the thunk needs the whole store, which it gets at run time.
        const result = (await dispatch(api.endpoints.append.initiate({ job, entries }) as never)) as SendResult;
        if (result.data) {
          dispatch(confirmed(entries.map(({ id }) => id)));
          continue;
        }
        const error = result.error ?? {};
        // Signed out is no refusal: entries wait until somebody signs in again.
        const final = typeof error.status === "number" && error.status >= 400 && error.status < 500 && error.status !== 401;
        dispatch(failed(final ? { reason: error.data?.message ?? "it is not valid", entry: refusedOf(entries, error.data?.where) } : null));
        if (final) return;
        await delay(RETRY_MS);
      }
    } finally {
      sending = false;
    }
  },
});
