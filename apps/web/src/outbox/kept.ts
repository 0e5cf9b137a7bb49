import type { NewEntry } from "@fox-lamp/language";
import { type DBSchema, type IDBPDatabase, openDB } from "idb";

/** An entry made on this device that the server has not confirmed yet. */
export interface Waiting {
  readonly job: string;
  /** Id of the person who entered it: it is sent only under that person. Empty for entries from before persons were kept. */
  readonly person: string;
  readonly entry: NewEntry;
  /** Counts up on the device: entries are sent in this order. */
  readonly order: number;
  /** Why the server refused it for good; absent while it may still take it. */
  readonly refused?: string;
}

interface Schema extends DBSchema {
  waiting: { key: string; value: Waiting & { readonly id: string }; indexes: { order: number } };
}

const DATABASE = "fox-lamp-outbox";
const STORE = "waiting";
const CHANNEL = "fox-lamp-outbox";
/** Where entries waited before: moved over when the device is opened, so that nothing is left behind. */
const OLD_KEY = "fox-lamp/outbox";

/**
 * What waits on this device, one record an entry, written through to the disk before it counts as kept. All tabs share it: each is told when
 * another has changed it.
 */
export class KeptEntries {
  /** Writes that were begun here, and those that are not through: what was read meanwhile is already old. */
  private begun = 0;
  private open = 0;

  private constructor(
    private readonly database: IDBPDatabase<Schema>,
    private readonly channel: BroadcastChannel | null,
  ) {}

  /** @throws where the browser keeps nothing (storage switched off, a private window of some browsers) */
  static async open(): Promise<KeptEntries> {
    const database = await openDB<Schema>(DATABASE, 1, {
      upgrade: (made) => {
        made.createObjectStore(STORE, { keyPath: "id" }).createIndex("order", "order");
      },
    });
    const kept = new KeptEntries(database, typeof BroadcastChannel === "undefined" ? null : new BroadcastChannel(CHANNEL));
    await kept.moveOld();
    return kept;
  }

  private async moveOld(): Promise<void> {
    let old: unknown;
    try {
      old = JSON.parse(localStorage.getItem(OLD_KEY) ?? "[]");
    } catch {
      old = [];
    }
    const items = Array.isArray(old)
      ? (old as { job: string; entry: NewEntry }[]).filter((item) => typeof item?.job === "string" && item.entry?.id !== undefined)
      : [];
    if (items.length > 0) await this.put(items.map(({ job, entry }, index) => ({ job, person: "", entry, order: index })));
    localStorage.removeItem(OLD_KEY);
  }

  /** Everything that waits, in its order; read again where this page wrote meanwhile. */
  async all(): Promise<Waiting[]> {
    for (;;) {
      const { begun } = this;
      const rows = await this.database.getAllFromIndex(STORE, "order");
      if (begun === this.begun && this.open === 0) return rows.map(({ id: _id, ...waiting }) => waiting);
    }
  }

  private async writing(change: (store: { put: (row: Waiting & { id: string }) => unknown; delete: (id: string) => unknown }) => void): Promise<void> {
    this.begun += 1;
    this.open += 1;
    try {
      const transaction = this.database.transaction(STORE, "readwrite", { durability: "strict" });
      change(transaction.store);
      // Said now and not once the page hears that the records are in: somebody may load another page this very moment, and what is not committed is undone.
      transaction.commit();
      await transaction.done;
    } finally {
      this.open -= 1;
    }
    this.channel?.postMessage("changed");
  }

  /** Writes records; resolves when they are on the disk. @throws QuotaExceededError and its like where there is no room */
  put(items: readonly Waiting[]): Promise<void> {
    return this.writing((store) => {
      for (const item of items) store.put({ ...item, id: item.entry.id });
    });
  }

  /** Forgets records. */
  remove(ids: readonly string[]): Promise<void> {
    return this.writing((store) => {
      for (const id of ids) store.delete(id);
    });
  }

  /** Calls `listener` when another tab has changed something. */
  onChange(listener: () => void): void {
    if (this.channel !== null) this.channel.onmessage = listener;
  }

  close(): void {
    this.channel?.close();
    this.database.close();
  }
}
