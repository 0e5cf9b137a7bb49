import type { Entry, NewEntry } from "@fox-lamp/language";
import { createListenerMiddleware } from "@reduxjs/toolkit";
import { api } from "../app/api";
import { KeptEntries, type Waiting } from "./kept";
import { confirmed, discarded, entered, failed, type Outbox, personIs, refusedBy, restored, retried, storageIs, triedAgain, written } from "./state";

const RETRY_MS = 4000;
/** So many entries go in one request. */
const CHUNK = 50;
const LOCK = "fox-lamp-outbox";

interface WithOutbox {
  readonly outbox: Outbox;
}

interface SendResult {
  readonly data?: readonly Entry[];
  readonly error?: { readonly status?: unknown; readonly data?: { readonly message?: string; readonly where?: string } };
}

/** Keeps entries on the device from the moment they are entered, and sends them until the server has them. */
export const outboxMiddleware = createListenerMiddleware<WithOutbox>();

/** The device's disk; null where it keeps nothing. Opened once a page. */
let opening: Promise<KeptEntries | null> | null = null;
function keptEntries(): Promise<KeptEntries | null> {
  opening ??= KeptEntries.open().catch(() => null);
  return opening;
}

/** Reads what the device holds, and follows what other tabs do with it. @param tell hears what was found */
export async function openOutbox(
  tell: (action: ReturnType<typeof restored> | ReturnType<typeof storageIs> | ReturnType<typeof retried>) => void,
): Promise<void> {
  const kept = await keptEntries();
  if (kept === null) {
    tell(storageIs("full"));
    return;
  }
  const look = async (): Promise<void> => {
    tell(restored(await kept.all()));
  };
  kept.onChange(() => void look());
  await look();
  tell(retried());
}

/** Whether a refusal holds whatever is tried: signed out, slowed down and a server in trouble are none. */
function isFinal(status: unknown): boolean {
  return typeof status === "number" && status >= 400 && status < 500 && status !== 401 && status !== 408 && status !== 429;
}

/** The entry a refusal speaks of, by its place; the first where it names none. */
function refusedOf(entries: readonly NewEntry[], where = ""): string {
  const place = Number(/^entries\[(\d+)\]/u.exec(where)?.[1] ?? 0);
  return (entries[place] ?? entries[0])?.id ?? "";
}

/** What may be sent now: what the person who is signed in entered. */
function sendable({ waiting, person }: Outbox): readonly Waiting[] {
  return person === null ? [] : waiting.filter((item) => item.person === "" || item.person === person);
}

/** One tab sends at a time, where the browser can say so. */
function alone<T>(task: () => Promise<T>): Promise<T> {
  const locks = typeof navigator === "undefined" ? undefined : navigator.locks;
  return locks === undefined ? task() : (locks.request(LOCK, task) as Promise<T>);
}

// Written before anything else happens to it.
outboxMiddleware.startListening({
  matcher: (action): action is ReturnType<typeof entered | typeof triedAgain | typeof refusedBy> =>
    entered.match(action) || triedAgain.match(action) || refusedBy.match(action),
  effect: async (action, { getState, dispatch }) => {
    const kept = await keptEntries();
    const ids = new Set(entered.match(action) ? action.payload.entries.map(({ id }) => id) : [triedAgain.match(action) ? action.payload : action.payload.id]);
    const { waiting, setAside } = getState().outbox;
    const items = [...waiting, ...setAside].filter(({ entry }) => ids.has(entry.id));
    try {
      if (kept === null) throw new Error("nothing is kept here");
      await kept.put(items);
      dispatch(written([...ids]));
      if (getState().outbox.storage === "full") dispatch(storageIs("kept"));
    } catch {
      dispatch(storageIs("full"));
    }
  },
});

outboxMiddleware.startListening({
  matcher: (action): action is ReturnType<typeof confirmed | typeof discarded> => confirmed.match(action) || discarded.match(action),
  effect: async (action) => {
    const ids = confirmed.match(action) ? action.payload : [action.payload];
    await (await keptEntries())?.remove(ids);
  },
});

let sending = false;

outboxMiddleware.startListening({
  matcher: (action) => entered.match(action) || retried.match(action) || triedAgain.match(action) || personIs.match(action),
  effect: async (_action, { getState, dispatch, delay }) => {
    if (sending) return;
    sending = true;
    try {
      while (sendable(getState().outbox).length > 0) {
        const trouble = await alone(() => sendRound(getState, (action) => dispatch(action)));
        if (trouble === "signed-out") return;
        if (trouble === null) continue;
        dispatch(failed());
        await delay(RETRY_MS);
      }
    } finally {
      sending = false;
    }
  },
});

/**
 * Sends what waits, a job at a time, in chunks; a job in trouble does not hold up the others, and an entry that is refused does not hold up
 * those behind it.
 * @returns what stands in the way; null where nothing does
 */
async function sendRound(getState: () => WithOutbox, dispatch: (action: never) => unknown): Promise<"signed-out" | "trouble" | null> {
  const tell = dispatch as (action: unknown) => unknown;
  let trouble: "trouble" | null = null;
  const later = new Set<string>();
  let most = CHUNK;
  for (;;) {
    const next = sendable(getState().outbox).filter(({ job }) => !later.has(job));
    const job = next[0]?.job;
    if (job === undefined) return trouble;
    const entries = next
      .filter((item) => item.job === job)
      .slice(0, most)
      .map(({ entry }) => entry);
    // The listener's dispatch knows only its own slice; the thunk needs the whole store, which it gets at run time.
    const { data, error = {} } = (await tell(api.endpoints.append.initiate({ job, entries }))) as SendResult;
    if (data !== undefined) {
      tell(confirmed(entries.map(({ id }) => id)));
      most = CHUNK;
      continue;
    }
    if (error.status === 401) return "signed-out";
    if (error.status === 413 && entries.length > 1) {
      most = Math.ceil(entries.length / 2);
      continue;
    }
    if (isFinal(error.status)) {
      tell(refusedBy({ id: refusedOf(entries, error.data?.where), reason: error.data?.message ?? "it is not valid" }));
      continue;
    }
    trouble = "trouble";
    later.add(job);
  }
}
