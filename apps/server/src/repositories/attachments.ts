import type { JobFile, Recording } from "@fox-lamp/language";
import { and, eq } from "drizzle-orm";
import type { Database } from "../database";
import { photos, recordings } from "../schema";

export interface Photo {
  readonly type: string;
  readonly content: Buffer;
}

/** Photos and recordings of jobs; who may see a job is decided before. */
export class AttachmentRepository {
  constructor(private readonly database: Database) {}

  /** Stores a photo; sent twice is stored once. */
  async putPhoto(jobId: string, id: string, { type, content }: Photo): Promise<void> {
    await this.database.insert(photos).values({ id, jobId, type, content }).onConflictDoNothing();
  }

  async photo(jobId: string, id: string): Promise<Photo | null> {
    const [row] = await this.database
      .select()
      .from(photos)
      .where(and(eq(photos.id, id), eq(photos.jobId, jobId)));
    return row ? { type: row.type, content: row.content } : null;
  }

  async putRecording(jobId: string, id: string, content: Recording): Promise<void> {
    await this.database.insert(recordings).values({ id, jobId, content }).onConflictDoNothing();
  }

  async recording(jobId: string, id: string): Promise<Recording | null> {
    const [row] = await this.database
      .select()
      .from(recordings)
      .where(and(eq(recordings.id, id), eq(recordings.jobId, jobId)));
    return row?.content ?? null;
  }

  /** Everything attached to a job, as a job file carries it. */
  async all(jobId: string): Promise<Pick<JobFile, "photos" | "recordings">> {
    const [pictures, logs] = await Promise.all([
      this.database.select().from(photos).where(eq(photos.jobId, jobId)),
      this.database.select().from(recordings).where(eq(recordings.jobId, jobId)),
    ]);
    return {
      ...(pictures.length > 0
        ? { photos: Object.fromEntries(pictures.map(({ id, type, content }) => [id, { type, base64: content.toString("base64") }])) }
        : {}),
      ...(logs.length > 0 ? { recordings: Object.fromEntries(logs.map(({ id, content }) => [id, content])) } : {}),
    };
  }
}
