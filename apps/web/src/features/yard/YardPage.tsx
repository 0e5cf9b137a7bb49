import type { JobSummary } from "@fox-lamp/language";
import { Plus, Search, Upload } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { reasonOf, useImportJobMutation, useJobsQuery, useShopQuery, useYardQuery, type YardStage } from "../../app/api";
import { settingsChanged } from "../../app/settings";
import { PageHead } from "../../app/shell";
import { useAppDispatch, useAppSelector } from "../../app/store";
import { messages } from "../../messages";
import { FilePick } from "../../ui/FilePick";
import { Button } from "../../ui/form";
import { Plain } from "../../ui/states";
import { toast } from "../../ui/toast";
import { DayView } from "./DayView";
import { Filters } from "./Filters";
import { JobRow } from "./JobRow";
import { askedOf, filtersOf, useYardView } from "./use-yard-query";

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
function StageJobs({ stage, asked }: { stage: YardStage; asked: Record<string, string> }) {
  const [all, setAll] = useState(false);
  const { data } = useJobsQuery({ ...asked, stage: stage.stage }, { skip: !all });
  const members = (all ? data : undefined) ?? stage.jobs;
  return (
    <section id={`stage-${stage.stage}`} className="mb-6 scroll-mt-4" aria-label={messages.stages[stage.stage]}>
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

/** The stages that hold jobs, with how many: on a phone the way to each of them. */
function Rail({ stages }: { stages: readonly YardStage[] }) {
  return (
    <nav aria-label={messages.yard.rail} className="-mx-4 mb-4 overflow-x-auto px-4 md:hidden">
      <ul className="m-0 flex list-none gap-2 p-0">
        {stages.map(({ stage, count }) => (
          <li key={stage} className="shrink-0">
            <a href={`#stage-${stage}`} className="flex min-h-11 items-center gap-1.5 rounded-lg border border-edge px-3 text-ink no-underline">
              {messages.stages[stage]} <span className="readout text-soft">{count}</span>
            </a>
          </li>
        ))}
      </ul>
    </nav>
  );
}

/** The field the yard is searched with; "/" goes to it from anywhere on the page. */
function SearchField({ value, onChange }: { value: string; onChange: (text: string) => void }) {
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const at = document.activeElement;
      if (
        event.key !== "/" ||
        event.ctrlKey ||
        event.metaKey ||
        at instanceof HTMLInputElement ||
        at instanceof HTMLTextAreaElement ||
        at instanceof HTMLSelectElement
      )
        return;
      event.preventDefault();
      field.current?.focus();
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, []);
  return (
    <label className="relative order-last w-full lg:order-none lg:w-80">
      <span className="sr-only">{messages.yard.search}</span>
      <Search size={18} className="absolute left-3 top-3.5 text-soft" aria-hidden="true" />
      <input
        ref={field}
        type="search"
        value={value}
        aria-keyshortcuts="/"
        onChange={(event) => onChange(event.target.value)}
        placeholder={messages.yard.search}
        className="h-11 w-full rounded-lg border border-edge bg-well pl-10 pr-3 text-ink placeholder:text-soft"
      />
    </label>
  );
}

/** The shop's jobs by stage or by day, with a search over everything known of them; what is chosen stands in the address. */
export function YardPage() {
  const [view, setView] = useYardView();
  const asked = askedOf(view, useSettled(view.q.trim()));
  const { data: stages, error, refetch, isFetching } = useYardQuery(asked, { refetchOnMountOrArgChange: true, refetchOnFocus: true });
  const { data: shop } = useShopQuery();
  const found = (stages ?? []).filter(({ stage, count }) => count > 0 && (view.stage === "" || view.stage === stage));
  const jobs = found.flatMap((stage) => stage.jobs);
  const nothing = view.q.trim() !== "" ? messages.states.noMatch(view.q.trim()) : filtersOf(view) > 0 ? messages.yard.noneLeft : messages.states.empty;
  return (
    <>
      <PageHead>
        <span className="min-w-0 truncate text-soft">{shop?.name}</span>
      </PageHead>
      <main id="content" className="mx-auto w-full max-w-6xl flex-1 px-4 py-6 lg:px-6" aria-busy={isFetching}>
        <GuideOffer jobs={jobs} />
        <div className="mb-3 flex flex-wrap items-center gap-3">
          <h1 className="mr-auto text-2xl font-bold">{messages.yard.title}</h1>
          <SearchField value={view.q} onChange={(q) => setView({ q })} />
          <OpenFile />
          <Link to="/jobs/new" className="flex min-h-11 items-center gap-2 rounded-xl bg-lamp px-4 font-bold text-on-lamp no-underline">
            <Plus size={18} aria-hidden="true" /> {messages.yard.newJob}
          </Link>
        </div>
        <Filters view={view} onView={setView} />
        {error && !stages ? <Plain retry={() => void refetch()}>{reasonOf(error) ?? messages.states.failed}</Plain> : null}
        {!stages && !error ? <Plain>{messages.states.loading}</Plain> : null}
        {view.view === "days" ? (
          <DayView asked={asked} />
        ) : (
          <>
            {stages && found.length === 0 ? <Plain>{nothing}</Plain> : null}
            {found.length > 1 && <Rail stages={found} />}
            {found.map((stage) => (
              <StageJobs key={stage.stage} stage={stage} asked={asked} />
            ))}
          </>
        )}
      </main>
    </>
  );
}
