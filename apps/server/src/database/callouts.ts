import type { Callout } from "@fox-lamp/language";
import { and, eq, gt, lt, sql } from "drizzle-orm";
import type { Changes } from "./changes";
import type { Database } from "./open";
import { callouts } from "./schema";

/** How long a call-out holds after its bench last showed something. */
const HOURS = 4;
const inHours = sql`now() + make_interval(hours => ${HOURS})`;

/** What benches show on other devices: the code itself is the key, read off the bench. */
export class CalloutRepository {
  constructor(
    private readonly database: Database,
    private readonly changes: Pick<Changes, "tell">,
  ) {}

  /** Opens one for a job under a code nobody can guess. */
  async open(shopId: string, jobId: string, code: string): Promise<void> {
    await this.database.delete(callouts).where(lt(callouts.expiresAt, sql`now()`));
    await this.database.insert(callouts).values({ code, shopId, jobId, expiresAt: inHours });
  }

  /** Puts up what a bench shows. @returns whether the shop has such a call-out */
  async put(shopId: string, code: string, state: Callout): Promise<boolean> {
    const put = await this.database
      .update(callouts)
      .set({ state, expiresAt: inHours })
      .where(and(eq(callouts.code, code), eq(callouts.shopId, shopId), eq(callouts.jobId, state.job), gt(callouts.expiresAt, sql`now()`)))
      .returning({ code: callouts.code });
    if (put.length > 0) this.changes.tell({ callout: code });
    return put.length > 0;
  }

  /** What stands under a code; null where nothing does (any more), "empty" before the bench has shown something. */
  async find(code: string): Promise<Callout | "empty" | null> {
    const [row] = await this.database
      .select({ state: callouts.state })
      .from(callouts)
      .where(and(eq(callouts.code, code), gt(callouts.expiresAt, sql`now()`)));
    return row === undefined ? null : (row.state ?? "empty");
  }

  /** The job a code of this shop shows; null where there is none. */
  async jobOf(shopId: string, code: string): Promise<string | null> {
    const [row] = await this.database
      .select({ job: callouts.jobId })
      .from(callouts)
      .where(and(eq(callouts.code, code), eq(callouts.shopId, shopId)));
    return row?.job ?? null;
  }

  /** Ends it: whoever watches sees that it is over. */
  async end(shopId: string, code: string): Promise<void> {
    await this.database.delete(callouts).where(and(eq(callouts.code, code), eq(callouts.shopId, shopId)));
    this.changes.tell({ callout: code });
  }
}
