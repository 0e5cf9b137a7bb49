import type { JobFile, Recording } from "@fox-lamp/language";
import { and, eq } from "drizzle-orm";
import type { Database, Transaction } from "./open";
import type { JobKey } from "./projection";
import { photos, recordings } from "./schema";

export interface Photo {
  readonly type: string;
  readonly content: Buffer;
}

/**
 * Where photos and recordings of jobs are kept; who may see a job is decided before. The database's own tables are the first such place; a
 * store of objects, with `shop/job/id` as its keys, would be another.
 */
export interface Attachments {
  /** Stores a photo; sent twice is stored once. */
  putPhoto(job: JobKey, id: string, photo: Photo): Promise<void>;
  photo(job: JobKey, id: string): Promise<Photo | null>;
  putRecording(job: JobKey, id: string, content: Recording): Promise<void>;
  recording(job: JobKey, id: string): Promise<Recording | null>;
  /** Everything attached to a job, as a job file carries it. */
  all(job: JobKey): Promise<Pick<JobFile, "photos" | "recordings">>;
  /** Takes a photo away for good. @returns whether there was one */
  removePhoto(job: JobKey, id: string): Promise<boolean>;
  /** Takes everything of a job away for good. */
  removeAll(job: JobKey): Promise<void>;
  /** The same place as part of a transaction; a store outside the database is itself, and is emptied before the transaction ends. */
  within(transaction: Transaction): Attachments;
}

/** Attachments in tables beside the jobs, gone with them. */
export class AttachmentTables implements Attachments {
  constructor(private readonly database: Database | Transaction) {}

  within(transaction: Transaction): Attachments {
    return new AttachmentTables(transaction);
  }

  async putPhoto({ shopId, jobId }: JobKey, id: string, { type, content }: Photo): Promise<void> {
    await this.database.insert(photos).values({ shopId, jobId, id, type, content }).onConflictDoNothing();
  }

  async photo({ shopId, jobId }: JobKey, id: string): Promise<Photo | null> {
    const [row] = await this.database
      .select()
      .from(photos)
      .where(and(eq(photos.shopId, shopId), eq(photos.jobId, jobId), eq(photos.id, id)));
    return row ? { type: row.type, content: row.content } : null;
  }

  async putRecording({ shopId, jobId }: JobKey, id: string, content: Recording): Promise<void> {
    await this.database.insert(recordings).values({ shopId, jobId, id, content }).onConflictDoNothing();
  }

  async recording({ shopId, jobId }: JobKey, id: string): Promise<Recording | null> {
    const [row] = await this.database
      .select()
      .from(recordings)
      .where(and(eq(recordings.shopId, shopId), eq(recordings.jobId, jobId), eq(recordings.id, id)));
    return row?.content ?? null;
  }

  async all({ shopId, jobId }: JobKey): Promise<Pick<JobFile, "photos" | "recordings">> {
    const [pictures, logs] = await Promise.all([
      this.database
        .select()
        .from(photos)
        .where(and(eq(photos.shopId, shopId), eq(photos.jobId, jobId))),
      this.database
        .select()
        .from(recordings)
        .where(and(eq(recordings.shopId, shopId), eq(recordings.jobId, jobId))),
    ]);
    return {
      ...(pictures.length > 0
        ? { photos: Object.fromEntries(pictures.map(({ id, type, content }) => [id, { type, base64: content.toString("base64") }])) }
        : {}),
      ...(logs.length > 0 ? { recordings: Object.fromEntries(logs.map(({ id, content }) => [id, content])) } : {}),
    };
  }

  async removePhoto({ shopId, jobId }: JobKey, id: string): Promise<boolean> {
    const gone = await this.database
      .delete(photos)
      .where(and(eq(photos.shopId, shopId), eq(photos.jobId, jobId), eq(photos.id, id)))
      .returning({ id: photos.id });
    return gone.length > 0;
  }

  async removeAll({ shopId, jobId }: JobKey): Promise<void> {
    await this.database.delete(photos).where(and(eq(photos.shopId, shopId), eq(photos.jobId, jobId)));
    await this.database.delete(recordings).where(and(eq(recordings.shopId, shopId), eq(recordings.jobId, jobId)));
  }
}
