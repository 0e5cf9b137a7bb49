import {
  circuitsOf,
  condemnedUnits,
  decide,
  foldJob,
  type JobRules,
  type JobSoFar,
  type JobState,
  outcomeOf,
  problemOfRefusal,
  type TakenApart,
  titleOfJob,
} from "@fox-lamp/core";
import {
  BadInput,
  type Callout,
  type Entry,
  type JobDetail,
  type JobSummary,
  type NewEntry,
  type Problem,
  type Simulated,
  STAGES,
  type Stage,
  type Vehicle,
} from "@fox-lamp/language";
import { and, asc, count, desc, eq, gt, isNotNull, like, type SQL, sql } from "drizzle-orm";
import { v7 as uuidv7 } from "uuid";
import type { Who } from "../auth";
import { CHANGES, type Change } from "../changes";
import type { Database, Transaction } from "../database";
import { callouts, entries, jobs, people, vehicles } from "../schema";
import { containing, vehicleWords } from "./vehicles";

type EntryRow = typeof entries.$inferSelect;
type JobRow = typeof jobs.$inferSelect;

/** Whose eyes a query looks through: a trainee sees the own jobs, others all of the shop's. */
export type Scope = Pick<Who, "id" | "role" | "shopId">;

/** PostgreSQL prints times its own way; entries carry them in ISO 8601. */
function entryOf(row: EntryRow): Entry {
  return { id: row.id, job: row.jobId, seq: row.seq, at: new Date(row.at).toISOString(), by: row.by, kind: row.kind, body: row.body } as Entry;
}

/** The jobs a person may see. */
function visibleTo({ id, role, shopId }: Scope): SQL | undefined {
  return role === "trainee" ? and(eq(jobs.shopId, shopId), eq(jobs.assigneeId, id)) : eq(jobs.shopId, shopId);
}

function summaryOf({ job, details }: { job: JobRow; details: Vehicle }): JobSummary {
  return {
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
    waitingFor: job.waitingFor,
    outcome: job.outcome,
    updatedAt: job.updatedAt.toISOString(),
  };
}

/** What lists, searches and figures need of a job without folding it. */
function foldedColumns(state: JobState, row: Pick<JobRow, "number" | "circuits" | "assignedTo">, vehicle: Vehicle) {
  const codes = state.codes.map(({ code }) => code);
  const title = titleOfJob(circuitsOf(row.circuits, state));
  const proven = state.decisions.filter(({ decision, unit }) => decision === "proven" && typeof unit === "string").at(-1);
  const parts = state.repairs.map(({ text, part }) => `${text} ${part?.number ?? ""}`);
  const assignedTo = state.assigned === null ? row.assignedTo : state.assigned.person === null ? null : state.assigned.name;
  return {
    title,
    complaint: state.complaint,
    codes,
    stage: state.stage,
    readings: state.readings.length,
    minutes: state.readings.reduce((sum, { minutes }) => sum + minutes, 0),
    assignedTo,
    waitingFor: state.waiting?.for ?? null,
    outcome: outcomeOf(state),
    verdict: proven?.unit ?? null,
    overrides: state.decisions.flatMap(({ decision, unit, probability }) =>
      decision === "override" && typeof unit === "string" ? [{ unit, probability: probability ?? null }] : [],
    ),
    search: [String(row.number), title, state.complaint, vehicleWords(vehicle), ...codes, assignedTo ?? "", ...condemnedUnits(state), ...parts]
      .join(" ")
      .toLowerCase(),
  };
}

/** What of a job and its vehicle goes into the folded columns besides the entries. */
const FOLDED_WITH = { number: jobs.number, circuits: jobs.circuits, assignedTo: jobs.assignedTo, details: vehicles.details };
type FoldedWith = Pick<JobRow, "number" | "circuits" | "assignedTo"> & { details: Vehicle };

/** Why the rules of a job refuse entries; null when they may be made. */
export function refusalOf(job: JobSoFar, entries: readonly NewEntry[], rules: JobRules): Problem | null {
  const decision = decide(job, entries, rules);
  return decision.ok ? null : problemOfRefusal(decision.refusal);
}

/** How many jobs a list shows of one stage. */
const STAGE_JOBS = 20;
const MOST_LISTED = 200;

/** Jobs and their entries: the only way to these tables; rows never leave this file. Every query is scoped to a shop. */
export class JobRepository {
  constructor(private readonly database: Database) {}

  /** Whether the database answers. */
  async ping(): Promise<void> {
    await this.database.execute(sql`select 1`);
  }

