import { circuitRules, circuitsOf, decide, foldJob, type JobRules, type JobSoFar, problemOfRefusal } from "@fox-lamp/core";
import { BadInput, type Circuit, type Entry, type NewEntry, type Problem } from "@fox-lamp/language";
import { and, asc, eq, gt, inArray, isNotNull, sql } from "drizzle-orm";
import { PgDialect } from "drizzle-orm/pg-core";
import { LRUCache } from "lru-cache";
import type pg from "pg";
import type { Changes } from "./changes";
import { Lanes } from "./lanes";
import type { Database, Transaction } from "./open";
import { changesLists, type JobKey, type Projection } from "./projection";
import { ENTRY_COLUMNS, entryOf, type Scope, signed, visibleJob } from "./rows";
import { entries, jobHeads, jobs, people } from "./schema";

/** Why the rules of a job refuse entries; null when they may be made. */
export function refusalOf(job: JobSoFar, added: readonly NewEntry[], rules: JobRules): Problem | null {
  const decision = decide(job, added, rules);
  return decision.ok ? null : problemOfRefusal(decision.refusal);
}

/** Whether the rules of a job need its whole record to judge an entry; the others stand for themselves, readings besides need their circuits. */
function needsRecord({ kind, body }: NewEntry, trainee: boolean): boolean {
  switch (kind) {
    case "circuit":
    case "stage":
    case "closing":
    case "retraction":
    case "assigned":
      return true;
    case "reading":
      return body.replaces !== undefined;
    case "verification":
      return body.of !== undefined;
    case "decision":
      return trainee;
    case "complaint":
    case "confirmation":
    case "battery":
    case "code":
    case "cleared":
    case "rescan":
    case "recording":
    case "capture":
    case "mark":
    case "conditions":
    case "skip":
    case "located":
    case "task":
    case "repair":
    case "failed":
    case "waiting":
    case "promised":
    case "photo":
    case "note":
      return false;
    default: {
      const never: never = kind;
      return never;
    }
  }
}

/** The circuits of a job, and up to which entry they are known. */
interface Sheet {
  readonly seq: number;
  readonly circuits: readonly Circuit[];
}

const MOST_SHEETS = 2000;
/** Codes the database function raises. */
const SHEET_MOVED = "FX409";
const FOREIGN_ID = "FX400";
const SAME_KEY = "23505";
const MOST_TRIES = 3;

/** Asks the database function to store entries. */
const appendCall = (values: readonly unknown[]) =>
  sql`select entry, number, added from append_entries(${sql.join(
    values.map((value) => sql.param(value)),
    sql`, `,
  )})`;
/** The same as text, for a statement that is prepared once a connection. */
const APPEND = { name: "append", text: new PgDialect().sqlToQuery(appendCall(Array.from({ length: 7 }))).sql };

/** One entry's place after it was sent. */
interface Placed {
  readonly entry: string;
  readonly number: number;
  readonly added: boolean;
}

function databaseError(error: unknown): { code?: string; detail?: string } {
  let inner = error;
  while (inner instanceof Error && inner.cause !== undefined && !("code" in inner)) inner = inner.cause;
  return typeof inner === "object" && inner !== null ? (inner as { code?: string; detail?: string }) : {};
}

function foreignId(added: readonly NewEntry[], id: string | undefined): BadInput {
  const position = Math.max(
    0,
    added.findIndex((entry) => entry.id === id),
  );
  return new BadInput({ code: "entry:foreign-id", where: `entries[${position}].id`, message: "is already used in another job; expected a new id" });
}

/** Entries of jobs: added, never changed. */
export class EntryRepository {
  private readonly sheets = new LRUCache<string, Sheet>({ max: MOST_SHEETS });
  private readonly lanes = new Lanes();

  constructor(
    private readonly database: Database,
    private readonly pool: Pick<pg.Pool, "query">,
    private readonly projection: Projection,
    private readonly changes: Pick<Changes, "tell">,
  ) {}

