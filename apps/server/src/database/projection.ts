import { circuitsOf, condemnedUnits, foldJob, type JobState, outcomeOf, titleOfJob } from "@fox-lamp/core";
import type { Entry, EntryKind, Vehicle } from "@fox-lamp/language";
import { and, asc, eq, gt, lte, sql } from "drizzle-orm";
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

/** Readings are counted so long after they came, many at once: a list may be that much behind. */
const GATHER_MS = 250;
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
    for (const key of keys) await this.follow(key);
  }

  /** Follows every job that lies behind, wherever its entries came in, and tells of it. @returns how many */
  async sweep(most = MOST_SWEPT): Promise<number> {
    const behind = await this.database
      .select({ shopId: jobHeads.shopId, jobId: jobHeads.jobId, seq: jobHeads.seq })
      .from(jobHeads)
      .where(sql`folded < seq`)
      .limit(most);
    for (const { seq, ...key } of behind) {
      if (this.waiting.has(key.jobId)) continue;
      await this.follow(key);
      this.changes.tell({ job: key.jobId, seq });
    }
    return behind.length;
  }

  /** Brings what lists show of a job up to its latest entry, now. */
  async follow({ shopId, jobId }: JobKey): Promise<void> {
    for (let tries = 0; tries < MOST_TRIES; tries += 1) {
      const [head] = await this.database
        .select({ seq: jobHeads.seq, folded: jobHeads.folded })
        .from(jobHeads)
        .where(and(eq(jobHeads.shopId, shopId), eq(jobHeads.jobId, jobId)));
      if (head === undefined || head.folded >= head.seq) return;
      // Another server may follow the same job: whoever is later looks again.
      if (head.folded > 0 && (await this.count({ shopId, jobId }, head))) return;
      if (await this.refold({ shopId, jobId }, head)) return;
    }
  }

  /** Counts readings that came since. @returns false where more than that changed */
  private async count({ shopId, jobId }: JobKey, { seq, folded }: { seq: number; folded: number }): Promise<boolean> {
    const fresh = await this.database
      .select({ kind: entries.kind, body: entries.body })
      .from(entries)
      .where(and(eq(entries.shopId, shopId), eq(entries.jobId, jobId), gt(entries.seq, folded), lte(entries.seq, seq)));
    if (fresh.some(changesLists)) return false;
    const taken = fresh.flatMap(({ kind, body }) => (kind === "reading" && "reading" in body ? [body.minutes ?? 0] : []));
    const minutes = taken.reduce<number>((sum, each) => sum + Number(each), 0);
    const { rows } = await this.database.execute(sql`
      with moved as (
        update job_heads set folded = ${seq} where shop_id = ${shopId} and job_id = ${jobId} and folded = ${folded} returning 1
      )
      update jobs set readings = readings + ${taken.length}, minutes = minutes + ${minutes}, updated_at = now()
      where shop_id = ${shopId} and id = ${jobId} and exists (select 1 from moved) returning id`);
    return rows.length > 0;
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
