import { foldJob, type TakenApart } from "@fox-lamp/core/job";
import {
  BadInput,
  type Callout,
  type Entry,
  type JobDetail,
  type JobSummary,
  type NewEntry,
  type Shop,
  type ShopSettings,
  type Simulated,
  shopSettingsSchema,
} from "@fox-lamp/language";
import { and, asc, desc, eq, sql } from "drizzle-orm";
import { v7 as uuidv7 } from "uuid";
import { CHANGES, type Change } from "./changes";
import type { Database } from "./database";
import { callouts, entries, jobs, people, shops, vehicles } from "./schema";

type EntryRow = typeof entries.$inferSelect;

/** PostgreSQL prints times its own way; entries carry them in ISO 8601. */
function entryOf(row: EntryRow): Entry {
  return { id: row.id, job: row.jobId, seq: row.seq, at: new Date(row.at).toISOString(), by: row.by, kind: row.kind, body: row.body } as Entry;
}

/** The only way to the tables; rows never leave this file. Every query is scoped to a shop. */
export class Repository {
  constructor(private readonly database: Database) {}

  /** Whether the database answers. */
  async ping(): Promise<void> {
    await this.database.execute(sql`select 1`);
  }

  /** The first shop with its people; null in an empty database. */
  async firstShop(): Promise<Shop | null> {
    const [shop] = await this.database.select().from(shops).orderBy(asc(shops.name)).limit(1);
    if (!shop) return null;
    const members = await this.database.select().from(people).where(eq(people.shopId, shop.id)).orderBy(asc(people.name));
    return {
      id: shop.id,
      name: shop.name,
      people: members.map(({ id, name, role }) => ({ id, name, role })),
      settings: shopSettingsSchema.parse(shop.settings),
    };
  }

  /** The first shop's id, without its people: all that scoping a query needs; null in an empty database. */
  async firstShopId(): Promise<string | null> {
    const [shop] = await this.database.select({ id: shops.id }).from(shops).orderBy(asc(shops.name)).limit(1);
    return shop?.id ?? null;
  }

  async createShop(shop: Shop): Promise<void> {
    await this.database.transaction(async (transaction) => {
      await transaction.insert(shops).values({ id: shop.id, name: shop.name, settings: shop.settings });
      if (shop.people.length > 0) await transaction.insert(people).values(shop.people.map((person) => ({ ...person, shopId: shop.id })));
    });
  }

  /** Writes what a shop has decided. */
  async changeSettings(shopId: string, settings: ShopSettings): Promise<void> {
    await this.database.update(shops).set({ settings }).where(eq(shops.id, shopId));
  }

  /** The shop's jobs, the latest touched first. */
  async listJobs(shopId: string): Promise<JobSummary[]> {
    const rows = await this.database
      .select({ job: jobs, details: vehicles.details })
      .from(jobs)
      .innerJoin(vehicles, eq(vehicles.id, jobs.vehicleId))
      .where(eq(jobs.shopId, shopId))
      .orderBy(desc(jobs.updatedAt))
      .limit(500);
    return rows.map(({ job, details }) => ({
      id: job.id,
      number: job.number,
      title: job.title,
      complaint: job.complaint,
      stage: job.stage,
      vehicle: details,
      codes: job.codes,
      readings: job.readings,
      simulated: job.simulated !== null,
      assignedTo: job.assignedTo,
      updatedAt: job.updatedAt.toISOString(),
    }));
  }

  /** A job with all its entries in order; null when the shop has none with this id. */
  async findJob(shopId: string, id: string): Promise<JobDetail | null> {
    const [row] = await this.database
      .select({ job: jobs, details: vehicles.details })
      .from(jobs)
      .innerJoin(vehicles, eq(vehicles.id, jobs.vehicleId))
      .where(and(eq(jobs.id, id), eq(jobs.shopId, shopId)))
      .limit(1);
    if (!row) return null;
    const stored = await this.database.select().from(entries).where(eq(entries.jobId, id)).orderBy(asc(entries.seq));
    const { job, details } = row;
    return {
      id: job.id,
      number: job.number,
      title: job.title,
      vehicle: details,
      assignedTo: job.assignedTo,
      bench: job.bench,
      circuits: job.circuits,
      simulated: job.simulated !== null,
      entries: stored.map(entryOf),
    };
  }

