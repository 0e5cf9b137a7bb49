import { Link } from "react-router";
import { messages } from "../../../messages";
import { TracesDesk } from "../../../trace/desk/TracesDesk";
import type { TraceAt, TracedJob } from "../../../trace/desk/traced-job";
import { Modal } from "../../../ui/Modal";

const t = messages.traces;

interface Props extends TracedJob {
  readonly at: TraceAt;
  readonly onAt: (at: TraceAt) => void;
  readonly onOpen: (open: boolean) => void;
}

/** The traces of the job over its bench: what is stored here moves the suspects behind it at once. */
export function TracesDialog({ job, state, enter, at, onAt, onOpen }: Props) {
  const page = `/jobs/${job.id}/traces${at.capture === undefined ? "" : `/${at.capture}`}`;
  return (
    <Modal open onOpen={onOpen} title={t.title} lead={t.lead} width="full">
      <TracesDesk job={job} state={state} enter={enter} at={at} onGo={(capture) => onAt({ capture })} addressOf={null}>
        <Link to={page} className="inline-flex min-h-11 items-center underline underline-offset-4">
          {t.onPage}
        </Link>
      </TracesDesk>
    </Modal>
  );
}
