import { circuitsOf, foldJob, type TakenApart } from "@fox-lamp/core";
import { type JobDetail, type JobSummary, type LeftOpen, type Simulated, STAGES, type Stage, type Vehicle, type YardQuery } from "@fox-lamp/language";
import { and, asc, count, desc, eq, isNotNull, isNull, like, ne, type SQL, sql } from "drizzle-orm";
import { v7 as uuidv7 } from "uuid";
import type { Changes } from "./changes";
import type { Database } from "./open";
import { foldedColumns } from "./projection";
import { ENTRY_COLUMNS, entryOf, type JobRow, type Scope, summaryOf, visibleJob, visibleTo } from "./rows";
import { entries, jobHeads, jobs, shops, vehicles } from "./schema";
import { containing } from "./vehicles";

/** How many jobs a list shows of one stage. */
const STAGE_JOBS = 20;
const MOST_LISTED = 200;
const MOST_FOUND = 300;
/** So many entries go into the database in one statement. */
const ENTRIES_AT_ONCE = 500;

/** A job with all its entries, without what other jobs found. */
export type StoredJob = Omit<JobDetail, "found">;

/** What is asked of the yard, with the words of its search apart. */
type Asked = Partial<Omit<YardQuery, "q">> & { readonly words?: readonly string[]; readonly offset?: number };

/** In which order jobs stand; those of which it is not known come last. */
const ORDERS: Readonly<Record<YardQuery["sort"], readonly SQL[]>> = {
  touched: [],
  opened: [desc(jobs.number)],
  promised: [sql`${jobs.promisedAt} asc nulls last`],
  waiting: [sql`${jobs.waitingSince} asc nulls last`],
};

const theirVehicles = and(eq(vehicles.shopId, jobs.shopId), eq(vehicles.id, jobs.vehicleId));

/** Jobs as lists and pages see them: the only way to their table; rows never leave this folder. Every query is scoped to a shop. */
export class JobRepository {
  constructor(
    private readonly database: Database,
    private readonly changes: Pick<Changes, "tell">,
  ) {}

  /** Whether the database answers. */
  async ping(): Promise<void> {
    await this.database.execute(sql`select 1`);
  }

  private async select(where: SQL | undefined, limit: number, { offset = 0, sort = "touched" }: Pick<Asked, "offset" | "sort"> = {}): Promise<JobSummary[]> {
    const rows = await this.database
      .select({ job: jobs, details: vehicles.details })
      .from(jobs)
      .innerJoin(vehicles, theirVehicles)
      .where(where)
      .orderBy(...ORDERS[sort], desc(jobs.updatedAt))
      .limit(limit)
      .offset(offset);
    return rows.map(summaryOf);
  }

  private matching(scope: Scope, { words = [], mine = false, person, waiting, code, idleDays, promised = false }: Asked): SQL | undefined {
    return and(
      visibleTo(scope),
      ...words.map((word) => like(jobs.search, containing(word))),
      ...(mine ? [eq(jobs.assigneeId, scope.id)] : []),
      ...(person === undefined ? [] : [person === "nobody" ? isNull(jobs.assigneeId) : eq(jobs.assigneeId, person)]),
      ...(waiting === undefined ? [] : [waiting === "any" ? isNotNull(jobs.waitingFor) : eq(jobs.waitingFor, waiting)]),
      ...(code === undefined ? [] : [sql`${jobs.codes} ? ${code.toUpperCase()}`]),
      ...(idleDays === undefined ? [] : [sql`${jobs.updatedAt} <= now() - make_interval(days => ${idleDays})`]),
      ...(promised ? [isNotNull(jobs.promisedAt), ne(jobs.stage, "closed")] : []),
    );
  }

  /** The jobs that match every word, the latest touched first. */
  list(scope: Scope, { stage, ...asked }: Asked & { stage?: Stage | undefined }): Promise<JobSummary[]> {
    const where = this.matching(scope, asked);
    return this.select(stage === undefined ? where : and(where, eq(jobs.stage, stage)), MOST_LISTED, asked);
  }

  /** The jobs of every stage that match every word: how many, and the latest touched of them. */
  async yard(scope: Scope, asked: Asked): Promise<{ stage: Stage; count: number; jobs: JobSummary[] }[]> {
    const where = this.matching(scope, asked);
    const counts = await this.database.select({ stage: jobs.stage, count: count() }).from(jobs).where(where).groupBy(jobs.stage);
    return Promise.all(
      STAGES.map(async (stage) => {
        const total = counts.find((row) => row.stage === stage)?.count ?? 0;
        return {
          stage,
          count: total,
          jobs: total === 0 ? [] : await this.select(and(where, eq(jobs.stage, stage)), STAGE_JOBS, { sort: asked.sort ?? "touched" }),
        };
      }),
    );
  }

  /** Jobs on a vehicle, the latest first. */
  onVehicle(scope: Scope, vehicleId: string): Promise<JobSummary[]> {
    return this.select(and(visibleTo(scope), eq(jobs.vehicleId, vehicleId)), MOST_LISTED);
  }

  /** What the latest closed job on a vehicle left undecided; null where it settled, or there is none. */
  async leftOpenOn(shopId: string, vehicleId: string): Promise<LeftOpen | null> {
    const [latest] = await this.database
      .select({ id: jobs.id, outcome: jobs.outcome })
      .from(jobs)
      .where(and(eq(jobs.shopId, shopId), eq(jobs.vehicleId, vehicleId), eq(jobs.stage, "closed")))
      .orderBy(desc(jobs.number))
      .limit(1);
    if (latest?.outcome !== "undecided") return null;
    return foldJob(await this.entriesOf(shopId, latest.id)).closing?.left ?? null;
  }