  /** The virtual car behind a job; null when a real one stands there, undefined when the shop has no such job. */
  async findSimulated(shopId: string, id: string): Promise<Simulated | null | undefined> {
    const [row] = await this.database
      .select({ simulated: jobs.simulated })
      .from(jobs)
      .where(and(eq(jobs.id, id), eq(jobs.shopId, shopId)))
      .limit(1);
    return row?.simulated;
  }

  /** Puts up what a bench shows under a code; whoever watches the code is told. */
  async putCallout(shopId: string, code: string, state: Callout): Promise<void> {
    await this.database
      .insert(callouts)
      .values({ code, shopId, state })
      .onConflictDoUpdate({ target: callouts.code, set: { state, updatedAt: new Date() }, setWhere: eq(callouts.shopId, shopId) });
    await this.announce({ callout: code });
  }

  /** What stands under a code; null where nothing does. */
  async findCallout(shopId: string, code: string): Promise<Callout | null> {
    const [row] = await this.database
      .select({ state: callouts.state })
      .from(callouts)
      .where(and(eq(callouts.code, code), eq(callouts.shopId, shopId)))
      .limit(1);
    return row?.state ?? null;
  }

  /** Tells every server on this database what changed. */
  private async announce(change: Change): Promise<void> {
    await this.database.execute(sql`select pg_notify(${CHANGES}, ${JSON.stringify(change)})`);
  }

  /** Creates a job from a file taken apart. @returns its id */
  async createJob(shopId: string, taken: TakenApart, assignedTo: string | null): Promise<string> {
    const [id, vehicleId] = [uuidv7(), uuidv7()];
    await this.database.transaction(async (transaction) => {
      await transaction.insert(vehicles).values({ id: vehicleId, shopId, details: taken.vehicle });
      await transaction
        .insert(jobs)
        .values({ id, shopId, vehicleId, title: taken.title, assignedTo, bench: taken.bench, circuits: taken.circuits, simulated: taken.simulated });
    });
    await this.append(shopId, id, taken.entries);
    return id;
  }

  /**
   * Adds entries to a job. An entry already stored is left as it is and returned, so sending twice stores once.
   *
   * @returns the entries as stored, in the order sent; null when the shop has no such job
   * @throws BadInput when an id is already used in another job
   */
  async append(shopId: string, jobId: string, added: readonly NewEntry[]): Promise<Entry[] | null> {
    return this.database.transaction(async (transaction) => {
      const [job] = await transaction
        .select({ id: jobs.id })
        .from(jobs)
        .where(and(eq(jobs.id, jobId), eq(jobs.shopId, shopId)))
        .for("update");
      if (!job) return null;
      const before = await transaction.select().from(entries).where(eq(entries.jobId, jobId)).orderBy(asc(entries.seq));
      const known = new Map(before.map((row) => [row.id, row]));
      let seq = before.at(-1)?.seq ?? 0;
      const results: EntryRow[] = [];
      for (const [position, entry] of added.entries()) {
        let row = known.get(entry.id);
        if (!row) {
          const inserted = await transaction
            .insert(entries)
            .values({ id: entry.id, jobId, seq: seq + 1, at: entry.at, by: entry.by, kind: entry.kind, body: entry.body })
            .onConflictDoNothing({ target: entries.id })
            .returning();
          row = inserted[0];
          if (!row)
            throw new BadInput({ code: "entry:foreign-id", where: `entries[${position}].id`, message: "is already used in another job; expected a new id" });
          seq += 1;
          known.set(entry.id, row);
        }
        results.push(row);
      }
      const state = foldJob([...known.values()].map(entryOf));
      await transaction
        .update(jobs)
        .set({
          complaint: state.complaint,
          codes: state.codes.map(({ code }) => code),
          stage: state.stage,
          readings: state.readings.length,
          updatedAt: new Date(),
        })
        .where(eq(jobs.id, jobId));
      // Sent when the transaction is through, and only then.
      await transaction.execute(sql`select pg_notify(${CHANGES}, ${JSON.stringify({ job: jobId, seq } satisfies Change)})`);
      return results.map(entryOf);
    });
  }
}
