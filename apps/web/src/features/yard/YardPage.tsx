import type { JobSummary } from "@fox-lamp/language";
import { formatDistanceToNow } from "date-fns";
import { Plus, Search, Upload } from "lucide-react";
import { useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import { reasonOf, useImportJobMutation, useShopQuery, useStageJobsQuery, useYardQuery, type YardStage } from "../../app/api";
import { settingsChanged } from "../../app/settings";
import { PageHead } from "../../app/shell";
import { useAppDispatch, useAppSelector } from "../../app/store";
import { messages } from "../../messages";
import { FilePick } from "../../ui/FilePick";
import { Button, Chip } from "../../ui/form";
import { stagePath } from "../../ui/StageRail";
import { Plain } from "../../ui/states";
import { toast } from "../../ui/toast";
import { vehicleLine, vehicleName } from "../../ui/vehicle";

function JobRow({ job }: { job: JobSummary }) {
  // Gone on with where it stands; of a closed job its record is opened.
  const target = job.stage === "closed" ? `/jobs/${job.id}` : stagePath(job.id, job.stage);
  return (
    <li className="border-t border-line first:border-t-0">
      <Link to={target} className="grid gap-x-6 gap-y-1 px-4 py-3 text-ink no-underline hover:bg-well md:grid-cols-[14rem_1fr_9rem_11rem]">
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
          <div className="truncate text-ink">{job.outcome ? messages.yard.outcome[job.outcome] : (job.assignedTo ?? messages.yard.unassigned)}</div>
          {job.waitingFor && <div className="font-bold text-lamp">{messages.yard.waitingFor[job.waitingFor]}</div>}
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

/** One stage: the latest jobs in it, all of them on demand. */
function StageJobs({ stage, asked }: { stage: YardStage; asked: { q: string; mine: boolean } }) {
  const [all, setAll] = useState(false);
  const { data } = useStageJobsQuery({ ...asked, stage: stage.stage }, { skip: !all });
  const members = (all ? data : undefined) ?? stage.jobs;
  return (
    <section className="mb-6" aria-label={messages.stages[stage.stage]}>
      <h2 className="mb-2 flex items-baseline gap-2 text-sm font-bold text-lamp">
        {messages.stages[stage.stage]} <span className="readout text-soft">{stage.count}</span>
      </h2>
      <ul className="list-none overflow-hidden rounded-xl border border-line bg-panel p-0">
        {members.map((job) => (
          <JobRow key={job.id} job={job} />
        ))}
      </ul>
      {stage.count > stage.jobs.length && (
        <Button weight="quiet" onClick={() => setAll(!all)}>
          {all ? messages.yard.less : messages.yard.more(stage.count)}
        </Button>
      )}
    </section>
  );
}

/** Opens a job file from this device as a new job. */
function OpenFile() {
  const navigate = useNavigate();
  const [send] = useImportJobMutation();
  const open = async (file: File): Promise<void> => {
    let content: unknown;
    try {
      content = JSON.parse(await file.text());
    } catch {
      toast.error(messages.yard.notAFile(file.name));
      return;
    }
    const answer = await send(content);
    if ("error" in answer) {
      toast.error(`${file.name}: ${reasonOf(answer.error) ?? messages.states.failed}`, { duration: 12_000 });
      return;
    }
    toast.success(messages.yard.imported(file.name));
    void navigate(`/jobs/${answer.data.id}`);
  };
  return (
    <FilePick label={messages.yard.importJob} accept=".json,application/json" onFile={(file) => void open(file)}>
      <Upload size={18} aria-hidden="true" /> <span className="hidden sm:inline">{messages.yard.importJob}</span>
      <span className="sr-only sm:hidden">{messages.yard.importJob}</span>
    </FilePick>
  );
}

/** A text as it stands once nobody has typed for a moment. */
function useSettled(text: string): string {
  const [settled, setSettled] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(text), 200);
    return () => clearTimeout(timer);
  }, [text]);
  return settled;
}

/** The shop's jobs by stage, with a search over everything known of them. */
export function YardPage() {
  const [text, setText] = useState("");
  const [mine, setMine] = useState(false);
  const asked = { q: useSettled(text.trim()), mine };
  const { data: stages, error, refetch, isFetching } = useYardQuery(asked, { refetchOnMountOrArgChange: true, refetchOnFocus: true });
  const { data: shop } = useShopQuery();
  const found = (stages ?? []).filter(({ count }) => count > 0);
  const jobs = found.flatMap((stage) => stage.jobs);
  return (
    <>
      <PageHead>
        <span className="min-w-0 truncate text-soft">{shop?.name}</span>
      </PageHead>
      <main id="content" className="mx-auto w-full max-w-6xl flex-1 px-4 py-6 lg:px-6" aria-busy={isFetching}>
        <GuideOffer jobs={jobs} />
        <div className="mb-6 flex flex-wrap items-center gap-3">
          <h1 className="mr-auto text-2xl font-bold">{messages.yard.title}</h1>
          <label className="relative order-last w-full lg:order-none lg:w-80">
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
          <Chip on={mine} onChange={setMine}>
            {messages.yard.mine}
          </Chip>
          <OpenFile />
          <Link to="/jobs/new" className="flex min-h-11 items-center gap-2 rounded-xl bg-lamp px-4 font-bold text-on-lamp no-underline">
            <Plus size={18} aria-hidden="true" /> {messages.yard.newJob}
          </Link>
        </div>
        {error && !stages ? <Plain retry={() => void refetch()}>{reasonOf(error) ?? messages.states.failed}</Plain> : null}
        {!stages && !error ? <Plain>{messages.states.loading}</Plain> : null}
        {stages && found.length === 0 ? <Plain>{asked.q === "" ? messages.states.empty : messages.states.noMatch(asked.q)}</Plain> : null}
        {found.map((stage) => (
          <StageJobs key={stage.stage} stage={stage} asked={asked} />
        ))}
      </main>
    </>
  );
}
