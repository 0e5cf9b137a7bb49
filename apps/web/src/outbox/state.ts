import type { NewEntry } from "@fox-lamp/language";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import type { Waiting } from "./kept";

/**
 * Entries made on this device that the server has not confirmed yet. An entry is waiting from the moment it is entered; it is gone when the
 * server has it, or set aside, with a reason, when the server refuses it for good.
 */
export interface Outbox {
  readonly waiting: readonly Waiting[];
  /** What the server refused: kept whole until somebody tries again or throws it away. */
  readonly setAside: readonly Waiting[];
  /** Ids of what is not on the disk yet. */
  readonly unwritten: readonly string[];
  /** The server does not answer just now; it is tried again by itself. */
  readonly failing: boolean;
  /** Whether what waits is on the disk; "full" where the device has no room, or keeps nothing. */
  readonly storage: "kept" | "full";
  /** Id of who is signed in: only what this person entered is sent. */
  readonly person: string | null;
}

const EMPTY: Outbox = { waiting: [], setAside: [], unwritten: [], failing: false, storage: "kept", person: null };

const same =
  (ids: readonly string[]) =>
  ({ entry }: Pick<Waiting, "entry">): boolean =>
    ids.includes(entry.id);

const slice = createSlice({
  name: "outbox",
  initialState: EMPTY as Outbox,
  reducers: {
    /** Somebody entered something: it counts from now on. */
    entered: (state, { payload }: PayloadAction<{ job: string; person: string; entries: readonly NewEntry[] }>): Outbox => {
      const first = Math.max(-1, ...state.waiting.map(({ order }) => order), ...state.setAside.map(({ order }) => order)) + 1;
      const added = payload.entries.map(
        (entry, index): Waiting => ({ job: payload.job, person: payload.person, entry, order: Math.max(first, Date.now()) + index }),
      );
      return {
        ...(state as Outbox),
        waiting: [...(state as Outbox).waiting, ...added],
        unwritten: [...state.unwritten, ...added.map(({ entry }) => entry.id)],
      };
    },
    /** What the device holds, as read from its disk; what was entered meanwhile stays. */
    restored: (state, { payload }: PayloadAction<readonly Waiting[]>): Outbox => {
      const known = new Set(payload.map(({ entry }) => entry.id));
      const unwritten = (state as Outbox).waiting.filter(({ entry }) => !known.has(entry.id) && state.unwritten.includes(entry.id));
      const all = [...payload, ...unwritten].sort((one, other) => one.order - other.order);
      return {
        ...(state as Outbox),
        waiting: all.filter(({ refused }) => refused === undefined),
        setAside: all.filter(({ refused }) => refused !== undefined),
      };
    },
    /** The server has these. */
    confirmed: (state, { payload }: PayloadAction<readonly string[]>): Outbox => ({
      ...(state as Outbox),
      waiting: (state as Outbox).waiting.filter((item) => !same(payload)(item)),
      failing: false,
    }),
    /** These are on the disk. */
    written: (state, { payload }: PayloadAction<readonly string[]>) => {
      state.unwritten = state.unwritten.filter((id) => !payload.includes(id));
    },
    failed: (state) => {
      state.failing = true;
    },
    /** The server refused one for good. */
    refusedBy: (state, { payload: { id, reason } }: PayloadAction<{ id: string; reason: string }>): Outbox => {
      const { waiting, setAside, ...rest } = state as Outbox;
      const found = waiting.filter(same([id])).map((item) => ({ ...item, refused: reason }));
      return { ...rest, waiting: waiting.filter((item) => !same([id])(item)), setAside: [...setAside, ...found] };
    },
    /** Somebody threw away what was set aside. */
    discarded: (state, { payload }: PayloadAction<string>): Outbox => ({
      ...(state as Outbox),
      setAside: (state as Outbox).setAside.filter((item) => !same([payload])(item)),
    }),
    /** Somebody wants what was set aside tried once more. */
    triedAgain: (state, { payload }: PayloadAction<string>): Outbox => {
      const { waiting, setAside, ...rest } = state as Outbox;
      const again = setAside.filter(same([payload])).map(({ refused: _refused, ...item }): Waiting => item);
      return {
        ...rest,
        waiting: [...waiting, ...again].sort((one, other) => one.order - other.order),
        setAside: setAside.filter((item) => !same([payload])(item)),
      };
    },
    /** It is worth trying now: somebody signed in, the page was opened, the connection is back. */
    retried: (state) => {
      state.failing = false;
    },
    /** Who is signed in. */
    personIs: (state, { payload }: PayloadAction<string | null>) => {
      state.person = payload;
    },
    storageIs: (state, { payload }: PayloadAction<Outbox["storage"]>) => {
      state.storage = payload;
    },
  },
});

export const { entered, restored, confirmed, failed, refusedBy, discarded, triedAgain, retried, personIs, storageIs, written } = slice.actions;
export const outboxReducer = slice.reducer;
