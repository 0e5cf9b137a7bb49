import pg from "pg";
import type { Logger } from "pino";

/** The channel on which servers tell one another what changed. */
const CHANGES = "fox_lamp_changes";
/** What the connection that listens says last: by it servers on a database are counted. */
export const LISTEN = `LISTEN ${CHANGES}`;

/** Something changed: a job got entries up to `seq`, or a call-out shows something else. */
export type Change = { readonly job: string; readonly seq: number } | { readonly callout: string };

/** How long to wait before listening again after the connection was lost. */
const AGAIN_MS = 1000;
/** Changes are gathered so long before they are told, all at once: PostgreSQL lets only one transaction at a time tell something. */
const GATHER_MS = 15;

const keyOf = (change: Change): string => ("job" in change ? change.job : change.callout);

/**
 * Tells every server on the database what changed, and listens for what others tell, with a connection of its own that is opened again
 * when it breaks. What was missed in between is made good by telling every listener to look again.
 */
export class Changes {
  private readonly listeners = new Set<(change: Change | null) => void>();
  private readonly untold = new Map<string, Change>();
  private client: pg.Client | null = null;
  private telling: Promise<void> | null = null;
  private closed = false;

  constructor(
    private readonly url: string,
    private readonly pool: Pick<pg.Pool, "query">,
    private readonly logger: Pick<Logger, "warn">,
  ) {}

  /** Starts to listen; resolves when the first connection stands. */
  async open(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url, keepAlive: true });
    client.on("notification", ({ payload }) => {
      const changes = JSON.parse(payload ?? "[]") as Change[];
      for (const change of changes) this.spread(change);
    });
    client.on("error", (error) => this.lost(client, error));
    client.on("end", () => this.lost(client, null));
    await client.connect();
    await client.query(LISTEN);
    // Only a connection that stood can be lost: an attempt that fails is reported to who asked for it, once.
    this.client = client;
    if (this.closed) await client.end();
  }

  private spread(change: Change | null): void {
    for (const listener of this.listeners) listener(change);
  }

  private lost(client: pg.Client, error: Error | null): void {
    if (this.client !== client) return;
    this.client = null;
    if (this.closed) return;
    this.logger.warn({ reason: error?.message ?? "it ended" }, "lost the connection that listens for changes");
    const again = (): void => {
      if (this.closed) return;
      this.open().then(
        () => this.spread(null),
        () => setTimeout(again, AGAIN_MS).unref(),
      );
    };
    setTimeout(again, AGAIN_MS).unref();
  }

  /** Tells all servers, soon and together with what else changes: call it when the change is stored. */
  tell(change: Change): void {
    this.untold.set(keyOf(change), change);
    this.telling ??= new Promise<void>((resolve) => setTimeout(resolve, GATHER_MS)).then(() => this.tellAll());
  }

  private async tellAll(): Promise<void> {
    this.telling = null;
    const changes = [...this.untold.values()];
    this.untold.clear();
    // A message holds 8,000 bytes.
    for (let start = 0; start < changes.length; start += 50) {
      const payload = JSON.stringify(changes.slice(start, start + 50));
      // Whoever listens here is told in any case; a database that does not answer tells nobody elsewhere, and they look again when it does.
      await this.pool.query("select pg_notify($1, $2)", [CHANGES, payload]).catch(() => {
        for (const change of changes.slice(start, start + 50)) this.spread(change);
      });
    }
  }

  /** Calls `listener` on every change, with null where something may have been missed. @returns stops it */
  listen(listener: (change: Change | null) => void): () => void {
    this.listeners.add(listener);
    return () => {
      this.listeners.delete(listener);
    };
  }

  /** Tells what is left to tell, and stops listening. */
  async close(): Promise<void> {
    this.closed = true;
    await this.telling;
    await this.client?.end().catch(() => undefined);
  }
}
