import type { JobSummary } from "@fox-lamp/language";
import { formatDistanceToNow } from "date-fns";
import { Link } from "react-router";
import { messages } from "../../messages";
import { whenText } from "../../ui/dates";
import { stagePath } from "../../ui/StageRail";
import { vehicleLine, vehicleName } from "../../ui/vehicle";

const t = messages.yard;

/** One job of the yard: vehicle, complaint, codes, who has it, what it waits for since when, for when it is promised. */
export function JobRow({ job }: { job: JobSummary }) {
  // Gone on with where it stands; of a closed job its record is opened.
  const target = job.stage === "closed" ? `/jobs/${job.id}` : stagePath(job.id, job.stage);
  const ago = (at: string): string => formatDistanceToNow(new Date(at), { addSuffix: true });
  const late = job.promisedAt !== null && job.stage !== "closed" && Date.parse(job.promisedAt) < Date.now();
  return (
    <li className="border-t border-line first:border-t-0">
      <Link to={target} className="grid gap-x-6 gap-y-1 px-4 py-3 text-ink no-underline hover:bg-well md:grid-cols-[14rem_1fr_9rem_12rem]">
        <div>
          <div className="font-bold">{vehicleName(job.vehicle)}</div>
          <div className="text-sm text-soft">{vehicleLine(job.vehicle)}</div>
        </div>
        <div>
          <div className="line-clamp-2">{job.complaint}</div>
          <div className="text-sm text-soft">{job.title}</div>
        </div>
        <div className="readout flex flex-wrap content-start gap-2 text-sm">
          {job.codes.map((code) => (
            <span key={code} className="rounded border border-line px-1.5 py-0.5">
              {code}
            </span>
          ))}
        </div>
        <div className="text-sm text-soft md:text-right">
          <div className="truncate text-ink">{job.outcome ? t.outcome[job.outcome] : (job.assignedTo ?? t.unassigned)}</div>
          {job.waitingFor && (
            <div className="font-bold text-lamp">
              {t.waitingFor[job.waitingFor]}
              {job.waitingSince !== null && <span className="block font-normal text-soft">{t.since(ago(job.waitingSince))}</span>}
            </div>
          )}
          {job.promisedAt !== null && job.stage !== "closed" && (
            <div className={late ? "font-bold text-ember" : "text-ink"}>{(late ? t.late : t.promisedFor)(whenText(job.promisedAt))}</div>
          )}
          <div>{t.readings(job.readings)}</div>
          <div>{ago(job.updatedAt)}</div>
        </div>
      </Link>
    </li>
  );
}
