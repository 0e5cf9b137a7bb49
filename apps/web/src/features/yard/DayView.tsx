import type { JobSummary } from "@fox-lamp/language";
import { format, isToday, isTomorrow } from "date-fns";
import { useJobsQuery } from "../../app/api";
import { messages } from "../../messages";
import { Plain } from "../../ui/states";
import { JobRow } from "./JobRow";

const t = messages.yard;

/** A day as people say it. */
function dayWord(at: Date): string {
  if (isToday(at)) return t.today;
  return isTomorrow(at) ? t.tomorrow : format(at, "EEEE, d MMMM");
}

/** Jobs by the day they are promised for, the soonest first; what is late stands before all. */
export function byDay(jobs: readonly JobSummary[], now: Date): { readonly day: string; readonly jobs: readonly JobSummary[] }[] {
  const days = new Map<string, JobSummary[]>();
  for (const job of [...jobs].sort((a, b) => (a.promisedAt ?? "").localeCompare(b.promisedAt ?? ""))) {
    if (job.promisedAt === null) continue;
    const at = new Date(job.promisedAt);
    const day = at < now ? t.overdue : dayWord(at);
    days.set(day, [...(days.get(day) ?? []), job]);
  }
  return [...days].map(([day, own]) => ({ day, jobs: own }));
}

/** What is promised when. @param asked the yard's filters */
export function DayView({ asked }: { asked: Record<string, string> }) {
  const { data } = useJobsQuery({ ...asked, promised: "yes", sort: "promised" });
  if (data === undefined) return <Plain>{messages.states.loading}</Plain>;
  if (data.length === 0) return <Plain>{t.nothingPromised}</Plain>;
  return byDay(data, new Date()).map(({ day, jobs }) => (
    <section key={day} className="mb-6" aria-label={day}>
      <h2 className={`mb-2 text-sm font-bold ${day === t.overdue ? "text-ember" : "text-lamp"}`}>{day}</h2>
      <ul className="list-none overflow-hidden rounded-xl border border-line bg-panel p-0">
        {jobs.map((job) => (
          <JobRow key={job.id} job={job} />
        ))}
      </ul>
    </section>
  ));
}