  private async select(where: SQL | undefined, limit: number, offset = 0): Promise<JobSummary[]> {
    const rows = await this.database
      .select({ job: jobs, details: vehicles.details })
      .from(jobs)
      .innerJoin(vehicles, eq(vehicles.id, jobs.vehicleId))
      .where(where)
      .orderBy(desc(jobs.updatedAt))
      .limit(limit)
      .offset(offset);
    return rows.map(summaryOf);
  }

  private matching(scope: Scope, { words = [], mine = false }: { words?: readonly string[]; mine?: boolean }): SQL | undefined {
    return and(visibleTo(scope), ...words.map((word) => like(jobs.search, containing(word))), ...(mine ? [eq(jobs.assigneeId, scope.id)] : []));
  }

  /** The jobs that match every word, the latest touched first. */
  list(
    scope: Scope,
    { words = [], stage, mine = false, offset = 0 }: { words?: readonly string[]; stage?: Stage | undefined; mine?: boolean; offset?: number },
  ): Promise<JobSummary[]> {
    const where = this.matching(scope, { words, mine });
    return this.select(stage === undefined ? where : and(where, eq(jobs.stage, stage)), MOST_LISTED, offset);
  }

  /** The jobs of every stage that match every word: how many, and the latest touched of them. */
  async yard(scope: Scope, asked: { words: readonly string[]; mine: boolean }): Promise<{ stage: Stage; count: number; jobs: JobSummary[] }[]> {
    const where = this.matching(scope, asked);
    const counts = await this.database.select({ stage: jobs.stage, count: count() }).from(jobs).where(where).groupBy(jobs.stage);
    return Promise.all(
      STAGES.map(async (stage) => {
        const total = counts.find((row) => row.stage === stage)?.count ?? 0;
        return { stage, count: total, jobs: total === 0 ? [] : await this.select(and(where, eq(jobs.stage, stage)), STAGE_JOBS) };
      }),
    );
  }

  /** Jobs on a vehicle, the latest first. */
  onVehicle(scope: Scope, vehicleId: string): Promise<JobSummary[]> {
    return this.select(and(visibleTo(scope), eq(jobs.vehicleId, vehicleId)), MOST_LISTED);
  }