  /** The entries of a job after a sequence number, in order; null when this person may see no such job. */
  async after(scope: Scope, id: string, after: number): Promise<Entry[] | null> {
    const [row] = await this.database.select({ id: jobs.id }).from(jobs).where(visibleJob(scope, id)).limit(1);
    if (!row) return null;
    const stored = await this.database
      .select(ENTRY_COLUMNS)
      .from(entries)
      .where(and(eq(entries.shopId, scope.shopId), eq(entries.jobId, id), gt(entries.seq, after)))
      .orderBy(asc(entries.seq));
    return stored.map(entryOf);
  }

  /**
   * Adds entries to a job. An entry already stored is left as it is and returned, so sending twice stores once. What lists show of the job
   * follows outside its lock.
   *
   * @returns the entries as stored, in the order sent; null when this person may see no such job
   * @param rulesIn what the job's rules are in its shop, in practice on a virtual car and otherwise
   * @throws BadInput when an id is already used in another job, or the rules of the job refuse an entry; Busy when too many wait for this job
   */
  async append(scope: Scope, jobId: string, sent: readonly NewEntry[], rulesIn: () => Promise<(practice: boolean) => JobRules>): Promise<Entry[] | null> {
    const key = { shopId: scope.shopId, jobId };
    // Of the same entry twice in one sending the first counts.
    const added = sent.filter(({ id }, index) => sent.findIndex((other) => other.id === id) === index);
    const trainee = scope.role === "trainee";
    const placed = await this.lanes.run(jobId, async () => {
      if (added.some((entry) => needsRecord(entry, trainee))) return this.appendJudged(scope, jobId, added, await rulesIn());
      return this.appendPlain(scope, jobId, added);
    });
    if (placed === null) return null;
    const places = new Map(placed.map((place) => [place.entry, place]));
    const fresh = added.filter(({ id }) => places.get(id)?.added === true);
    if (fresh.length > 0) {
      this.changes.tell({ job: jobId, seq: Math.max(...placed.map(({ number }) => number)) });
      if (fresh.some(changesLists)) await this.projection.follow(key);
      else this.projection.later(key);
    }
    const known = await this.stored(
      key,
      placed.flatMap((place) => (place.added ? [] : [place.entry])),
    );
    return sent.map((entry) => {
      const seq = places.get(entry.id)?.number ?? 0;
      return known.get(entry.id) ?? signed({ ...entry, at: new Date(entry.at).toISOString() }, { jobId, seq, personId: scope.id, imported: false });
    });
  }

  private async stored({ shopId }: JobKey, ids: readonly string[]): Promise<Map<string, Entry>> {
    if (ids.length === 0) return new Map();
    const rows = await this.database
      .select(ENTRY_COLUMNS)
      .from(entries)
      .where(and(eq(entries.shopId, shopId), inArray(entries.id, [...ids])));
    return new Map(rows.map((row) => [row.id, entryOf(row)]));
  }

  /** Entries that stand for themselves: one trip to the database, whatever the job's length. */
  private async appendPlain(scope: Scope, jobId: string, added: readonly NewEntry[]): Promise<Placed[] | null> {
    const readings = added.flatMap((entry, index) =>
      entry.kind === "reading" ? [{ reading: entry.body.reading, where: `entries[${index}].body.reading` }] : [],
    );
    for (let tries = 0; ; tries += 1) {
      let sheet: Sheet | null = null;
      if (readings.length > 0) {
        sheet = await this.sheetOf(scope.shopId, jobId);
        if (sheet === null) return null;
        const problem = circuitRules.misplaced(sheet.circuits, readings);
        if (problem !== null) {
          // Another server may have edited the sheet since: look once before anything is refused.
          if (tries === 0 && this.sheets.delete(`${scope.shopId}/${jobId}`)) continue;
          // Nobody is told of the circuits of a job he may not see.
          if ((await this.after(scope, jobId, 2_147_483_647)) === null) return null;
          throw new BadInput({ ...problem, code: "reading:misplaced" });
        }
      }
      try {
        return await this.put((values) => this.pool.query<Placed>({ ...APPEND, values }), scope, jobId, added, sheet?.seq ?? null);
      } catch (error) {
        if (databaseError(error).code !== SHEET_MOVED || tries >= MOST_TRIES) throw error;
        this.sheets.delete(`${scope.shopId}/${jobId}`);
      }
    }
  }

