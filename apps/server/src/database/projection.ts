import { circuitsOf, condemnedUnits, foldJob, type JobState, minutesToVerdict, outcomeOf, titleOfJob } from "@fox-lamp/core";
import { circuitOfUnit, type Entry, type EntryKind, type Vehicle } from "@fox-lamp/language";
import { and, asc, eq, inArray, lte, type SQL, sql } from "drizzle-orm";
import type { Logger } from "pino";
import type { Changes } from "./changes";
import type { Database } from "./open";
import { ENTRY_COLUMNS, entryOf, type JobRow } from "./rows";
import { entries, jobHeads, jobs, vehicles } from "./schema";
import { vehicleWords } from "./vehicles";

/** A job of a shop. */
export interface JobKey {
  readonly shopId: string;
  readonly jobId: string;
}

/** Entries of these kinds change what lists show of a job; a reading only counts, unless it replaces another; the rest changes nothing there. */
const SHOWN: ReadonlySet<EntryKind> = new Set<EntryKind>([
  "complaint",
  "code",
  "circuit",
  "decision",
  "located",
  "repair",
  "stage",
  "closing",
  "waiting",
  "promised",
  "assigned",
  "retraction",
]);

/** Whether a list looks different after an entry, beyond one reading more. */
export function changesLists({ kind, body }: Pick<Entry, "kind" | "body">): boolean {
  return SHOWN.has(kind) || (kind === "reading" && "replaces" in body && body.replaces !== undefined);
}

/** What lists, searches and figures need of a job without folding it. */
export function foldedColumns(state: JobState, row: Pick<JobRow, "number" | "circuits" | "assignedTo">, vehicle: Vehicle) {
  const codes = state.codes.map(({ code }) => code);
  const circuits = circuitsOf(row.circuits, state);
  const title = titleOfJob(circuits);
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
    waitingSince: state.waiting === null ? null : new Date(state.waiting.since),
    promisedAt: state.promised === null ? null : new Date(state.promised),
    outcome: outcomeOf(state),
    verdict: proven?.unit ?? null,
    verdictMinutes: minutesToVerdict(state),
    family: circuits.find(({ id }) => id === circuitOfUnit(proven?.unit ?? ""))?.family ?? null,
    overrides: state.decisions.flatMap(({ decision, unit, probability }) =>
      decision === "override" && typeof unit === "string" ? [{ unit, probability: probability ?? null }] : [],
    ),
    search: [String(row.number), title, state.complaint, vehicleWords(vehicle), ...codes, assignedTo ?? "", ...condemnedUnits(state), ...parts]
      .join(" ")
      .toLowerCase(),
  };
}

const arrayOf = (values: readonly string[], type: "uuid" | "text"): SQL => sql`${`{${values.join(",")}}`}::${sql.raw(type)}[]`;
const uuids = (values: readonly string[]): SQL => arrayOf(values, "uuid");
const texts = (values: readonly string[]): SQL => arrayOf(values, "text");

/** Readings are counted so long after they came, many at once: a list may be that much behind. */
const GATHER_MS = 500;
/** So often a server looks for jobs nobody follows: another server died before it did. */
const SWEEP_MS = 5000;
const MOST_SWEPT = 100;
const MOST_TRIES = 4;

/**
 * Keeps what lists show of jobs true to their entries. It follows the entries, outside their lock, and can be made anew from them at any
 * time: up to where it is true stands with the job (`job_heads.folded`).
 */
export class Projection {
  private readonly waiting = new Map<string, JobKey>();
  private gathering: NodeJS.Timeout | null = null;
  private sweeping: NodeJS.Timeout | null = null;
  private working: Promise<void> = Promise.resolve();

  constructor(
    private readonly database: Database,
    private readonly changes: Pick<Changes, "tell">,
    private readonly logger: Pick<Logger, "warn">,
  ) {}

  /** Starts to look after what other servers left. */
  start(): void {
    this.sweeping ??= setInterval(() => {
      this.sweep().catch((error: unknown) => this.logger.warn({ reason: String(error) }, "lists could not be brought up to date"));
    }, SWEEP_MS).unref();
  }

  /** Finishes what waits, and stops. */
  async stop(): Promise<void> {
    if (this.sweeping !== null) clearInterval(this.sweeping);
    if (this.gathering !== null) clearTimeout(this.gathering);
    await this.work().catch(() => undefined);
  }

  /** Soon: somebody took a reading. */
  later(key: JobKey): void {
    this.waiting.set(key.jobId, key);
    this.gathering ??= setTimeout(() => {
      this.gathering = null;
      this.working = this.working.then(() => this.work()).catch((error: unknown) => this.logger.warn({ reason: String(error) }, "lists fell behind"));
    }, GATHER_MS).unref();
  }

  private async work(): Promise<void> {
    const keys = [...this.waiting.values()];
    this.waiting.clear();
    if (keys.length === 0) return;
    await this.countAll(keys);
    // What is left changed more than a count, or was followed by somebody else meanwhile.
    const left = await this.database
      .select({ shopId: jobHeads.shopId, jobId: jobHeads.jobId })
      .from(jobHeads)
      .where(
        and(
          sql`folded < seq`,
          inArray(
            jobHeads.jobId,
            keys.map(({ jobId }) => jobId),
          ),
        ),
      );
    for (const key of left) await this.follow(key);
  }

