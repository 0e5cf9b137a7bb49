import type { Share, SharedPage } from "@fox-lamp/language";
import { and, desc, eq, gt, lt, sql } from "drizzle-orm";
import type { Database } from "./open";
import { shares } from "./schema";

/** Customers' pages that were shared, each under a code nobody can guess, until it expires. */
export class ShareRepository {
  constructor(private readonly database: Database) {}

  /** Shares a page of a job. @param days how long it can be seen */
  async share(
    shopId: string,
    jobId: string,
    shared: { readonly code: string; readonly page: SharedPage; readonly by: string; readonly days: number },
  ): Promise<Share> {
    const { code, page, by, days } = shared;
    await this.database.delete(shares).where(lt(shares.expiresAt, sql`now()`));
    const [row] = await this.database
      .insert(shares)
      .values({ code, shopId, jobId, page, by, expiresAt: sql`now() + make_interval(days => ${days})` })
      .returning();
    if (row === undefined) throw new Error("a share was not stored");
    return shareOf(row);
  }

  /** The shares of a job that still hold, the latest first. */
  async ofJob(shopId: string, jobId: string): Promise<Share[]> {
    const rows = await this.database
      .select()
      .from(shares)
      .where(and(eq(shares.shopId, shopId), eq(shares.jobId, jobId), gt(shares.expiresAt, sql`now()`)))
      .orderBy(desc(shares.createdAt));
    return rows.map(shareOf);
  }

  /** The page under a code; null where none is (any more). */
  async find(code: string): Promise<SharedPage | null> {
    const [row] = await this.database
      .select({ page: shares.page })
      .from(shares)
      .where(and(eq(shares.code, code), gt(shares.expiresAt, sql`now()`)));
    return row?.page ?? null;
  }

  /** Ends a share. @returns whether the job had it */
  async end(shopId: string, jobId: string, code: string): Promise<boolean> {
    const gone = await this.database
      .delete(shares)
      .where(and(eq(shares.code, code), eq(shares.shopId, shopId), eq(shares.jobId, jobId)))
      .returning({ code: shares.code });
    return gone.length > 0;
  }
}

function shareOf({ code, by, createdAt, expiresAt }: typeof shares.$inferSelect): Share {
  return { code, by, createdAt: createdAt.toISOString(), expiresAt: expiresAt.toISOString() };
}