  /** A job with all its entries in order; null when this person may see none with this id. */
  async find(scope: Scope, id: string): Promise<JobDetail | null> {
    const [row] = await this.database
      .select({ job: jobs, details: vehicles.details })
      .from(jobs)
      .innerJoin(vehicles, eq(vehicles.id, jobs.vehicleId))
      .where(and(eq(jobs.id, id), visibleTo(scope)))
      .limit(1);
    if (!row) return null;
    const stored = await this.database.select().from(entries).where(eq(entries.jobId, id)).orderBy(asc(entries.seq));
    const { job, details } = row;
    const list = stored.map(entryOf);
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

  /** The entries of a job after a sequence number, in order; null when this person may see no such job. */
  async entriesAfter(scope: Scope, id: string, after: number): Promise<Entry[] | null> {
    const [row] = await this.database
      .select({ id: jobs.id })
      .from(jobs)
      .where(and(eq(jobs.id, id), visibleTo(scope)))
      .limit(1);
    if (!row) return null;
    const stored = await this.database
      .select()
      .from(entries)
      .where(and(eq(entries.jobId, id), gt(entries.seq, after)))
      .orderBy(asc(entries.seq));
    return stored.map(entryOf);
  }

  /** What of a job is not in its entries: the circuits it started with and the virtual car behind it; null for none this person may see. */
  async header(scope: Scope, id: string): Promise<{ circuits: JobRow["circuits"]; simulated: Simulated | null } | null> {
    const [row] = await this.database
      .select({ circuits: jobs.circuits, simulated: jobs.simulated })
      .from(jobs)
      .where(and(eq(jobs.id, id), visibleTo(scope)))
      .limit(1);
    return row ?? null;
  }

  /** Puts up what a bench shows under a code; whoever watches the code is told. */
  async putCallout(shopId: string, code: string, state: Callout): Promise<void> {
    await this.database
      .insert(callouts)
      .values({ code, shopId, state })
      .onConflictDoUpdate({ target: callouts.code, set: { state, updatedAt: new Date() }, setWhere: eq(callouts.shopId, shopId) });
    await this.database.execute(announcement({ callout: code }));
  }

  /** What stands under a code that was shown within the last hours; null where nothing does. The code itself is the key: it is read off the bench. */
  async findCallout(code: string): Promise<Callout | null> {
    const [row] = await this.database
      .select({ state: callouts.state })
      .from(callouts)
      .where(and(eq(callouts.code, code), sql`${callouts.updatedAt} > now() - interval '12 hours'`))
      .limit(1);
    return row?.state ?? null;
  }

  /** Creates a job on a vehicle of the shop. @returns its id */
  async create(
    shopId: string,
    vehicleId: string,
    taken: Pick<TakenApart, "title" | "bench" | "circuits" | "simulated" | "entries">,
    assigned: { id: string; name: string } | null,
  ): Promise<string> {
    const id = uuidv7();
    await this.database.transaction(async (transaction) => {
      await transaction.insert(jobs).values({
        id,
        shopId,
        vehicleId,
        title: taken.title,
        assigneeId: assigned?.id ?? null,
        assignedTo: assigned?.name ?? null,
        bench: taken.bench,
        circuits: taken.circuits,
        simulated: taken.simulated,
      });
      const [job] = await transaction.select(FOLDED_WITH).from(jobs).innerJoin(vehicles, eq(vehicles.id, jobs.vehicleId)).where(eq(jobs.id, id));
      if (job) await this.store(transaction, shopId, id, job, taken.entries);
    });
    return id;
  }

  /**
   * Adds entries to a job. An entry already stored is left as it is and returned, so sending twice stores once.
   *
   * @returns the entries as stored, in the order sent; null when this person may see no such job
   * @param rulesIn what the job's rules are in its shop, in practice on a virtual car and otherwise
   * @throws BadInput when an id is already used in another job, or the rules of the job refuse an entry
   */
  async append(scope: Scope, jobId: string, added: readonly NewEntry[], rulesIn: (practice: boolean) => JobRules): Promise<Entry[] | null> {
    return this.database.transaction(async (transaction) => {
      const [job] = await transaction
        .select({ ...FOLDED_WITH, practice: isNotNull(jobs.simulated).mapWith(Boolean) })
        .from(jobs)
        .innerJoin(vehicles, eq(vehicles.id, jobs.vehicleId))
        .where(and(eq(jobs.id, jobId), visibleTo(scope)))
        .for("update", { of: jobs });
      return job ? this.store(transaction, scope.shopId, jobId, job, added, rulesIn(job.practice)) : null;
    });
  }

  private async store(
    transaction: Transaction,
    shopId: string,
    jobId: string,
    job: FoldedWith,
    added: readonly NewEntry[],
    rules: JobRules | null = null,
  ): Promise<Entry[]> {
    const before = await transaction.select().from(entries).where(eq(entries.jobId, jobId)).orderBy(asc(entries.seq));
    const known = new Map(before.map((row) => [row.id, row]));
    const problem = rules === null ? null : refusalOf({ started: job.circuits, entries: before.map(entryOf) }, added, rules);
    if (problem !== null) throw new BadInput(problem);
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
    const assigned = [...added].reverse().find((entry) => entry.kind === "assigned");
    if (assigned?.kind === "assigned") await this.assign(transaction, shopId, jobId, assigned.body.person);
    await this.refold(transaction, jobId, job, [...known.values()].map(entryOf));
    // Sent when the transaction is through, and only then.
    await transaction.execute(announcement({ job: jobId, seq }));
    return results.map(entryOf);
  }

  private async assign(transaction: Transaction, shopId: string, jobId: string, person: string | null): Promise<void> {
    const [member] =
      person === null
        ? []
        : await transaction
            .select({ id: people.id })
            .from(people)
            .where(and(eq(people.id, person), eq(people.shopId, shopId)));
    if (person !== null && !member) throw new BadInput({ code: "person:unknown", where: "person", message: "is nobody of this shop" });
    await transaction.update(jobs).set({ assigneeId: person }).where(eq(jobs.id, jobId));
  }

  private async refold(transaction: Transaction, jobId: string, job: FoldedWith, list: readonly Entry[], touch = true): Promise<void> {
    await transaction
      .update(jobs)
      .set({ ...foldedColumns(foldJob(list), job, job.details), ...(touch ? { updatedAt: new Date() } : {}) })
      .where(eq(jobs.id, jobId));
  }

  /** Folds again what was stored before lists had these columns. */
  async refoldOld(): Promise<number> {
    const old = await this.database
      .select({ id: jobs.id, ...FOLDED_WITH })
      .from(jobs)
      .innerJoin(vehicles, eq(vehicles.id, jobs.vehicleId))
      .where(eq(jobs.search, ""))
      .limit(5000);
    for (const { id, ...job } of old) {
      await this.database.transaction(async (transaction) => {
        const stored = await transaction.select().from(entries).where(eq(entries.jobId, id)).orderBy(asc(entries.seq));
        await this.refold(transaction, id, job, stored.map(entryOf), false);
      });
    }
    return old.length;
  }
}

/** Tells every server on this database what changed. */
function announcement(change: Change): SQL {
  return sql`select pg_notify(${CHANGES}, ${JSON.stringify(change)})`;
}