  /** Counts the readings that came since in many jobs at once; jobs in which more than that changed are left as they are. */
  private async countAll(keys: readonly JobKey[]): Promise<void> {
    const [shops, ids] = [keys.map(({ shopId }) => shopId), keys.map(({ jobId }) => jobId)];
    await this.database.execute(sql`
      with asked as (
        select h.shop_id, h.job_id, h.folded, h.seq from unnest(${uuids(shops)}, ${uuids(ids)}) as key(shop_id, job_id)
        join job_heads h on h.shop_id = key.shop_id and h.job_id = key.job_id where h.folded < h.seq and h.folded > 0
      ), fresh as (
        select a.shop_id, a.job_id, a.folded, a.seq, count(*) filter (where e.kind = 'reading')::int as readings,
          coalesce(sum((e.body ->> 'minutes')::real) filter (where e.kind = 'reading'), 0) as minutes,
          bool_or(e.kind = any(${texts([...SHOWN])}) or (e.kind = 'reading' and e.body ? 'replaces')) as more
        from asked a join entries e on e.shop_id = a.shop_id and e.job_id = a.job_id and e.seq > a.folded and e.seq <= a.seq
        group by a.shop_id, a.job_id, a.folded, a.seq
      ), moved as (
        update job_heads h set folded = f.seq from fresh f
        where h.shop_id = f.shop_id and h.job_id = f.job_id and h.folded = f.folded and not f.more returning h.shop_id, h.job_id
      )
      update jobs j set readings = j.readings + f.readings, minutes = j.minutes + f.minutes, updated_at = now()
      from fresh f join moved m on m.shop_id = f.shop_id and m.job_id = f.job_id where j.shop_id = f.shop_id and j.id = f.job_id`);
  }

  /** Follows every job that lies behind, wherever its entries came in, and tells of it. @returns how many */
  async sweep(most = MOST_SWEPT): Promise<number> {
    const behind = await this.database
      .select({ shopId: jobHeads.shopId, jobId: jobHeads.jobId, seq: jobHeads.seq })
      .from(jobHeads)
      .where(sql`folded < seq`)
      .limit(most);
    const left = behind.filter(({ jobId }) => !this.waiting.has(jobId));
    if (left.length > 1) await this.countAll(left);
    for (const { seq, ...key } of left) {
      await this.follow(key);
      this.changes.tell({ job: key.jobId, seq });
    }
    return behind.length;
  }

  /** Brings what lists show of a job up to its latest entry, now: readings alone are counted, anything more is folded. */
  async follow(key: JobKey): Promise<void> {
    await this.countAll([key]);
    for (let tries = 0; tries < MOST_TRIES; tries += 1) {
      const behind = await this.behind(key);
      if (behind === null) return;
      // Another server may follow the same job: whoever is later looks again.
      if (await this.refold(key, behind)) return;
    }
  }

  /** Where a job's lists stand; null when they are true. */
  private async behind({ shopId, jobId }: JobKey): Promise<{ seq: number; folded: number } | null> {
    const [head] = await this.database
      .select({ seq: jobHeads.seq, folded: jobHeads.folded })
      .from(jobHeads)
      .where(and(eq(jobHeads.shopId, shopId), eq(jobHeads.jobId, jobId)));
    return head === undefined || head.folded >= head.seq ? null : head;
  }

  /** Makes a job's columns anew from all its entries. @returns false where another server was quicker */
  async refold({ shopId, jobId }: JobKey, { seq, folded }: { seq: number; folded: number }, touch = true): Promise<boolean> {
    const [[row], stored] = await Promise.all([
      this.database
        .select({ number: jobs.number, circuits: jobs.circuits, assignedTo: jobs.assignedTo, details: vehicles.details })
        .from(jobs)
        .innerJoin(vehicles, and(eq(vehicles.shopId, jobs.shopId), eq(vehicles.id, jobs.vehicleId)))
        .where(and(eq(jobs.shopId, shopId), eq(jobs.id, jobId))),
      this.database
        .select(ENTRY_COLUMNS)
        .from(entries)
        .where(and(eq(entries.shopId, shopId), eq(entries.jobId, jobId), lte(entries.seq, seq)))
        .orderBy(asc(entries.seq)),
    ]);
    if (row === undefined) return true;
    const columns = foldedColumns(foldJob(stored.map(entryOf)), row, row.details);
    return this.database.transaction(async (transaction) => {
      const moved = await transaction
        .update(jobHeads)
        .set({ folded: seq })
        .where(and(eq(jobHeads.shopId, shopId), eq(jobHeads.jobId, jobId), eq(jobHeads.folded, folded)))
        .returning({ seq: jobHeads.seq });
      if (moved.length === 0) return false;
      await transaction
        .update(jobs)
        .set({ ...columns, ...(touch ? { updatedAt: new Date() } : {}) })
        .where(and(eq(jobs.shopId, shopId), eq(jobs.id, jobId)));
      return true;
    });
  }

  /** Makes every job of a shop anew, as if nothing had ever been folded; what was touched when stays. @returns how many */
  async rebuild(shopId: string): Promise<number> {
    const heads = await this.database
      .select({ jobId: jobHeads.jobId, seq: jobHeads.seq, folded: jobHeads.folded })
      .from(jobHeads)
      .where(eq(jobHeads.shopId, shopId));
    for (const { jobId, ...head } of heads) await this.refold({ shopId, jobId }, head, false);
    return heads.length;
  }
}
