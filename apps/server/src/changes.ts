import pg from "pg";
import type { Logger } from "pino";

/** The channel on which servers tell one another what changed. */
export const CHANGES = "fox_lamp_changes";

/** Something changed: a job got entries up to `seq`, or a call-out shows something else. */
export type Change = { readonly job: string; readonly seq: number } | { readonly callout: string };

/** How long to wait before listening again after the connection was lost. */
const AGAIN_MS = 1000;

/**
 * Listens for changes on the database, with a connection of its own that is opened again when it breaks. What was missed in between
 * is made good by telling every listener to look again.
 */
export class Changes {
  private readonly listeners = new Set<(change: Change | null) => void>();
  private client: pg.Client | null = null;
  private closed = false;

  constructor(
    private readonly url: string,
    private readonly logger: Logger,
  ) {}

  /** Starts to listen; resolves when the first connection stands. */
  async open(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url });
    client.on("notification", ({ payload }) => {
      const change = JSON.parse(payload ?? "null") as Change | null;
      for (const listener of this.listeners) listener(change);
    });
    client.on("error", (error) => this.lost(client, error));
    client.on("end", () => this.lost(client, null));
    await client.connect();
    await client.query(`LISTEN ${CHANGES}`);
    // Only a connection that stood can be lost: an attempt that fails is reported to who asked for it, once.
    this.client = client;
    if (this.closed) await client.end();
  }

  private lost(client: pg.Client, error: Error | null): void {
    if (this.client !== client) return;
    this.client = null;
    if (this.closed) return;
    this.logger.warn({ err: error }, "lost the connection that listens for changes");
    const again = (): void => {
      if (this.closed) return;
      this.open().then(
        () => {
          for (const listener of this.listeners) listener(null);
        },
        () => setTimeout(again, AGAIN_MS).unref(),
      );
    };
    setTimeout(again, AGAIN_MS).unref();
  }

  /** Calls `listener` on every change, with null where something may have been missed. @returns stops it */
  listen(listener: (change: Change | null) => void): () => void {
    this.listeners.add(listener);
    return () => {
      this.listeners.delete(listener);
    };
  }

  async close(): Promise<void> {
    this.closed = true;
    await this.client?.end().catch(() => undefined);
  }
}