  private async entriesOf(shopId: string, id: string): Promise<JobDetail["entries"]> {
    const stored = await this.database
      .select(ENTRY_COLUMNS)
      .from(entries)
      .where(and(eq(entries.shopId, shopId), eq(entries.jobId, id)))
      .orderBy(asc(entries.seq));
    return stored.map(entryOf);
  }

  /** A job with all its entries in order; null when this person may see none with this id. */
  async find(scope: Scope, id: string): Promise<StoredJob | null> {
    const [row] = await this.database
      .select({ job: jobs, details: vehicles.details })
      .from(jobs)
      .innerJoin(vehicles, theirVehicles)
      .where(visibleJob(scope, id))
      .limit(1);
    if (!row) return null;
    const { job, details } = row;
    const list = await this.entriesOf(scope.shopId, id);
    return {
      id: job.id,
      number: job.number,
      title: job.title,
      vehicleId: job.vehicleId,
      vehicle: details,
      assignedTo: job.assignedTo,
      bench: job.bench,
      startedWith: job.circuits,
      circuits: circuitsOf(job.circuits, foldJob(list)),
      simulated: job.simulated !== null,
      entries: list,
    };
  }

  /** The same with what earlier jobs found, as a page shows it. */
  async detail(scope: Scope, id: string): Promise<JobDetail | null> {
    const job = await this.find(scope, id);
    return job === null ? null : { ...job, found: await this.foundBefore(scope.shopId, id, job.vehicle, job.simulated) };
  }

  /**
   * What closed jobs of the shop proved and repaired, by family and unit, on this model and on all: never what was replaced against the
   * advice, and practice apart from real cars.
   */
  private async foundBefore(shopId: string, id: string, { make = "", model = "" }: Vehicle, simulated: boolean): Promise<JobDetail["found"]> {
    const same = sql`lower(v.details ->> 'make') = ${make.toLowerCase()} and lower(v.details ->> 'model') = ${model.toLowerCase()}`;
    const { rows } = await this.database.execute(sql`
      select j.family, substr(j.verdict, strpos(j.verdict, '/') + 1) as unit, count(*)::int as shop,
        count(*) filter (where ${make !== "" && model !== ""} and ${same})::int as model, percentile_cont(0.5) within group (order by j.verdict_minutes) as minutes
      from jobs j join vehicles v on v.shop_id = j.shop_id and v.id = j.vehicle_id
      where j.shop_id = ${shopId} and j.id <> ${id} and j.stage = 'closed' and j.outcome = 'repaired' and j.verdict is not null and j.family is not null
        and j.overrides = '[]'::jsonb and (j.simulated is not null) = ${simulated}
      group by 1, 2 order by 4 desc, 3 desc, 1, 2 limit ${MOST_FOUND}`);
    return rows as unknown as JobDetail["found"];
  }

  /** What of a job is not in its entries: the circuits it started with and the virtual car behind it; null for none this person may see. */
  async header(scope: Scope, id: string): Promise<{ circuits: JobRow["circuits"]; simulated: Simulated | null; number: number } | null> {
    const [row] = await this.database
      .select({ circuits: jobs.circuits, simulated: jobs.simulated, number: jobs.number })
      .from(jobs)
      .where(visibleJob(scope, id))
      .limit(1);
    return row ?? null;
  }

  /**
   * Creates a job on a vehicle of the shop, under the shop's next number.
   * @param author who made its entries; null for entries that were brought in with a file
   * @returns its id
   */
  async create(
    shopId: string,
    vehicleId: string,
    taken: Pick<TakenApart, "bench" | "circuits" | "simulated" | "entries">,
    { assigned, author }: { assigned: { id: string; name: string } | null; author: string | null },
  ): Promise<string> {
    const id = uuidv7();
    const state = foldJob(taken.entries.map((entry, index) => ({ ...entry, seq: index + 1 })));
    await this.database.transaction(async (transaction) => {
      const [shop] = await transaction
        .update(shops)
        .set({ lastJobNumber: sql`${shops.lastJobNumber} + 1` })
        .where(eq(shops.id, shopId))
        .returning({ number: shops.lastJobNumber });
      const [vehicle] = await transaction
        .select({ details: vehicles.details })
        .from(vehicles)
        .where(and(eq(vehicles.shopId, shopId), eq(vehicles.id, vehicleId)));
      const number = shop?.number ?? 0;
      const columns = foldedColumns(state, { number, circuits: taken.circuits, assignedTo: assigned?.name ?? null }, vehicle?.details ?? {});
      await transaction.insert(jobs).values({
        id,
        number,
        shopId,
        vehicleId,
        assigneeId: assigned?.id ?? null,
        bench: taken.bench,
        circuits: taken.circuits,
        simulated: taken.simulated,
        ...columns,
      });
      const sheet = taken.entries.findLastIndex(({ kind }) => kind === "circuit" || kind === "retraction") + 1;
      await transaction.insert(jobHeads).values({ shopId, jobId: id, seq: taken.entries.length, sheet, folded: taken.entries.length });
      const rows = taken.entries.map(({ id: entry, at, by, kind, body }, index) => ({
        shopId,
        jobId: id,
        seq: index + 1,
        id: entry,
        at,
        by,
        personId: author,
        imported: author === null,
        kind,
        body,
      }));
      for (let start = 0; start < rows.length; start += ENTRIES_AT_ONCE) await transaction.insert(entries).values(rows.slice(start, start + ENTRIES_AT_ONCE));
    });
    this.changes.tell({ job: id, seq: taken.entries.length });
    return id;
  }
}