  /** Entries whose rules need the whole record: judged and stored under the job's lock. */
  private appendJudged(scope: Scope, jobId: string, added: readonly NewEntry[], rulesIn: (practice: boolean) => JobRules): Promise<Placed[] | null> {
    return this.database.transaction(async (transaction) => {
      const [job] = await transaction
        .select({ circuits: jobs.circuits, practice: isNotNull(jobs.simulated).mapWith(Boolean) })
        .from(jobs)
        .innerJoin(jobHeads, and(eq(jobHeads.shopId, jobs.shopId), eq(jobHeads.jobId, jobs.id)))
        .where(visibleJob(scope, jobId))
        .for("update", { of: jobHeads });
      if (!job) return null;
      const before = await transaction
        .select(ENTRY_COLUMNS)
        .from(entries)
        .where(and(eq(entries.shopId, scope.shopId), eq(entries.jobId, jobId)))
        .orderBy(asc(entries.seq));
      const problem = refusalOf({ started: job.circuits, entries: before.map(entryOf) }, added, rulesIn(job.practice));
      if (problem !== null) throw new BadInput(problem);
      const query = async (values: unknown[]): Promise<{ rows: Placed[] }> => {
        const { rows } = await transaction.execute<{ [Key in keyof Placed]: Placed[Key] }>(appendCall(values));
        return { rows };
      };
      const placed = await this.put(query, scope, jobId, added, null);
      const assigned = [...added].reverse().find((entry) => entry.kind === "assigned");
      if (assigned?.kind === "assigned") await this.assign(transaction, { shopId: scope.shopId, jobId }, assigned.body.person);
      return placed;
    });
  }

  private async put(
    query: (values: unknown[]) => Promise<{ rows: Placed[] }>,
    { id, role, shopId }: Scope,
    jobId: string,
    added: readonly NewEntry[],
    sheet: number | null,
  ): Promise<Placed[] | null> {
    try {
      const { rows } = await query([shopId, role === "trainee" ? id : null, jobId, sheet, id, false, JSON.stringify(added)]);
      return rows.length === 0 ? null : rows;
    } catch (error) {
      const { code, detail } = databaseError(error);
      if (code === FOREIGN_ID) throw foreignId(added, detail);
      // The same id in two jobs at the same moment: one of them was quicker.
      if (code === SAME_KEY) throw foreignId(added, /\(shop_id, id\)=\([^,]+, ([0-9a-f-]+)\)/u.exec(detail ?? "")?.[1]);
      throw error;
    }
  }

  /** The circuits on a job's sheet; a sheet that was edited since is noticed when entries are put in. */
  private async sheetOf(shopId: string, jobId: string): Promise<Sheet | null> {
    const name = `${shopId}/${jobId}`;
    const known = this.sheets.get(name);
    if (known !== undefined) return known;
    const [job] = await this.database
      .select({ seq: jobHeads.sheet, circuits: jobs.circuits })
      .from(jobs)
      .innerJoin(jobHeads, and(eq(jobHeads.shopId, jobs.shopId), eq(jobHeads.jobId, jobs.id)))
      .where(and(eq(jobs.shopId, shopId), eq(jobs.id, jobId)));
    if (job === undefined) return null;
    const edits = await this.database
      .select(ENTRY_COLUMNS)
      .from(entries)
      .where(and(eq(entries.shopId, shopId), eq(entries.jobId, jobId), inArray(entries.kind, ["circuit", "retraction"])))
      .orderBy(asc(entries.seq));
    // An edit that came between the two questions belongs to a later sheet, and is noticed as such.
    const within = edits.filter(({ seq }) => seq <= job.seq).map(entryOf);
    const sheet = { seq: job.seq, circuits: circuitsOf(job.circuits, foldJob(within)) };
    this.sheets.set(name, sheet);
    return sheet;
  }

  private async assign(transaction: Transaction, { shopId, jobId }: JobKey, person: string | null): Promise<void> {
    const [member] =
      person === null
        ? []
        : await transaction
            .select({ id: people.id })
            .from(people)
            .where(and(eq(people.id, person), eq(people.shopId, shopId)));
    if (person !== null && !member) throw new BadInput({ code: "person:unknown", where: "person", message: "is nobody of this shop" });
    await transaction
      .update(jobs)
      .set({ assigneeId: person })
      .where(and(eq(jobs.shopId, shopId), eq(jobs.id, jobId)));
  }
}
