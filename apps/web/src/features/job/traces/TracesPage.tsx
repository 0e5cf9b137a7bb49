import { useMemo } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { messages } from "../../../messages";
import { TracesDesk } from "../../../trace/desk/TracesDesk";
import type { TraceAt, TracedJob } from "../../../trace/desk/traced-job";
import { JobFrame } from "../shared/JobFrame";

const t = messages.traces;

/** Which capture the address names, and where it is looked at. */
function useTraceAt(): TraceAt {
  const { capture } = useParams();
  const [search] = useSearchParams();
  return useMemo(() => {
    const [from, to] = [search.get("from"), search.get("to")];
    return {
      capture,
      stretch: from === null || to === null ? undefined : { from: Number(from), to: Number(to) },
      beside: search.get("with") ?? undefined,
      again: search.get("again") ?? undefined,
    };
  }, [capture, search]);
}

function OnPage(work: TracedJob) {
  const at = useTraceAt();
  const navigate = useNavigate();
  const addressOf = (capture: string): string => `/jobs/${work.job.id}/traces/${capture}`;
  return (
    <TracesDesk {...work} at={at} onGo={(capture) => void navigate(addressOf(capture))} addressOf={addressOf}>
      <div>
        <h1 className="m-0 text-2xl font-bold">{t.title}</h1>
        <p className="m-0 text-soft">{t.lead}</p>
      </div>
    </TracesDesk>
  );
}

/** The traces of a job, on a page of their own. */
export function TracesPage() {
  return <JobFrame here="bench">{({ job, state, enter }) => <OnPage job={job} state={state} enter={enter} />}</JobFrame>;
}
