import { type JobSummary, STAGES, type Stage } from "@fox-lamp/language";
import { formatDistanceToNow } from "date-fns";
import { Search } from "lucide-react";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import { useJobsQuery, useShopQuery } from "../../app/api";
import { settingsChanged } from "../../app/settings";
import { Brand, PersonSelect, SettingsLink, ThemeButton } from "../../app/shell";
import { useAppDispatch, useAppSelector } from "../../app/store";
import { messages } from "../../messages";
import { Plain } from "../../ui/states";
import { vehicleLine, vehicleName } from "../../ui/vehicle";

function matches(job: JobSummary, words: readonly string[]): boolean {
  const text = [String(job.number), job.title, job.complaint, vehicleName(job.vehicle), vehicleLine(job.vehicle), job.assignedTo ?? "", ...job.codes]
    .join(" ")
    .toLowerCase();
  return words.every((word) => text.includes(word));
}

function JobRow({ job }: { job: JobSummary }) {
  const target = job.stage === "bench" ? `/jobs/${job.id}/bench` : `/jobs/${job.id}`;
  return (
    <li className="border-t border-line first:border-t-0">
      <Link to={target} className="grid gap-x-6 gap-y-1 px-4 py-3 text-ink no-underline hover:bg-well md:grid-cols-[14rem_1fr_11rem_9rem]">
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
          <div>{messages.yard.readings(job.readings)}</div>
          <div>{formatDistanceToNow(new Date(job.updatedAt), { addSuffix: true })}</div>
        </div>
      </Link>
    </li>
  );
}

/** Offers the guided job once, on a job of the demo that has a virtual car. */
function GuideOffer({ jobs }: { jobs: readonly JobSummary[] }) {
  const dispatch = useAppDispatch();
  const guided = useAppSelector((state) => state.settings.guided);
  const job = jobs.find(({ simulated, stage, readings }) => simulated && stage === "bench" && readings === 0);
  if (guided || job === undefined) return null;
  const leave = (): void => void dispatch(settingsChanged({ guided: true }));
  return (
    <aside className="mb-6 flex flex-wrap items-center gap-x-5 gap-y-2 rounded-xl border-2 border-lamp px-5 py-3">
      <p className="m-0 min-w-60 flex-1">{messages.guide.offer}</p>
      <Link to={`/jobs/${job.id}/bench?guide`} className="grid h-11 place-items-center rounded-lg bg-lamp px-4 font-bold text-on-lamp no-underline">
        {messages.guide.start}
      </Link>
      <button type="button" onClick={leave} className="h-11 px-2 text-soft">
        {messages.guide.later}
      </button>
    </aside>
  );
}

/** The shop's jobs by stage, with a search over what is known of them. */
export function YardPage() {
  const { data: jobs, error, refetch } = useJobsQuery(undefined, { refetchOnMountOrArgChange: true, refetchOnFocus: true });
  const { data: shop } = useShopQuery();
  const [text, setText] = useState("");
  const groups = useMemo(() => {
    const words = text.toLowerCase().split(/\s+/u).filter(Boolean);
    const found = (jobs ?? []).filter((job) => matches(job, words));
    return STAGES.map((stage): { stage: Stage; jobs: JobSummary[] } => ({ stage, jobs: found.filter((job) => job.stage === stage) })).filter(
      (group) => group.jobs.length > 0,
    );
  }, [jobs, text]);
  return (
    <>
      <header className="flex flex-wrap items-center gap-x-5 gap-y-2 border-b border-line px-4 py-2 lg:px-6">
        <Brand />
        <span className="text-soft">{shop?.name}</span>
        <span className="ml-auto flex items-center gap-3">
          <PersonSelect />
          <SettingsLink />
          <ThemeButton />
        </span>
      </header>
      <main id="content" className="mx-auto w-full max-w-6xl flex-1 px-4 py-6 lg:px-6">
        <GuideOffer jobs={jobs ?? []} />
        <div className="mb-6 flex flex-wrap items-center gap-4">
          <h1 className="text-2xl font-bold">{messages.yard.title}</h1>
          <label className="relative ml-auto w-full sm:w-96">
            <span className="sr-only">{messages.yard.search}</span>
            <Search size={18} className="absolute left-3 top-3.5 text-soft" aria-hidden="true" />
            <input
              type="search"
              value={text}
              onChange={(event) => setText(event.target.value)}
              placeholder={messages.yard.search}
              className="h-11 w-full rounded-lg border border-line bg-well pl-10 pr-3 text-ink placeholder:text-soft"
            />
          </label>
        </div>
        {error && !jobs ? <Plain retry={() => void refetch()}>{messages.states.failed}</Plain> : null}
        {!jobs && !error ? <Plain>{messages.states.loading}</Plain> : null}
        {jobs && groups.length === 0 ? <Plain>{jobs.length === 0 ? messages.states.empty : messages.states.noMatch(text)}</Plain> : null}
        {groups.map(({ stage, jobs: members }) => (
          <section key={stage} className="mb-6">
            <h2 className="mb-2 flex items-baseline gap-2 text-sm font-bold text-lamp">
              {messages.stages[stage]} <span className="readout text-soft">{members.length}</span>
            </h2>
            <ul className="list-none overflow-hidden rounded-xl border border-line bg-panel p-0">
              {members.map((job) => (
                <JobRow key={job.id} job={job} />
              ))}
            </ul>
          </section>
        ))}
      </main>
    </>
  );
}
