import { BadInput, type CarriedCapture, type KnownCapture, MOST_CAPTURE_BYTES, type StoredCapture } from "@fox-lamp/language";
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

  /** Captures kept as known good of a job's vehicle, or of one of the same make, model and engine; of other jobs, the latest first. */
  async known({ shopId, jobId }: JobKey): Promise<KnownCapture[]> {
    const { rows } = await this.database.execute<{ id: string; job: string; number: number; vehicle: string; same: boolean; content: StoredCapture }>(sql`
      select captures.id, captures.job_id as job, jobs.number, coalesce(vehicles.details->>'name', '') as vehicle, captures.content,
        vehicles.id = mine.id as same
      from captures
      join jobs on jobs.shop_id = captures.shop_id and jobs.id = captures.job_id
      join vehicles on vehicles.shop_id = jobs.shop_id and vehicles.id = jobs.vehicle_id
      join (select vehicles.* from vehicles join jobs on jobs.shop_id = vehicles.shop_id and jobs.vehicle_id = vehicles.id
        where jobs.shop_id = ${shopId} and jobs.id = ${jobId}) mine on vehicles.id = mine.id or (
          vehicles.details->>'make' = mine.details->>'make' and vehicles.details->>'model' = mine.details->>'model'
          and coalesce(vehicles.details->>'engine', '') = coalesce(mine.details->>'engine', ''))
      where captures.shop_id = ${shopId} and captures.job_id <> ${jobId} and exists (
        select 1 from entries where entries.shop_id = captures.shop_id and entries.job_id = captures.job_id and entries.kind = 'capture'
          and entries.body->>'capture' = captures.id::text and entries.body->>'known' = 'true')
      order by captures.received_at desc limit 50`);
    return rows.map(({ id, job, number, vehicle, same, content }) => ({ id, job, number, vehicle, same, title: content.title, analysis: content.analysis }));
  }

  /** Every capture of a job with all its parts, as a job file carries them. */
  async all(job: JobKey): Promise<CarriedCapture[]> {
    const rows = await this.database
      .select()
      .from(captures)
      .where(and(eq(captures.shopId, job.shopId), eq(captures.jobId, job.jobId)))
      .orderBy(captures.receivedAt, captures.id);
    return Promise.all(
      rows.map(async ({ id, content }) => {
        const parts = await this.database.select().from(captureParts).where(this.partsOf(job, id)).orderBy(captureParts.part);
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
