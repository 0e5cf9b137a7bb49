import { BadInput, type CarriedCapture, MOST_CAPTURE_BYTES, type StoredCapture } from "@fox-lamp/language";
import { and, eq, sql } from "drizzle-orm";
import type { Database, Transaction } from "./open";
import type { JobKey } from "./projection";
import { captureParts, captures } from "./schema";

/**
 * Captures of jobs, in tables beside them: what is known of one first, then its parts in any order, each sent as often as it takes. They go
 * with their job, and in no other way.
 */
export class CaptureTables {
  constructor(private readonly database: Database | Transaction) {}

  /** Stores what is known of a capture; sent twice is stored once. */
  async put({ shopId, jobId }: JobKey, id: string, content: StoredCapture): Promise<void> {
    await this.database.insert(captures).values({ shopId, jobId, id, content }).onConflictDoNothing();
  }

  /** What is known of a capture, and which of its parts are there; null where there is none. */
  async find(job: JobKey, id: string): Promise<(StoredCapture & { parts: string[] }) | null> {
    const [row] = await this.database.select({ content: captures.content }).from(captures).where(this.one(job, id));
    if (row === undefined) return null;
    const parts = await this.database.select({ part: captureParts.part }).from(captureParts).where(this.partsOf(job, id));
    return { ...row.content, parts: parts.map(({ part }) => part) };
  }

  /**
   * Stores a part; sent twice is stored once.
   * @returns whether there is such a capture
   * @throws BadInput where the capture would be larger than one may be
   */
  async putPart(job: JobKey, id: string, part: string, content: Buffer): Promise<boolean> {
    const [known] = await this.database.select({ id: captures.id }).from(captures).where(this.one(job, id));
    if (known === undefined) return false;
    const [stored] = await this.database
      .select({ bytes: sql<string>`coalesce(sum(octet_length(${captureParts.content})), 0)` })
      .from(captureParts)
      .where(this.partsOf(job, id));
    if (Number(stored?.bytes ?? 0) + content.length > MOST_CAPTURE_BYTES) {
      throw new BadInput({
        code: "capture:too-large",
        where: "capture",
        message: `is larger than ${MOST_CAPTURE_BYTES / 1e6} MB when it is packed; expected a shorter one, or a lower rate`,
      });
    }
    await this.database.insert(captureParts).values({ shopId: job.shopId, jobId: job.jobId, captureId: id, part, content }).onConflictDoNothing();
    return true;
  }

  /** A part as it was sent; null where it is not there. */
  async part(job: JobKey, id: string, part: string): Promise<Buffer | null> {
    const [row] = await this.database
      .select({ content: captureParts.content })
      .from(captureParts)
      .where(and(this.partsOf(job, id), eq(captureParts.part, part)));
    return row?.content ?? null;
  }

  /** Every capture of a job with all its parts, as a job file carries them. */
  async all(job: JobKey): Promise<CarriedCapture[]> {
    const rows = await this.database
      .select()
      .from(captures)
      .where(and(eq(captures.shopId, job.shopId), eq(captures.jobId, job.jobId)));
    return Promise.all(
      rows.map(async ({ id, content }) => {
        const parts = await this.database.select().from(captureParts).where(this.partsOf(job, id));
        return { ...content, id, parts: Object.fromEntries(parts.map(({ part, content: packed }) => [part, packed.toString("base64")])) };
      }),
    );
  }

  /** Stores a capture that a job file carried. */
  async bringIn(job: JobKey, { id, parts, ...content }: CarriedCapture): Promise<void> {
    await this.put(job, id, content);
    for (const [part, packed] of Object.entries(parts)) await this.putPart(job, id, part, Buffer.from(packed, "base64"));
  }

  private one({ shopId, jobId }: JobKey, id: string) {
    return and(eq(captures.shopId, shopId), eq(captures.jobId, jobId), eq(captures.id, id));
  }

  private partsOf({ shopId, jobId }: JobKey, id: string) {
    return and(eq(captureParts.shopId, shopId), eq(captureParts.jobId, jobId), eq(captureParts.captureId, id));
  }
}
