import type { Removal, RemovedThing } from "@fox-lamp/language";
import { and, desc, eq, isNotNull, lt, sql } from "drizzle-orm";
import { v7 as uuidv7 } from "uuid";
import type { Who } from "../accounts/who";
import type { Attachments } from "./attachments";
import type { Database } from "./open";
import type { JobKey } from "./projection";
import { entries, jobs, people, photos, removals, shops } from "./schema";

/** Who takes something away: somebody of the shop, or the shop's own rule. */
export type Remover = Pick<Who, "id" | "name"> | { readonly id: null; readonly name: string };

const MOST_LISTED = 200;
const MOST_SWEPT = 100;
const RULE: Remover = { id: null, name: "the shop's rule" };

/** What is taken out of the record for good. Every removal leaves a trace: what, of which job, by whom, when, why. */
export class RemovalRepository {
  constructor(
    private readonly database: Database,
    private readonly attachments: Attachments,
  ) {}

  private async trace(shopId: string, what: RemovedThing, subject: string, jobNumber: number | null, by: Remover, reason: string): Promise<void> {
    await this.database.insert(removals).values({ shopId, id: uuidv7(), what, subject, jobNumber, by: by.name, personId: by.id, reason });
  }

  /** Removes a job with everything in it; its number is not given again. @returns whether there was one */
  async job({ shopId, jobId }: JobKey, by: Remover, reason: string): Promise<boolean> {
    await this.attachments.removeAll({ shopId, jobId });
    const [gone] = await this.database
      .delete(jobs)
      .where(and(eq(jobs.shopId, shopId), eq(jobs.id, jobId)))
      .returning({ number: jobs.number });
    if (gone === undefined) return false;
    await this.trace(shopId, "job", jobId, gone.number, by, reason);
    return true;
  }

  /** Removes a photo; the entry that it was taken stays. @returns whether there was one */
  async photo(job: JobKey & { readonly number: number }, photo: string, by: Remover, reason: string): Promise<boolean> {
    if (!(await this.attachments.removePhoto(job, photo))) return false;
    await this.trace(job.shopId, "photo", photo, job.number, by, reason);
    return true;
  }

  /**
   * Takes a person's name out of everything: what was done stays, under another name. Whoever still works here is not blanked.
   * @param as what stands for the person from now on
   * @returns whether the shop had such a person
   */
  async person(shopId: string, personId: string, as: string, by: Remover, reason: string): Promise<boolean> {
    const done = await this.database.transaction(async (transaction) => {
      const [person] = await transaction
        .select({ name: people.name })
        .from(people)
        .where(and(eq(people.id, personId), eq(people.shopId, shopId), eq(people.active, false)))
        .for("update");
      if (person === undefined) return false;
      const blank = `blanked-${personId.slice(-12)}`;
      await transaction
        .update(people)
        .set({ name: as, email: `${blank}@people.invalid`, username: blank, displayUsername: blank, image: null })
        .where(eq(people.id, personId));
      await transaction
        .update(entries)
        .set({ by: as })
        .where(and(eq(entries.shopId, shopId), eq(entries.personId, personId)));
      await transaction.execute(sql`
        update entries set body = jsonb_set(body, '{name}', to_jsonb(${as}::text))
        where shop_id = ${shopId} and kind = 'assigned' and body ->> 'person' = ${personId}`);
      // What lists and searches have of the name.
      await transaction.execute(sql`
        update jobs set assigned_to = ${as}, search = replace(search, lower(${person.name}), lower(${as})) where shop_id = ${shopId} and assignee_id = ${personId}`);
      await transaction
        .update(removals)
        .set({ by: as })
        .where(and(eq(removals.shopId, shopId), eq(removals.personId, personId)));
      return true;
    });
    if (done) await this.trace(shopId, "person", personId, null, by, reason);
    return done;
  }

  /** The traces of a shop, the latest first. */
  async list(shopId: string): Promise<Removal[]> {
    const rows = await this.database.select().from(removals).where(eq(removals.shopId, shopId)).orderBy(desc(removals.at)).limit(MOST_LISTED);
    return rows.map(({ id, what, subject, jobNumber, by, reason, at }) => ({ id, what, subject, jobNumber, by, reason, at: at.toISOString() }));
  }

  /** The photos of a job that were removed. */
  async photosOf(shopId: string, jobNumber: number): Promise<Removal[]> {
    return (await this.list(shopId)).filter((removal) => removal.what === "photo" && removal.jobNumber === jobNumber);
  }

  /** Removes what shops have decided to keep no longer. @returns how many photos and jobs went */
  async sweep(): Promise<{ photos: number; jobs: number }> {
    const months = (key: string) => sql`make_interval(months => (${shops.settings} ->> ${key})::int)`;
    const old = await this.database
      .select({ shopId: photos.shopId, jobId: photos.jobId, id: photos.id, number: jobs.number })
      .from(photos)
      .innerJoin(shops, eq(shops.id, photos.shopId))
      .innerJoin(jobs, and(eq(jobs.shopId, photos.shopId), eq(jobs.id, photos.jobId)))
      .where(and(isNotNull(sql`${shops.settings} ->> 'keepPhotosMonths'`), lt(photos.receivedAt, sql`now() - ${months("keepPhotosMonths")}`)))
      .limit(MOST_SWEPT);
    for (const { id, ...job } of old) await this.photo(job, id, RULE, "kept no longer");
    const closed = await this.database
      .select({ shopId: jobs.shopId, jobId: jobs.id })
      .from(jobs)
      .innerJoin(shops, eq(shops.id, jobs.shopId))
      .where(
        and(
          eq(jobs.stage, "closed"),
          isNotNull(sql`${shops.settings} ->> 'keepClosedJobsMonths'`),
          lt(jobs.updatedAt, sql`now() - ${months("keepClosedJobsMonths")}`),
        ),
      )
      .limit(MOST_SWEPT);
    for (const key of closed) await this.job(key, RULE, "kept no longer");
    return { photos: old.length, jobs: closed.length };
  }
}
