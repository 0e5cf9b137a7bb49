import type { Entry, JobSummary, NewEntry, Vehicle } from "@fox-lamp/language";
import { and, eq, type SQL } from "drizzle-orm";
import type { Who } from "../accounts/who";
import { entries, jobs } from "./schema";

type EntryRow = typeof entries.$inferSelect;
export type JobRow = typeof jobs.$inferSelect;

/** Whose eyes a query looks through: a trainee sees the own jobs, others all of the shop's. */
export type Scope = Pick<Who, "id" | "role" | "shopId">;

/** What of a row an entry is made from. */
export const ENTRY_COLUMNS = {
  id: entries.id,
  jobId: entries.jobId,
  seq: entries.seq,
  at: entries.at,
  by: entries.by,
  personId: entries.personId,
  imported: entries.imported,
  kind: entries.kind,
  body: entries.body,
};

/** PostgreSQL prints times its own way; entries carry them in ISO 8601. */
export function entryOf(row: Pick<EntryRow, keyof typeof ENTRY_COLUMNS>): Entry {
  return signed({ id: row.id, at: new Date(row.at).toISOString(), by: row.by, kind: row.kind, body: row.body } as NewEntry, row);
}

/** A sent entry as it stands in the job: under its number, with who was signed in. */
export function signed(entry: NewEntry, { jobId, seq, personId, imported }: Pick<EntryRow, "jobId" | "seq" | "personId" | "imported">): Entry {
  return { ...entry, job: jobId, seq, person: personId, ...(imported ? { imported: true } : {}) };
}

/** The jobs a person may see. */
export function visibleTo({ id, role, shopId }: Scope): SQL | undefined {
  return role === "trainee" ? and(eq(jobs.shopId, shopId), eq(jobs.assigneeId, id)) : eq(jobs.shopId, shopId);
}

/** One job, for somebody who may see it. */
export function visibleJob(scope: Scope, id: string): SQL | undefined {
  return and(eq(jobs.id, id), visibleTo(scope));
}

/** What lists show of a job. */
export function summaryOf({ job, details }: { job: JobRow; details: Vehicle }): JobSummary {
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
    waitingSince: job.waitingSince?.toISOString() ?? null,
    promisedAt: job.promisedAt?.toISOString() ?? null,
    outcome: job.outcome,
    updatedAt: job.updatedAt.toISOString(),
  };
}
