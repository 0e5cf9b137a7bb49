import type { Removal, RemovedThing } from "@fox-lamp/language";
import { and, desc, eq, isNotNull, lt, type SQL, sql } from "drizzle-orm";
import { v7 as uuidv7 } from "uuid";
import type { Who } from "../accounts/who";
import type { Attachments } from "./attachments";
import type { Database, Transaction } from "./open";
import type { JobKey } from "./projection";
import { entries, jobs, people, photos, removals, shops } from "./schema";

/** Who takes something away: somebody of the shop, or the shop's own rule. */
export type Remover = Pick<Who, "id" | "name"> | { readonly id: null; readonly name: string };

const MOST_LISTED = 200;
const MOST_SWEPT = 100;
const RULE: Remover = { id: null, name: "the shop's rule" };

/** What went, of which job of which shop. */
interface Gone {
  readonly shopId: string;
  readonly what: RemovedThing;
  readonly subject: string;
  readonly jobNumber: number | null;
}

/** Leaves the trace of a removal, as part of the removal: neither is there without the other. */
async function trace(transaction: Transaction, gone: Gone, by: Remover, reason: string): Promise<void> {
  await transaction.insert(removals).values({ ...gone, id: uuidv7(), by: by.name, personId: by.id, reason });
}

/** What is taken out of the record for good. Every removal leaves a trace: what, of which job, by whom, when, why. */
export class RemovalRepository {
  constructor(
    private readonly database: Database,
    private readonly attachments: Attachments,
  ) {}

  /** Removes a job with everything in it; its number is not given again. @returns whether there was one */
  job({ shopId, jobId }: JobKey, by: Remover, reason: string): Promise<boolean> {
    return this.database.transaction(async (transaction) => {
      await this.attachments.within(transaction).removeAll({ shopId, jobId });
      const [gone] = await transaction
        .delete(jobs)
        .where(and(eq(jobs.shopId, shopId), eq(jobs.id, jobId)))
        .returning({ number: jobs.number });
      if (gone === undefined) return false;
      await trace(transaction, { shopId, what: "job", subject: jobId, jobNumber: gone.number }, by, reason);
      return true;
    });
  }

  /** Removes a photo; the entry that it was taken stays. @returns whether there was one */
  photo(job: JobKey & { readonly number: number }, photo: string, by: Remover, reason: string): Promise<boolean> {
    return this.database.transaction(async (transaction) => {
      if (!(await this.attachments.within(transaction).removePhoto(job, photo))) return false;
      await trace(transaction, { shopId: job.shopId, what: "photo", subject: photo, jobNumber: job.number }, by, reason);
      return true;
    });
  }

  /**
   * Takes a person's name out of everything: what was done stays, under another name. Whoever still works here is not blanked.
   * @param as what stands for the person from now on
   * @returns whether the shop had such a person
   */
  person(shopId: string, personId: string, as: string, by: Remover, reason: string): Promise<boolean> {
    return this.database.transaction(async (transaction) => {
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
      await trace(transaction, { shopId, what: "person", subject: personId, jobNumber: null }, by, reason);
      return true;
    });
  }

  /** The traces of a shop, the latest first. */
  list(shopId: string): Promise<Removal[]> {
    return this.traces(eq(removals.shopId, shopId));
  }

  /** The photos of a job that were removed, the latest first. */
  photosOf(shopId: string, jobNumber: number): Promise<Removal[]> {
    return this.traces(and(eq(removals.shopId, shopId), eq(removals.what, "photo"), eq(removals.jobNumber, jobNumber)));
  }

  private async traces(which: SQL | undefined): Promise<Removal[]> {
    const rows = await this.database.select().from(removals).where(which).orderBy(desc(removals.at)).limit(MOST_LISTED);
    return rows.map(({ id, what, subject, jobNumber, by, reason, at }) => ({ id, what, subject, jobNumber, by, reason, at: at.toISOString() }));
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
